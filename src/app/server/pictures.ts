/**
 * Decoded pictures for the panes of Weigh: held in memory while they are looked at. Everything heavy runs on
 * threads.
 */
import { LRUCache } from "lru-cache";
import { type Setting, settingKey } from "@/core/coding";
import type { Geometry } from "@/core/geometry";
import { type RawTaking, rawTakingOf } from "@/core/photo";
import { PQ_SPACES, type PqName, type RgbSpace, SPACES, WHITE_NITS } from "@/core/pixels/colour";
import type { Planned } from "@/core/pixels/develop";
import { meterLight } from "@/core/pixels/light";
import { decodeTrial } from "@/imaging/candidates";
import { destinationOf } from "@/imaging/headers";
import { PlannedPictures, planPhoto, preparePicture } from "@/imaging/planned";
import { eightBits, type Level, lightLevel } from "@/imaging/shown";
import { readSource } from "@/imaging/source";
import { keptPixels, shownKey } from "@/jobs";
import type { Store } from "@/store";
import type { loadWeighed } from "@/store/queries";
import { weighedGeometry } from "./weigh";

type Weighed = NonNullable<Awaited<ReturnType<typeof loadWeighed>>>;

export interface Shown {
  /** See `regionOf`. */
  levels: Promise<Level>[];
  space: "srgb" | "display-p3";
  /**
   * PQ signals in these primaries, and the multiples of white that they reach; missing for ordinary pictures.
   */
  light?: { primaries: PqName; reach: number };
}

/** Bytes of decoded pictures that are held; those looked at longest ago go first. */
const CAP = 700_000_000;
/** The smaller levels of a picture take a third of it once more. */
const WITH_LEVELS = 1.34;
/** Pixels of the original that are shown at most; a larger one is reduced to this for its pane. */
const MOST_ORIGINAL = 64_000_000;

const held = new LRUCache<string, { shown: Promise<Shown> }>({ maxSize: CAP, sizeCalculation: () => 1 });

function remembered(key: string, make: () => Promise<Shown>): Promise<Shown> {
  const known = held.get(key);
  if (known) return known.shown;
  const entry = { shown: make() };
  held.set(key, entry);
  entry.shown
    .then(async ({ levels }) => {
      const size = Math.round((await levels[0]).data.byteLength * WITH_LEVELS);
      // A picture above the cap by itself is not held at all.
      if (held.peek(key) === entry) held.set(key, entry, { size });
    })
    .catch(() => held.delete(key));
  return entry.shown;
}

/** The planned picture before it is encoded. */
export const referencePicture = (store: Store, row: Weighed, geometry: Geometry): Promise<Shown> =>
  remembered(`${row.id} reference ${JSON.stringify(geometry)}`, async () => {
    const { pictures, space } = await open(store, row);
    return shown(await pictures.pixels(pictures.at(geometry, formatFor(space))), space);
  });

/** A format that takes every pixel as it is planned. */
const formatFor = (space: RgbSpace | "gray") => (bright(space) ? "avif" : "png");

const bright = (space: RgbSpace | "gray"): PqName | null =>
  (Object.keys(PQ_SPACES) as PqName[]).find((name) => PQ_SPACES[name] === space) ?? null;

/** Light above white goes to the page as it is, which shows it in several ways. */
function shown(pixels: Planned & { top?: number }, space: RgbSpace | "gray"): Shown {
  const primaries = bright(space);
  if (!primaries || !(pixels.data instanceof Uint16Array))
    return {
      levels: [Promise.resolve(eightBits(pixels))],
      space: space === SPACES["display-p3"] || primaries ? "display-p3" : "srgb",
    };
  const level = lightLevel({ ...pixels, data: pixels.data });
  const { peak } = meterLight({ data: level.data as Uint16Array, channels: 3 });
  return {
    levels: [Promise.resolve(level)],
    space: "display-p3",
    light: { primaries, reach: peak / WHITE_NITS },
  };
}

