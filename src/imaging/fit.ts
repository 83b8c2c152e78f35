/**
 * One photo through one brief, the sentence of the stations:
 * source → planned → candidates → chosen → written; what was written is then proved from disk.
 */

import { type Brief, clauseNames, clauseWords, WISHES_GIVEN_UP } from "@/core/brief";
import { CLEAN, type Pixels, type Seen } from "@/core/difference";
import { GeometryError } from "@/core/photo";
import { cannot, type FitAnswer, unplanned } from "./answer";
import { Candidates, type Judging } from "./candidates";
import { type Chosen, type FitRequest, waysFor } from "./chosen";
import type { PlannedPhoto } from "./planned";
import { type Written, writeFile } from "./written";

/**
 * Plans and makes the file in memory. Wishes that the photo cannot have are given up one by one, the dearest
 * last. Throws for damage to the photo, or what `signal` was aborted with.
 */
export async function fitPhoto(request: FitRequest): Promise<FitAnswer> {
  const first = await fitAsAsked(request);
  if (first.error === null) return first;
  let { brief } = request;
  for (const clause of WISHES_GIVEN_UP) {
    if (!brief.wishes?.includes(clause) || brief[clause] === undefined) continue;
    brief = { ...brief, [clause]: undefined };
    const answer = await fitAsAsked({ ...request, brief });
    if (answer.error === null) return gaveWay(answer, first, { asked: request.brief, left: brief });
  }
  return first;
}

async function fitAsAsked(request: FitRequest): Promise<FitAnswer> {
  try {
    for (const way of waysFor(request)) {
      const planned = await way.plan();
      if (!planned) continue;
      const candidates = new Candidates(planned, request);
      const chosen = await way.choose(candidates);
      if (!chosen) continue;
      if (chosen.kind === "cannot") return cannot(planned, chosen);
      const written = await writeFile(candidates, chosen);
      return { ...told(planned, chosen, written), ...(await seen(candidates, written, request.judging)) };
    }
    throw new Error("no way serves this photo");
  } catch (error) {
    if (error instanceof GeometryError) return unplanned(request, error.message);
    throw error;
  }
}

export function told(
  { frame, ink, notes }: PlannedPhoto,
  chosen: Chosen,
  { file, ...written }: Written,
): Omit<FitAnswer, "difference" | "judge"> {
  return {
    ...written,
    output: file,
    error: null,
    frame,
    ink: written.passedThrough ? null : ink,
    elsewise: chosen.elsewise ?? false,
    encodes: chosen.encodes,
    notes: [...notes, ...chosen.notes, ...written.notes],
  };
}

/** The difference where it is known, else how it is told of the written pixels, as much as the caller asks. */
async function seen(
  candidates: Candidates,
  { setting, geometry, difference }: Written,
  judging: Judging = "whole",
): Promise<Pick<FitAnswer, "difference" | "judge">> {
  if (difference !== null || !setting || judging === "none") return { difference, judge: null };
  const picture = candidates.at(geometry, setting.format);
  const before = await candidates.judgedBefore(picture, setting);
  if (before) return { difference: before.difference, judge: null };
  const judge = async (pixels: Pixels): Promise<Seen> => {
    const sampled = judging === "sample" ? await candidates.sampled(picture, pixels) : null;
    if (sampled !== null && Math.abs(sampled - CLEAN) > DOUBT) return { difference: sampled, about: true };
    return { difference: (await candidates.judge(picture, setting, pixels)).difference, about: false };
  };
  return { difference: null, judge };
}

/** A sample that comes so near to what is clean leaves a doubt: then the whole is looked at. */
const DOUBT = 0.05;

function gaveWay(answer: FitAnswer, first: FitAnswer, briefs: { asked: Brief; left: Brief }): FitAnswer {
  const { asked, left } = briefs;
  const lost = WISHES_GIVEN_UP.filter((key) => asked[key] !== undefined && left[key] === undefined);
  const words = lost.map((key) => `${clauseNames[key].toLowerCase()} ${clauseWords(asked, key)}`).join(", ");
  const note = `The wish for ${words} gave way: ${first.error}`;
  return { ...answer, notes: [...answer.notes, note], encodes: answer.encodes + first.encodes };
}
