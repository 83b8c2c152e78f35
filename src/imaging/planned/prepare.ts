/**
 * From a photo to its planned picture: decoded once, brought into its colours, framed, resized, sharpened,
 * in its bits.
 */

import { setImmediate } from "node:timers/promises";
import { asStill } from "@/core/containers";
import { type Geometry, keepsPixels } from "@/core/geometry";
import { type Frame, type Rect, swapsSides, toStored, turnOrientation } from "@/core/photo";
import { type Developed, type Development, develop, dotScreenIn, handsOn } from "@/core/pixels/develop";
import type { Expansion } from "@/core/pixels/light";
import type { Sharpening } from "@/core/pixels/resample";
import type { Facts } from "@/core/proof";
import {
  checkTail,
  type Decoded,
  type DecodedPart,
  decodeSamples,
  libraryPart,
  strictly,
  type Taken,
} from "../decode";
import { colourIn, type Destination } from "../headers";
import type { Source } from "../source";
import { decodeAside, developAside, threadsForOne, warmUp } from "../workers";
import { bandsOf, joined, neededFor, OVERLAP } from "./bands";
import type { Prepared } from "./prepared";
import { surrounded } from "./surround";

export interface PicturePlan {
  geometry: Geometry;
  frame: Frame;
  to: Destination;
  bits: 8 | 16;
  /**
   * "#rrggbb": around the photo where it is padded, and under what is transparent where the format holds no
   * transparency.
   */
  background: string;
  opaque: boolean;
  /** "#rrggbb", of the border that the geometry leaves room for; missing where it leaves none. */
  border?: string;
  sharpen: Sharpening | null;
  ppi: number | null;
  /** How lights are taken above white, where the destination has room for them. */
  expand?: Expansion;
}

/** Samples of more bytes than this are decoded in bands. */
const BAND_BYTES = 100_000_000;
/** From so many samples on a picture is developed by all threads together. */
const TOGETHER = 6_000_000;

type FailOn = "warning" | "truncated";

/**
 * Throws a PhotoError for a damaged photo; a damaged photo never becomes a half-grey picture. `band`: the
 * most bytes of samples held at a time.
 */
export async function preparePicture(
  source: Source,
  plan: PicturePlan,
  band = BAND_BYTES,
): Promise<Prepared> {
  const { geometry } = plan;
  const { place, crop } = geometry;
  const scale = Math.min(place.width / crop.width, place.height / crop.height);
  const part: DecodedPart = { region: neededFor(geometry, source.facts), scale };
  const preparing = strictly(source, async (failOn) => {
    const [picture, dotScreen] = await Promise.all([
      inBands({ source, plan, part, failOn }, bandsFor(source, plan, part, band)),
      checkTail(source, part, failOn),
    ]);
    return { ...picture, dotScreen: picture.dotScreen ?? dotScreen };
  });
  // Threads are started while others decode.
  warmUp();
  const prepared = await preparing;
  const { space } = plan.to;
  const ground = colourIn(plan.background, space);
  return surrounded(prepared, geometry, ground, plan.border ? colourIn(plan.border, space) : ground);
}

const overlapOf = ({ sharpen }: PicturePlan): number => (sharpen ? OVERLAP : 0);

/** How many bands a picture is decoded in, so that no more than `band` bytes of samples are held. */
function bandsFor(source: Source, plan: PicturePlan, { region }: DecodedPart, band: number): number {
  const withGain = plan.to.light !== undefined && source.gainMap !== null;
  if (withGain || plan.geometry.angle) return 1;
  const deep = (source.facts.bits ?? 8) > 8 ? 2 : 1;
  const bytes = region.width * region.height * (source.facts.alpha ? 4 : 3) * deep;
  return Math.min(64, Math.ceil(bytes / band));
}

interface DevelopTask {
  source: Source;
  plan: PicturePlan;
  part: DecodedPart;
  failOn: FailOn;
}

/** One band after the other: memory is what they are for. */
async function inBands(task: DevelopTask, count: number): Promise<Prepared> {
  const { source, plan, part } = task;
  if (count <= 1) return developed(task);
  const bands = bandsOf(plan.geometry, source.facts, count, overlapOf(plan));
  const pieces: Prepared[] = [];
  for (const { geometry, region } of bands)
    pieces.push(await developed({ ...task, plan: { ...plan, geometry }, part: { ...part, region } }));
  const dotScreen = pieces.find((piece) => piece.dotScreen !== null)?.dotScreen ?? null;
  return { ...joined(bands, pieces, plan.geometry), dotScreen };
}

