/**
 * Shares a limit on the whole among photos in one process: asks for the trials that are wanted until all is
 * settled.
 */
import {
  bestSide,
  nextSide,
  type Pick,
  Share,
  type ShareAnswer,
  type SharedPhoto,
  type Traced,
  type Tried,
  type Wanted,
  type Whole,
} from "@/core/budget";
import { PLAIN } from "@/core/difference";

export interface ShareOutTask {
  /** By id. */
  ids: readonly string[];
  whole: Whole;
  aim: "clean" | "best";
  binds?: boolean;
  /** Makes the wanted trials of one photo. */
  trace: (id: string, side: number | null, before: Traced | null, wanted: Wanted | null) => Promise<Traced>;
  /** Photos that are worked on at a time. */
  atOnce: number;
}

export interface SharedOut {
  /** Null where each file is made as if it were alone. */
  picks: Map<string, Pick> | null;
  traced: Map<string, Traced>;
  level: number;
  /**
   * Where it cannot be met: the coarsest files that are still offered, and by how much they are too large.
   */
  cannot: { picks: Pick[]; total: number; over: number } | null;
}

export const photosOf = (traced: ReadonlyMap<string, Traced>): SharedPhoto[] =>
  [...traced].map(([id, one]) => ({ ...one, id }));

export async function shareOut(task: ShareOutTask): Promise<SharedOut> {
  const tried: (Tried & { answer: ShareAnswer; traced: Map<string, Traced> })[] = [];
  for (let side: number | null = null; ; ) {
    if (side !== null && !(await worthIt(task, side, tried))) break;
    const { answer, traced } = await settle(task, side);
    if (answer.kind === "own") return { picks: null, traced, level: answer.level, cannot: null };
    const level = answer.kind === "shared" ? answer.level : null;
    tried.push({ side, level, total: answer.kind === "trials" ? 0 : answer.total, answer, traced });
    const longest = Math.max(...[...traced.values()].map(({ full }) => Math.max(full.width, full.height)));
    const free = [...traced.values()].some((one) => one.free);
    side = free ? nextSide(tried, longest, task.whole.max) : null;
    if (side === null) break;
  }
  const best = bestSide(tried);
  const chosen = tried.find((one) => one.side === (best ?? tried[0]).side)!;
  if (chosen.answer.kind !== "shared") {
    const { answer } = chosen;
    return {
      picks: null,
      traced: chosen.traced,
      level: 0,
      cannot: answer.kind === "cannot" ? answer : { picks: [], total: 0, over: 0 },
    };
  }
  return {
    picks: new Map(chosen.answer.picks.map((pick) => [pick.id, pick])),
    traced: chosen.traced,
    level: chosen.answer.level,
    cannot: null,
  };
}

/** The quality at which hardly anything but the lost pixels is seen. */
const FINEST = 92;

/**
 * Fewer pixels gain nothing once one photo shows their loss more than all show the coarser coding of more of
 * them.
 */
async function worthIt(task: ShareOutTask, side: number, tried: readonly Tried[]): Promise<boolean> {
  const best = Math.min(PLAIN, ...tried.map((one) => one.level ?? PLAIN));
  for (const id of task.ids) {
    const probe = await task
      .trace(id, side, null, { id, level: PLAIN, qualities: [FINEST] })
      .catch(() => null);
    if (
      probe &&
      Math.min(...probe.points.map((point) => point.difference), probe.whole?.difference ?? Infinity) > best
    )
      return false;
  }
  return true;
}

async function settle(
  task: ShareOutTask,
  side: number | null,
): Promise<{ answer: ShareAnswer; traced: Map<string, Traced> }> {
  const traced = new Map<string, Traced>();
  await each(
    task.ids.map((id) => ({ id })),
    task,
    side,
    traced,
  );
  for (;;) {
    const answer = new Share({
      photos: photosOf(traced),
      whole: task.whole,
      aim: task.aim,
      binds: task.binds,
    }).answer();
    if (answer.kind !== "trials") return { answer, traced };
    await each(answer.wanted, task, side, traced);
  }
}

async function each(
  wanted: (Wanted | { id: string })[],
  task: ShareOutTask,
  side: number | null,
  traced: Map<string, Traced>,
): Promise<void> {
  const waiting = [...wanted];
  const lane = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      try {
        traced.set(
          next.id,
          await task.trace(next.id, side, traced.get(next.id) ?? null, "level" in next ? next : null),
        );
      } catch {
        // A photo that is damaged, or cannot take the pixels, has no part in the whole; making its file says
        // why.
        traced.delete(next.id);
      }
    }
  };
  await Promise.all(Array.from({ length: task.atOnce }, lane));
}
