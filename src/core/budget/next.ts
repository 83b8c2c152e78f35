/**
 * A limit on the whole, settled step by step: what is known of the photos goes in, and out comes which trials
 * to make next, or that it is settled, or that it cannot be. Nothing is remembered here: whoever drives it
 * keeps the state, makes the trials in any order and at any pace, and asks again.
 *
 *     let state = BEGIN;
 *     for (;;) {
 *       const answer = next(state, known);
 *       if (answer.kind !== "trials") return answer;
 *       state = answer.state;
 *       await make(answer.trials); // adds to `known`; a photo that fails is left out of it
 *     }
 */
import { PLAIN } from "../difference";
import { bestSide, nextSide, type Tried } from "./fewer";
import type { Pick, SharedPhoto, Traced } from "./photo";
import { Share, type ShareAnswer, type ShareTask, type Whole } from "./share";

/** What has been found out about common numbers of pixels. */
export interface BudgetState {
  /** The common long side that is being settled, in px; null for as many pixels as the brief allows. */
  side: number | null;
  tried: readonly Tried[];
}

export const BEGIN: BudgetState = { side: null, tried: [] };

/** A photo with what is known of it, by {@link sideKey}. */
export interface KnownPhoto {
  id: string;
  traced: Readonly<Record<string, Traced>> | null;
}

export interface Known {
  aim: ShareTask["aim"];
  binds?: boolean;
  /** Those that take part, at least one. */
  photos: readonly KnownPhoto[];
  whole: Whole;
}

/** Trials of one photo at a common side; null for `trials` asks only what can be told without any. */
export interface TraceAsked {
  id: string;
  side: number | null;
  trials: { level: number; qualities: number[] } | null;
}

export type BudgetAnswer = { state: BudgetState } & (
  | { kind: "trials"; trials: TraceAsked[] }
  /** The limit does not bind: each file is made as if it were alone. */
  | { kind: "own"; level: number }
  /** One pick a photo, at this common side. */
  | { kind: "shared"; side: number | null; picks: Pick[]; total: number; level: number }
  /** Even where loss is plain to see the whole is too large: the coarsest files, and by how much. */
  | { kind: "cannot"; picks: Pick[]; total: number; over: number }
);

export const sideKey = (side: number | null): string => (side === null ? "all" : String(side));

/** Photos that show first whether fewer pixels can gain anything. */
const PROBES = 3;
/** The quality at which hardly anything but the lost pixels is seen. */
const FINEST = 92;

const at = ({ traced }: KnownPhoto, side: number | null): Traced | undefined => traced?.[sideKey(side)];

/** What to do next. Pure: the same state and knowledge give the same answer. */
export function next(state: BudgetState, known: Known): BudgetAnswer {
  const { side, tried } = state;
  const missing = known.photos.filter((photo) => !at(photo, side));
  if (missing.length) return side === null ? look(state, missing) : probe(state, known, missing);
  const answer = shareAt(side, known);
  if (answer.kind === "trials") {
    const trials = answer.wanted.map(({ id, ...asked }) => ({ id, side, trials: asked }));
    return { kind: "trials", trials, state };
  }
  if (answer.kind === "own") return { ...answer, state };
  const level = answer.kind === "shared" ? answer.level : null;
  const all = [...tried, { side, level, total: answer.total }];
  const further = fewer(all, known);
  return further === null ? decide({ side, tried: all }, known) : next({ side: further, tried: all }, known);
}

const look = (state: BudgetState, missing: readonly KnownPhoto[]): BudgetAnswer => ({
  kind: "trials",
  trials: missing.map(({ id }) => ({ id, side: state.side, trials: null })),
  state,
});

/** A smaller common side that may look better; null where the best is found or pixels are not free. */
function fewer(tried: readonly Tried[], { photos, whole }: Known): number | null {
  const traced = photos.map((photo) => at(photo, null)!);
  if (!traced.some((one) => one.free)) return null;
  const longest = Math.max(...traced.map(({ full }) => Math.max(full.width, full.height)));
  return nextSide(tried, longest, whole.max);
}

/**
 * Fewer pixels gain nothing once one photo shows their loss more than all show the coarser coding of more of
 * them: the busiest are tried first.
 */
function probe(state: BudgetState, known: Known, missing: readonly KnownPhoto[]): BudgetAnswer {
  const { side, tried } = state;
  const best = Math.min(PLAIN, ...tried.map((one) => one.level ?? PLAIN));
  const floors = known.photos.flatMap((photo) => {
    const traced = at(photo, side);
    return traced ? [leastOf(traced)] : [];
  });
  if (floors.some((floor) => floor > best)) return decide(state, known);
  const busiest = [...missing].sort((a, b) => weight(b) - weight(a));
  const asked = floors.length ? missing : busiest.slice(0, PROBES);
  const trials = { level: best, qualities: floors.length ? [] : [FINEST] };
  return { kind: "trials", trials: asked.map(({ id }) => ({ id, side, trials })), state };
}

const leastOf = ({ points, whole }: Traced): number =>
  Math.min(...points.map((point) => point.difference), whole?.difference ?? Infinity);

/** Bytes a pixel of the largest trial. */
function weight(photo: KnownPhoto): number {
  const traced = at(photo, null);
  if (!traced) return 0;
  const { width, height } = traced.geometry;
  return Math.max(0, ...traced.points.map((point) => point.bytes)) / (width * height);
}

function decide(state: BudgetState, known: Known): BudgetAnswer {
  const side = bestSide(state.tried)?.side ?? null;
  const answer = shareAt(side, known);
  if (answer.kind === "shared") return { ...answer, side, state };
  // Nothing that was settled before is foretold any more, so no trials are asked for here.
  if (answer.kind !== "cannot") throw new Error(`a settled share answers ${answer.kind}`);
  return { ...answer, state };
}

function shareAt(side: number | null, { photos, ...task }: Known): ShareAnswer {
  return new Share({ ...task, photos: photosAt(photos, side) }).answer();
}

/** The photos as they are known at a common side. */
export const photosAt = (photos: readonly KnownPhoto[], side: number | null): SharedPhoto[] =>
  photos.map((photo) => ({ ...at(photo, side)!, id: photo.id }));
