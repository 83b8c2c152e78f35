/** One photo through a brief that asks a set: planned once, each file made and judged by itself. */
import { type Brief, resolveBrief } from "@/core/brief";
import { planGeometry } from "@/core/geometry";
import type { Frame } from "@/core/photo";
import { alikeNotes, idleNotes, partBrief, planSet, type SetPart, withoutSet } from "@/core/plan/set";
import type { FitAnswer } from "./answer";
import type { FitRequest } from "./chosen";
import { fitPhoto } from "./fit";
import { LargestPicture, planPhoto } from "./planned";

/** Widths that are worked on at a time: most of the time is spent in encoders of one thread. */
const AT_ONCE = 2;

/** A setting is looked for each file by itself, and sets share no limit. */
export type SetRequest = Omit<FitRequest, "choice" | "share" | "planned" | "pictures" | "largest">;

export interface SetAnswer {
  /** The frame that is used for all: a proposed one where nobody has set it. */
  frame: Frame;
  /** The widest first. */
  files: { part: SetPart; brief: Brief; answer: FitAnswer }[];
  /** What is told of the set as a whole. */
  notes: string[];
}

/** Throws a GeometryError where the photo cannot take what is asked, a PhotoError where it is damaged. */
export async function fitSet(request: SetRequest): Promise<SetAnswer> {
  const { brief } = request;
  const whole = await planPhoto({ ...request, brief: withoutSet(brief) });
  const { frame, source } = whole;
  const { parts, notes } = planSet(brief, source.facts, frame);
  const briefs = parts.map((part) => partBrief(brief, part));
  // Settled here for all: none looks for a frame of its own.
  const settled = { ...frame, auto: undefined };
  const geometry = planGeometry(resolveBrief(briefs[0]), source.facts, settled);
  const largest = new LargestPicture(source, geometry);
  const files = new Array<SetAnswer["files"][number]>(parts.length);
  const ofWidth = async (width: number): Promise<void> => {
    // What every browser knows comes first: a newer format is only of use where it takes fewer bytes.
    let softCeiling: number | undefined;
    for (const [i, part] of parts.entries()) {
      if (part.width !== width) continue;
      const answer = await fitPhoto({ ...request, brief: briefs[i], frame: settled, largest, softCeiling });
      if (answer.output) softCeiling ??= answer.output.length;
      files[i] = { part, brief: briefs[i], answer };
    }
  };
  const widths = new Set(parts.map(({ width }) => width)).values();
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      for (const width of widths) await ofWidth(width);
    }),
  );
  const made = files.flatMap(({ part, answer: { output } }) =>
    output ? [{ ...part, bytes: output.length }] : [],
  );
  return { frame, files, notes: [...notes, ...idleNotes(made), ...alikeNotes(made)] };
}