/** The photo's own pixels under the frame, turned upright, as many as there are. */
export const originalPicture = (store: Store, row: Weighed, geometry: Geometry): Promise<Shown> =>
  remembered(`${row.id} original ${JSON.stringify(geometry.crop)}`, async () => {
    const { source, frame, resolved } = (await open(store, row)).pictures.photo;
    // Light above white is what is made of the photo; the photo is shown as an ordinary screen shows it.
    const to = destinationOf(
      resolved.light === "hdr" ? { ...resolved, light: "sdr", space: "display-p3" } : resolved,
      source,
      frame.takenAs,
    );
    const size = originalSize(geometry);
    const whole = { x: 0, y: 0, ...size };
    const plan = {
      geometry: {
        ...geometry,
        ...size,
        mode: "fill" as const,
        place: whole,
        scale: size.width / geometry.crop.width,
      },
      frame,
      to,
      bits: 8 as const,
      background: resolved.background,
      opaque: false,
      sharpen: null,
      ppi: null,
    };
    return shown(await preparePicture(source, plan), to.space);
  });

/** The planned picture of a raw file, taken in one of its ways. */
export const wayPicture = (
  store: Store,
  row: Weighed,
  geometry: Geometry,
  way: RawTaking["way"],
): Promise<Shown> =>
  remembered(`${row.id} ${way} ${JSON.stringify(geometry)}`, async () => {
    const { pictures: opened, space } = await open(store, row);
    const { source, frame } = opened.photo;
    const raw = { ...rawTakingOf(frame), way };
    const { brief, sha256 } = row;
    const pictures = new PlannedPictures(
      await planPhoto({ source, brief, frame: { ...frame, raw }, sha256, geometry }),
    );
    return shown(await pictures.pixels(pictures.at(geometry, formatFor(space))), space);
  });

/** A trial that was made, and what it is of. */
interface MadeTrial {
  geometry: Geometry;
  /** Of the planned picture that it encodes. */
  pictureKey: string;
  setting: Setting;
  /** Its bare encoding. */
  encoded: () => Promise<Buffer>;
}

/**
 * A trial as its bytes decode. `key` names it for the assignment as it was planned; `find` is asked only where
 * its picture is not held, since a pane asks for many squares of one.
 */
export const trialPicture = (
  store: Store,
  row: Weighed,
  key: string,
  find: () => Promise<MadeTrial>,
): Promise<Shown> =>
  remembered(`${row.id} ${key} ${weighedGeometry(row).width}`, async () => {
    const [{ pictures, space }, { geometry, pictureKey, setting, encoded }] = await Promise.all([
      open(store, row),
      find(),
    ]);
    const ordinary = setting.format !== "avif" && bright(space) ? SPACES["display-p3"] : space;
    // Whoever made it has just decoded it as well.
    const known = await keptPixels(store).take<Planned>(shownKey(pictureKey, settingKey(setting)));
    if (known) return shown(known, ordinary);
    const picture = pictures.at(geometry, setting.format);
    const like = await pictures.pixels(picture);
    return shown((await decodeTrial(await encoded(), setting, like, picture.cmyk)) as Planned, ordinary);
  });

/** Pixels of the original's pane. */
export function originalSize({ crop }: Geometry): { width: number; height: number } {
  const shrink = Math.min(1, Math.sqrt(MOST_ORIGINAL / (crop.width * crop.height)));
  return {
    width: Math.max(1, Math.round(crop.width * shrink)),
    height: Math.max(1, Math.round(crop.height * shrink)),
  };
}

interface Opened {
  pictures: PlannedPictures;
  space: RgbSpace | "gray";
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
  const photo = await planPhoto({
    source: await readSource(await store.files.read(row.sha256)),
    brief: row.brief,
    frame: row.brief.ink ? row.frame : (row.measured?.frame ?? row.frame),
    sha256: row.sha256,
    geometry: row.measured?.geometry ?? undefined,
  });
  const { space } = destinationOf(photo.resolved, photo.source, photo.frame.takenAs);
  return { pictures: new PlannedPictures(photo), space };
}
