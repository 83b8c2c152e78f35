/** The head of a portrait against the marks that a person has set. */
import { type Brief, clauseWords, type ResolvedBrief } from "../brief";
import { type HeadFound, headOf, headWithin, paperHeight, sharesOf } from "../geometry";
import { aimedSize, CENTRED, type Frame, type Size } from "../photo";
import { trimNumber } from "../units";
import type { Check } from "./check";

export interface HeadTask {
  brief: Brief;
  resolved: ResolvedBrief;
  /** Of the file, or of what it will be. */
  facts: Size & { resolution: readonly [number, number] | null };
  /** The upright photo; null where only the file is known. */
  before?: Size | null;
  frame?: Frame;
}

/** Held against the marks that a person has set; without them nothing is claimed. */
export function checkHead({ brief, resolved, facts, before = null, frame = CENTRED }: HeadTask): Check {
  const check = { clause: "head" as const, asked: clauseWords(brief, "head")!, gaveWay: false };
  if (!before || !frame.marks) return { ...check, found: "not marked yet", ok: null };
  const { head } = resolved;
  const paper = paperHeight(resolved, aimedSize(before, frame), facts) ?? onPaper(facts);
  let found: HeadFound;
  try {
    found = headOf(resolved, before, frame, facts);
  } catch (error) {
    return { ...check, found: error instanceof Error ? error.message : String(error), ok: false };
  }
  const height = sharesOf(head!.height, paper);
  const eyes = sharesOf(head!.eyes, paper);
  // A length cannot be held against a picture of no size on paper.
  if ((head!.height && !height) || (head!.eyes && !eyes))
    return { ...check, found: "no size on paper to measure it by", ok: null, gaveWay: true };
  if (eyes && found.eyes === null) return { ...check, found: "the eyes are not marked yet", ok: null };
  if (found.cut > 0.5 / facts.height)
    return { ...check, found: `${headWords(found, paper)}: it is cut off`, ok: false };
  const ok =
    (!height || headWithin(height, found.height, facts)) && (!eyes || headWithin(eyes, found.eyes!, facts));
  return { ...check, found: headWords(found, paper), ok };
}

const onPaper = ({ height, resolution }: HeadTask["facts"]): number | null =>
  resolution ? height / resolution[1] : null;

function headWords({ height, eyes }: HeadFound, paper: number | null): string {
  const at = (share: number) => {
    const percent = `${trimNumber(share * 100, 1)} %`;
    return paper ? `${trimNumber(share * paper * 25.4, 1)} mm (${percent})` : percent;
  };
  return `${at(height)} high${eyes === null ? "" : `, eyes at ${at(eyes)}`}, as marked by you`;
}