async function developed(task: DevelopTask): Promise<Prepared> {
  const { source, plan, part, failOn } = task;
  const { to } = plan;
  const light = to.light && { light: to.light };
  const library = threadsForOne() === 1 ? libraryPart(source, part, takenBy(plan), failOn) : null;
  const development = library && developmentOf(source, plan, library);
  // Codes that only go through are decoded here: a thread would send them back.
  if (library && development && !development.plain) {
    const looks = part.scale < 1 && !library.peak;
    return { ...(await decodeAside(asStill(source.bytes), library.how, development, looks)), ...light };
  }
  const decoded = await decodeSamples(source, part, takenBy(plan), failOn);
  const { samples, density, peak } = decoded;
  const developing = servesTogether(source, plan, decoded)
    ? together(source, plan, decoded)
    : alone(source, plan, decoded);
  // Looked for here while the threads are at work; they are given theirs first.
  await setImmediate();
  const whole = density[0] === 1 && density[1] === 1;
  const dotScreen = whole && part.scale < 1 && !peak ? dotScreenIn(samples) : null;
  return { ...(await developing), dotScreen, ...light };
}

const takenBy = ({ frame, to }: PicturePlan): Taken => ({
  takenAs: frame.takenAs ?? null,
  keeps: to.keeps,
  bright: to.light !== undefined,
});

/** Only what a reduction by a kernel needs lies near; what looks at all of a picture is not cut. */
const servesTogether = (source: Source, plan: PicturePlan, decoded: Decoded): boolean =>
  threadsForOne() > 1 &&
  decoded.samples.data.length >= TOGETHER &&
  !plan.geometry.angle &&
  !plan.expand &&
  plan.geometry.place.width <= plan.geometry.crop.width &&
  plan.geometry.place.height <= plan.geometry.crop.height &&
  !handsOn(decoded.samples, developmentOf(source, plan, decoded));

/** Bands of a picture that threads share: while one is worked on, the next is handed over. */
const TURNS = 2;

/** Bands of the same samples for all threads. */
async function together(source: Source, plan: PicturePlan, decoded: Decoded): Promise<Developed> {
  const bands = bandsOf(plan.geometry, source.facts, threadsForOne() * TURNS, overlapOf(plan));
  const pieces = await Promise.all(
    bands.map(({ geometry, region }) =>
      alone(source, { ...plan, geometry }, rowsOf(decoded, storedRect(region, source.facts))),
    ),
  );
  return joined(bands, pieces, plan.geometry);
}

/** A part of the upright photo in pixels as they are stored. */
function storedRect(region: Rect, { width, height, orientation }: Facts): Rect {
  const stored = swapsSides(orientation) ? { width: height, height: width } : { width, height };
  return toStored(region, stored, orientation);
}

/** The rows of decoded samples in which a part of the stored picture lies. */
function rowsOf(decoded: Decoded, { y, height }: Rect): Decoded {
  const { samples, shown, density } = decoded;
  const dy = density[1];
  const from = Math.max(0, Math.floor((y - shown.y) * dy));
  const to = Math.min(samples.height, Math.ceil((y + height - shown.y) * dy));
  const stride = samples.width * samples.channels;
  const data = samples.data.subarray(from * stride, to * stride);
  return {
    ...decoded,
    samples: { ...samples, data, height: to - from },
    shown: { ...shown, y: shown.y + from / dy, height: (to - from) / dy },
  };
}

async function alone(source: Source, plan: PicturePlan, decoded: Decoded): Promise<Developed> {
  const { samples } = decoded;
  const development = developmentOf(source, plan, decoded);
  // Samples that are only handed on are not sent to a thread and back.
  return handsOn(samples, development) ? develop(samples, development) : developAside(samples, development);
}

function developmentOf(
  { facts }: Source,
  plan: PicturePlan,
  { space, shown, density, peak, reach }: Omit<Decoded, "samples">,
): Development {
  const { geometry, to } = plan;
  return {
    shown,
    density,
    peak,
    reach,
    from: space,
    to: to.space,
    expand: plan.expand ?? null,
    orientation: turnOrientation(facts.orientation, geometry.turn ?? 0),
    photo: turnedFacts(facts, geometry),
    crop: geometry.crop,
    angle: geometry.angle ?? 0,
    size: { width: geometry.place.width, height: geometry.place.height },
    kernel: plan.frame.kernel ?? null,
    sharpen: plan.sharpen,
    ppi: plan.ppi,
    bits: plan.bits,
    under: plan.opaque ? colourIn(plan.background, to.space) : null,
    plain: keepsPixels(geometry, facts) && !plan.sharpen,
  };
}

const turnedFacts = ({ width, height }: { width: number; height: number }, { turn }: Geometry) =>
  (turn ?? 0) % 180 === 0 ? { width, height } : { width: height, height: width };
