/** What one photo cannot give that the brief asks. */
import { type Brief, type ResolvedBrief, resolveBrief } from "../../brief";
import { planGeometry } from "../../geometry";
import type { Size } from "../../photo";
import { formatSize } from "../../units";
import type { Choice, Disagreement } from "./types";

export function photoDisagreements(brief: Brief, resolved: ResolvedBrief, photo: Size): Disagreement[] {
  try {
    planGeometry(resolved, photo);
    return [];
  } catch (error) {
    if (!(error instanceof Error) || error.name !== "GeometryError") throw error;
  }
  const works = (change: Partial<Brief>): boolean => {
    try {
      planGeometry(resolveBrief({ ...brief, ...change }), photo);
      return true;
    } catch {
      return false;
    }
  };
  const size = formatSize(photo.width, photo.height);
  const choices: Choice[] = [];
  if (works({ enlarge: "allow" })) {
    choices.push({ label: "Allow enlarging", effect: "pixels are made up", change: { enlarge: "allow" } });
    return [
      {
        clauses: ["enlarge"],
        why: `The photo has ${size} px, more are asked, and enlarging is ruled out.`,
        wins: "No file can be made until you choose.",
        choices,
      },
    ];
  }
  if (works({ frame: "fill" }))
    choices.push({ label: "Cut it to shape", effect: "part of the photo goes", change: { frame: "fill" } });
  if (works({ frame: "pad" }))
    choices.push({ label: "Add background", effect: "the whole photo stays", change: { frame: "pad" } });
  return [
    {
      clauses: ["frame"],
      why: `The whole photo (${size} px) has another shape than the asked sides.`,
      wins: "No file can be made until you choose.",
      choices,
    },
  ];
}
