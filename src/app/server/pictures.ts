/**
 * Decoded pictures for the panes of Weigh: held in memory while they are looked at. Everything heavy runs on threads.
 */
import { resolveBrief } from "@/core/brief";
import type { Geometry } from "@/core/frame";
import type { Setting } from "@/core/search";
import { SPACES } from "@/core/colour";
import { decodeTrial } from "@/imaging/decode-trial";
import { destinationOf } from "@/imaging/destination";
import { readSource } from "@/imaging/facts";
import { staged } from "@/imaging/stage";
import { eightBits, type Level } from "@/imaging/levels";
import { preparePicture } from "@/imaging/prepare";
import { Workbench } from "@/imaging/workbench";
import type { loadWeighed } from "@/store/queries/weigh";
import type { Store } from "@/store/store";

type Weighed = NonNullable<Awaited<ReturnType<typeof loadWeighed>>>;

export interface Shown {
  /** See `regionOf`. */
  levels: Promise<Level>[];
  space: "srgb" | "display-p3";
}

/** Bytes of decoded pictures that are held; those looked at longest ago go first. */
const CAP = 700_000_000;
/** Pixels of the original that are shown at most; a larger one is reduced to this for its pane. */
const MOST_ORIGINAL = 64_000_000;

const held = new Map<string, { shown: Promise<Shown>; bytes: number }>();

function remembered(key: string, make: () => Promise<Shown>): Promise<Shown> {
  const known = held.get(key);
  if (known) {
    held.delete(key);
    held.set(key, known);
    return known.shown;
  }
  const entry = { shown: make(), bytes: 0 };
  held.set(key, entry);
  entry.shown
    .then(async ({ levels }) => {
      entry.bytes = (await levels[0]).data.length * 1.34;
      let sum = [...held.values()].reduce((all, one) => all + one.bytes, 0);
      for (const [old, one] of held) {
        if (sum <= CAP || old === key) break;
        sum -= one.bytes;
        held.delete(old);
      }
    })
    .catch(() => held.delete(key));
  return entry.shown;
}

/** The planned picture before it is encoded. */
export const referencePicture = (store: Store, row: Weighed, geometry: Geometry): Promise<Shown> =>
  remembered(`${row.id} reference ${JSON.stringify(geometry)}`, async () => {
    const { bench, space } = await open(store, row);
    return { levels: [Promise.resolve(eightBits(await bench.planned(geometry, "png")))], space };
  });

/** The photo's own pixels under the frame, turned upright, as many as there are. */
export const originalPicture = (store: Store, row: Weighed, geometry: Geometry): Promise<Shown> =>
  remembered(`${row.id} original ${JSON.stringify(geometry.crop)}`, async () => {
    const { source, frame, resolved, space } = await open(store, row);
    const size = originalSize(geometry);
    const whole = { x: 0, y: 0, ...size };
    const plan = {
      geometry: { ...geometry, ...size, mode: "fill" as const, place: whole, scale: size.width / geometry.crop.width },
      frame, to: destinationOf(resolved, source, frame.takenAs), bits: 8 as const, background: resolved.background, opaque: false, sharpen: null, ppi: null,
    };
    return { levels: [Promise.resolve(eightBits(await preparePicture(source, plan)))], space };
  });

/** A trial as its bytes decode. `encoded`: the bare encoding. */
export const trialPicture = (store: Store, row: Weighed, geometry: Geometry, key: string, setting: Setting, encoded: Buffer): Promise<Shown> =>
  remembered(`${row.id} ${key} ${geometry.width}`, async () => {
    const { bench, resolved, source, space } = await open(store, row);
    const like = await bench.planned(geometry, setting.format);
    const cmyk = destinationOf(resolved, source).name === "cmyk";
    return { levels: [Promise.resolve(eightBits(await decodeTrial(encoded, setting, like, cmyk)))], space };
  });

/** Pixels of the original's pane. */
export function originalSize({ crop }: Geometry): { width: number; height: number } {
  const shrink = Math.min(1, Math.sqrt(MOST_ORIGINAL / (crop.width * crop.height)));
  return { width: Math.max(1, Math.round(crop.width * shrink)), height: Math.max(1, Math.round(crop.height * shrink)) };
}

interface Opened {
  bench: Workbench;
  source: Awaited<ReturnType<typeof readSource>>;
  resolved: ReturnType<typeof resolveBrief>;
  frame: Weighed["frame"];
  space: Shown["space"];
}

/** The photo opened last, so that panes of one photo do not read it again. */
let last: { key: string; opened: Promise<Opened> } | null = null;

function open(store: Store, row: Weighed): Promise<Opened> {
  const key = `${row.id} ${row.measured ? 1 : 0}`;
  if (last?.key !== key) last = { key, opened: read(store, row) };
  last.opened.catch(() => (last = null));
  return last.opened;
}

async function read(store: Store, row: Weighed): Promise<Opened> {
  const resolved = resolveBrief(row.brief);
  const photo = await readSource(await store.files.read(row.sha256));
  const { source, sha256, frame } = await staged({ source: photo, brief: row.brief, frame: row.brief.ink ? row.frame : (row.measured?.frame ?? row.frame), sha256: row.sha256 });
  const { space } = destinationOf(resolved, source, frame.takenAs);
  return { bench: new Workbench({ source, frame, sha256 }, resolved), source, resolved, frame, space: space === SPACES["display-p3"] ? "display-p3" : "srgb" };
}
