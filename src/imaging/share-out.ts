/** Shares a limit on the whole among photos in one process: makes the trials that are asked until all is settled. */
import {
  BEGIN,
  type BudgetAnswer,
  type Known,
  next,
  sideKey,
  type TraceAsked,
  type Traced,
} from "@/core/budget";

export interface ShareOutTask extends Omit<Known, "photos" | "probes"> {
  /** By id. */
  ids: readonly string[];
  /** Makes the trials that are asked of one photo; what it throws leaves the photo out. */
  trace: (asked: TraceAsked, before: Traced | null) => Promise<Traced>;
  /** Photos that are worked on at a time. */
  atOnce: number;
}

export interface SharedOut {
  answer: Exclude<BudgetAnswer, { kind: "trials" | "alone" }>;
  /** What is known of each photo that took part, by common side. */
  traced: Map<string, Record<string, Traced>>;
}

export async function shareOut({ ids, trace, atOnce, ...task }: ShareOutTask): Promise<SharedOut> {
  const traced = new Map<string, Record<string, Traced>>(ids.map((id) => [id, {}]));
  let state = BEGIN;
  for (;;) {
    const photos = [...traced].map(([id, known]) => ({ id, traced: known }));
    const answer: BudgetAnswer = photos.length
      ? next(state, { ...task, photos })
      : { kind: "own", level: 0, state };
    // Only a driver that names probes is asked for this.
    if (answer.kind === "alone") throw new Error("no file is made before the whole is shared out");
    if (answer.kind !== "trials") return { answer, traced };
    state = answer.state;
    const waiting = [...answer.trials];
    const lane = async () => {
      for (let one = waiting.shift(); one; one = waiting.shift()) await add(one, traced, trace);
    };
    await Promise.all(Array.from({ length: atOnce }, lane));
  }
}

async function add(
  asked: TraceAsked,
  traced: SharedOut["traced"],
  trace: ShareOutTask["trace"],
): Promise<void> {
  const known = traced.get(asked.id)!;
  const key = sideKey(asked.side);
  try {
    known[key] = await trace(asked, known[key] ?? null);
  } catch {
    // A photo that is damaged, or cannot take the pixels, has no part in the whole; making its file says why.
    traced.delete(asked.id);
  }
}
