/** Ways out where a limit on the whole cannot be met. */
import type { Brief } from "../brief";
import { pixelShare } from "./fewer";
import type { Pick } from "./photo";
import type { Whole } from "./share";

export type Offer =
  /** A ceiling on the long side of every photo, in px; about, since nothing was made at it yet. */
  | { kind: "pixels"; side: number }
  | { kind: "messages"; count: number }
  /** The photos that weigh most; without them the others fit. */
  | { kind: "photos"; ids: string[] }
  /** Bytes that the limit would have to be. */
  | { kind: "limit"; bytes: number };

export interface OfferTask {
  brief: Brief;
  whole: Whole;
  counted: "files" | "mail";
  /** The coarsest files that are still offered. */
  picks: readonly Pick[];
  /** `size`: the pixels that those files have. */
  photos: readonly { size: { width: number; height: number } }[];
  /** Messages that are allowed now. */
  messages: number;
}

/** No more messages than this are offered. */
const MOST_MESSAGES = 20;
/**
 * Between clean and plain to see: what an offer of fewer pixels aims at, as a share of the bytes at plain to
 * see.
 */
const ROOM_TO_LOOK_WELL = 1.35;
const LEAST_SIDE = 240;
/** Of several messages, the share of their room that files are made to fill. */
const FILLED = 0.96;
/** A raised limit has to hold whichever trials come to be made under it. */
const SURELY = 1.04;

export function offersFor(task: OfferTask): Offer[] {
  const { whole, picks, counted, messages } = task;
  const sizes = picks.map((pick) => whole.each(pick.bytes));
  const total = sizes.reduce((sum, size) => sum + size, whole.fixed);
  const out: Offer[] = [];
  const side = fewerPixels(task, total);
  if (side !== null) out.push({ kind: "pixels", side });
  if (counted === "mail" && whole.max > 0) {
    const one = whole.max / messages;
    const count = messagesFor(
      sizes,
      one - whole.fixed,
      Math.max(messages + 1, Math.ceil((total * 1.02) / one)),
    );
    if (count <= MOST_MESSAGES && Math.max(...sizes) + whole.fixed <= one)
      out.push({ kind: "messages", count });
  }
  const ids = heaviest(picks, sizes, total - whole.max);
  if (ids.length && ids.length < picks.length) out.push({ kind: "photos", ids });
  out.push({ kind: "limit", bytes: Math.ceil(total * SURELY) });
  return out;
}

/**
 * Messages that are enough, from `least` on. With more of them files are coded more finely and take what there
 * is: they have to find room then, too.
 */
function messagesFor(sizes: readonly number[], room: number, least: number): number {
  const all = sizes.reduce((sum, size) => sum + size, 0);
  let count = least;
  for (; count < sizes.length; count += 1) {
    const growth = Math.max(1, (count * room * FILLED) / all);
    if (
      bins(
        sizes.map((size) => Math.min(room, size * growth)),
        room,
      ) <= count
    )
      break;
  }
  return count;
}

/** Messages that hold files of these sizes, filled with the largest first, each where it still fits. */
function bins(sizes: readonly number[], room: number): number {
  const left: number[] = [];
  for (const size of [...sizes].sort((a, b) => b - a)) {
    const at = left.findIndex((free) => free >= size);
    if (at < 0) left.push(room - size);
    else left[at] -= size;
  }
  return left.length;
}

/**
 * The longest side for all at which the whole is expected to fit; null where the brief says the pixels
 * otherwise.
 */
function fewerPixels({ brief, whole, photos }: OfferTask, total: number): number | null {
  const fixed =
    (["width", "height", "shortSide", "sizes", "box", "scale", "paper"] as const).some(
      (key) => brief[key] !== undefined,
    ) || brief.longSide?.exact !== undefined;
  if (fixed && brief.longSide?.exact === undefined) return null;
  const longest = Math.max(...photos.map(({ size }) => Math.max(size.width, size.height)));
  // Photos below the side stay as they are, so it is looked for rather than worked out.
  const pixels = photos.map(({ size }) => ({
    long: Math.max(size.width, size.height),
    area: size.width * size.height,
  }));
  const all = pixels.reduce((sum, one) => sum + one.area, 0);
  const share = pixelShare(whole.max - whole.fixed, (total - whole.fixed) * ROOM_TO_LOOK_WELL);
  let side = longest;
  while (
    side > LEAST_SIDE &&
    pixels.reduce((sum, one) => sum + one.area * Math.min(1, side / one.long) ** 2, 0) > all * share
  )
    side = Math.floor(side * 0.98);
  const rounded = Math.floor(side / 10) * 10;
  const least = brief.longSide?.min ?? 0;
  return rounded >= Math.max(LEAST_SIDE, least) && rounded < longest ? rounded : null;
}

function heaviest(picks: readonly Pick[], sizes: readonly number[], over: number): string[] {
  const order = picks.map((_, i) => i).sort((a, b) => sizes[b] - sizes[a]);
  const out: string[] = [];
  let left = over;
  for (const i of order) {
    if (left <= 0) break;
    out.push(picks[i].id);
    left -= sizes[i];
  }
  return out;
}
