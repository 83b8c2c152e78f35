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
import { CLEAN } from "../difference";
import { bestSide, foretoldLevel, foretoldSide, nextSide, type Tried } from "./fewer";
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
  /** See {@link SharedPhoto}. */
  alone?: number;
}

export interface Known {
  aim: ShareTask["aim"];
  binds?: boolean;
  /** See {@link ShareTask}. */
  probes?: number;
  /** Those that take part, at least one. */
  photos: readonly KnownPhoto[];
  whole: Whole;
}

/**
 * Trials of one photo at a common side; null for `trials` asks only what can be told without any. `bytes`: its
 * sample is to foretell which pixels differ least at about so many.
 */
export interface TraceAsked {
  id: string;
  side: number | null;
  trials: { level: number; qualities: number[] } | null;
  bytes?: number;
}

export type BudgetAnswer = { state: BudgetState } & (
  | { kind: "trials"; trials: TraceAsked[] }
  /** The limit does not bind: each file is made as if it were alone. */
  | { kind: "own"; level: number }
  /** Files of these photos are to be made as if they were alone. */
  | { kind: "alone"; ids: string[] }
  /** One pick a photo, at this common side. */
  | { kind: "shared"; side: number | null; picks: Pick[]; total: number; level: number }
  /** Even where loss is plain to see the whole is too large: the coarsest files, and by how much. */
  | { kind: "cannot"; side: number | null; picks: Pick[]; total: number; over: number }
);

export const sideKey = (side: number | null): string => (side === null ? "all" : String(side));

/** Bytes a pixel from which on photographs are likely clean with all pixels: then those are tried first. */
const LIKELY = 0.3;

const at = ({ traced }: KnownPhoto, side: number | null): Traced | undefined => traced?.[sideKey(side)];

/** What to do next. Pure: the same state and knowledge give the same answer. */
export function next(state: BudgetState, known: Known): BudgetAnswer {
  const { side, tried } = state;
  const missing = known.photos.filter((photo) => !at(photo, side));
  if (missing.length) return side === null ? look(state, missing) : begin(state, known);
  // Settled before, and waited for samples of photos that show which side is next.
  if (tried.some((one) => one.side === side)) return follow(tried, known);
  if (side === null && choosesPixels(known)) {
    const sampled = foretold(state, known);
    if (sampled !== null) return sampled;
  }
  const answer = shareAt(side, known);
  if (answer.kind === "trials") {
    const trials = answer.wanted.map(({ id, ...asked }) => ({ id, side, trials: asked }));
    return { kind: "trials", trials, state };
  }
  if (answer.kind === "own" || answer.kind === "alone") return { ...answer, state };
  const level = answer.kind === "shared" ? answer.level : null;
  const all = [...tried, { side, level, total: answer.total }];
  return follow(all, known);
}

const look = (state: BudgetState, missing: readonly KnownPhoto[]): BudgetAnswer => ({
  kind: "trials",
  trials: missing.map(({ id }) => ({ id, side: state.side, trials: null })),
  state,
});

function begin(state: BudgetState, { photos }: Known): BudgetAnswer {
  const level = foretoldLevel(photos.flatMap((photo) => at(photo, null)!.ideal ?? []));
  const missing = photos.filter((photo) => !at(photo, state.side));
  const trials = missing.map(({ id }) => ({ id, side: state.side, trials: { level, qualities: [] } }));
  return { kind: "trials", trials, state };
}

/** Whether pixels are free, the limit binds, and all pixels are not likely clean under it. */
function choosesPixels(known: Known): boolean {
  const { photos, whole, binds } = known;
  const all = photos.map((photo) => at(photo, null)!);
  if (!all.some(({ free, arm }) => free && arm)) return false;
  const own = all.every((one) => one.whole)
    ? all.reduce((sum, one) => sum + whole.each(one.whole!.bytes), whole.fixed)
    : Infinity;
  if (!binds && own <= whole.max) return false;
  const pixels = all.reduce((sum, { full }) => sum + full.width * full.height, 0);
  return whole.max / pixels < LIKELY;
}

/** The side that samples foretell, asking for those that are missing; null for all pixels. */
function foretold(state: BudgetState, known: Known): BudgetAnswer | null {
  const { photos, whole } = known;
  const room = fileBytes(whole, whole.max - whole.fixed);
  const missing = photos.filter((photo) => canChoose(photo) && !at(photo, null)!.ideal);
  const bytes = Math.round(room / photos.length);
  if (missing.length)
    return {
      kind: "trials",
      trials: missing.map(({ id }) => ({ id, side: null, trials: null, bytes })),
      state,
    };
  const ideals = photos.filter(canChoose).map((photo) => at(photo, null)!.ideal!);
  const side = foretoldSide(ideals, longestOf(photos), (room * ideals.length) / photos.length);
  return side === null ? null : next({ ...state, side }, known);
}

const canChoose = (photo: KnownPhoto): boolean => {
  const { free, arm } = at(photo, null)!;
  return free && arm !== null;
};

/** Bytes of files that fit into so many of the whole, which counts each file with what is around it. */
const fileBytes = ({ each }: Whole, bytes: number): number => (bytes * bytes) / Math.max(1, each(bytes));

const longestOf = (photos: readonly KnownPhoto[]): number =>
  Math.max(
    ...photos.map((photo) => at(photo, null)!.full).map(({ width, height }) => Math.max(width, height)),
  );

/** After a side was settled: another that may look better, or the best of those that were tried. */
function follow(tried: readonly Tried[], known: Known): BudgetAnswer {
  const { photos, whole } = known;
  const last = tried[tried.length - 1];
  const state = { side: last.side, tried };
  const done = last.side === null && last.level !== null && last.level <= CLEAN;
  if (done || !photos.some(canChoose)) return decide(state, known);
  const ideals = photos.flatMap((photo) => at(photo, null)!.ideal ?? []);
  if (last.side === null && !ideals.length) return foretold(state, known) ?? decide(state, known);
  const longest = longestOf(photos);
  const view = Math.max(...ideals.map((ideal) => ideal.view));
  const further = nextSide(tried, { longest, view, max: whole.max });
  return further === null ? decide(state, known) : next({ side: further, tried }, known);
}

function decide(state: BudgetState, known: Known): BudgetAnswer {
  const { tried } = state;
  const best = bestSide(tried);
  // Where loss would be plain to see at any side: what is missing is told of the one that took too many bytes.
  const { side } = best ?? tried.find(({ level }) => level === null) ?? tried[tried.length - 1];
  const answer = shareAt(side, known);
  // Together they fit: what is coarser than plain to see is so by its own file's ceiling.
  if (answer.kind === "shared") return { ...answer, side, state };
  // Nothing that was settled before is foretold any more, so no trials are asked for here.
  if (answer.kind !== "cannot") throw new Error(`a settled share answers ${answer.kind}`);
  return { ...answer, side, state };
}

function shareAt(side: number | null, { photos, ...task }: Known): ShareAnswer {
  // With fewer pixels than the brief allows no file is as if it were alone.
  const binds = task.binds || side !== null;
  return new Share({ ...task, binds, photos: photosAt(photos, side) }).answer();
}

/** The photos as they are known at a common side. */
const photosAt = (photos: readonly KnownPhoto[], side: number | null): SharedPhoto[] =>
  photos.map(({ alone, ...photo }) => ({ ...at(photo, side)!, id: photo.id, alone }));
