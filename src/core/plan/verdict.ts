/** The verdict of a row, with its reason in a few words. */
import type { Geometry } from "../geometry";
import type { Check } from "../proof";
import { trimNumber } from "../units";

export interface Verdict {
  state: "meets" | "needs" | "cannot";
  reason: string;
}

/** From this share of the area on, a cut that nobody has looked at is asked about. */
export const CUT_TO_CHECK = 0.2;
/** From this factor on, enlarging is asked about. */
const ENLARGED_TO_CHECK = 1.25;

/** What a portrait waits for whose head is asked. */
export const MARK_HEAD = "mark crown and chin";

export interface VerdictInput {
  error: string | null;
  geometry: Geometry | null;
  checks: readonly Check[];
  passedThrough: boolean;
  told: readonly string[];
  /** Whether a person has said that the frame is right. */
  accepted: boolean;
  /** A drawing has no pixels of its own: none are made up. */
  drawn?: boolean;
  /** What was found out about ink, where the brief asks for it. */
  ink?: { touches: boolean; groups: number } | null;
}

export function verdictOf({
  error,
  geometry,
  checks,
  passedThrough,
  told,
  accepted,
  drawn,
  ink,
}: VerdictInput): Verdict {
  if (error) return { state: "cannot", reason: error };
  const failed = checks.find((check) => check.ok === false);
  if (failed)
    return { state: "cannot", reason: `${failed.clause}: asked ${failed.asked}, found ${failed.found}` };
  if (!accepted && checks.some(({ clause, ok, gaveWay }) => clause === "head" && ok === null && !gaveWay))
    return { state: "needs", reason: MARK_HEAD };
  if (geometry && !accepted && !passedThrough) {
    if (geometry.scale >= ENLARGED_TO_CHECK && !drawn)
      return { state: "needs", reason: `${trimNumber(geometry.scale, 1)} × enlarged: pixels are made up` };
    if (geometry.cut >= CUT_TO_CHECK) return { state: "needs", reason: "check the frame" };
    if (ink?.touches) return { state: "needs", reason: "the ink touches the edge" };
    if (ink && ink.groups > 1) return { state: "needs", reason: `${ink.groups} groups of strokes` };
    if (geometry.mode === "stretch") return { state: "needs", reason: "it is distorted" };
  }
  const yielded = checks.filter((check) => check.gaveWay).length;
  if (yielded)
    return { state: "meets", reason: yielded === 1 ? "one clause gave way" : `${yielded} clauses gave way` };
  if (passedThrough) return { state: "meets", reason: "as it is" };
  if (told.some((t) => t.startsWith("filled up")))
    return { state: "meets", reason: "filled up to the floor" };
  return { state: "meets", reason: "" };
}
