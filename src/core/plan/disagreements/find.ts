/** Disagreements of a brief with itself, and with a photo. */
import { type Brief, resolveBrief } from "../../brief";
import type { Size } from "../../photo";
import { boundDisagreements } from "./bounds";
import { densityDisagreements } from "./density";
import { dotScreenDisagreements } from "./dot-screen";
import { formatDisagreements } from "./formats";
import { headDisagreements } from "./head";
import { photoDisagreements } from "./photo";
import { setDisagreements } from "./set";
import { shapeDisagreements } from "./shape";
import type { Disagreement } from "./types";
import { weightDisagreements } from "./weight";

/**
 * What in a brief contradicts itself; with a photo also what that photo cannot give. Empty where all can
 * hold together.
 * `dotScreen`: the period in px of a dot screen in the photo that beats with the new pixels. `clean`: the
 * photo's file was made, meets the brief and shows no loss, so that no estimate of weights is worth a word.
 */
export function findDisagreements(
  brief: Brief,
  photo: Size | null = null,
  dotScreen: number | null = null,
  clean = false,
): Disagreement[] {
  const resolved = resolveBrief(brief);
  // A set has pixels of its own: what else fixes them is told once, not held against itself and the photo as well.
  if (brief.set) return [...setDisagreements(brief), ...headDisagreements(resolved)];
  const shapes = shapeDisagreements(brief, resolved);
  return [
    ...shapes,
    // Three numbers that are of two shapes have no common resolution either; that is said once.
    ...(shapes.some((d) => d.clauses.includes("paper")) ? [] : densityDisagreements(brief, resolved)),
    ...boundDisagreements(brief, resolved, photo),
    ...(clean ? [] : weightDisagreements(brief, resolved, photo)),
    ...formatDisagreements(brief),
    ...headDisagreements(resolved),
    ...(photo ? photoDisagreements(brief, resolved, photo) : []),
    ...dotScreenDisagreements(dotScreen),
  ];
}
