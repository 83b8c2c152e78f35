/**
 * From a photo to its planned picture: decoded once, brought into its colours, framed, resized, sharpened,
 * in its bits.
 */

import { type Geometry, keepsPixels } from "@/core/geometry";
import type { KernelName } from "@/core/photo";
import { type Frame, type Rect, swapsSides, toStored, turnOrientation } from "@/core/photo";
import type { ConversionReport } from "@/core/pixels/colour";
import type { Development, Planned } from "@/core/pixels/develop";
import type { Expansion } from "@/core/pixels/light";
import type { Sharpening } from "@/core/pixels/resample";
import { checkTail, type DecodedPart, decodeSamples, dotScreenIn, strictly } from "../decode";
import { colourIn, type Destination } from "../headers";
import type { Source } from "../source";
import { developAside, warmUp } from "../workers";

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

export interface Prepared extends Planned {
  /** Null where nothing was resized. */
  kernel: KernelName | null;
  conversion: ConversionReport | null;
  /** Period in px of a dot screen in the photo that is about to be reduced; null where none was seen. */
  dotScreen: number | null;
}

/** Samples of more bytes than this are worked through in bands. */
const BAND_BYTES = 64_000_000;
/** Output rows that neighbouring bands share, so that sharpening sees across their edge. */
const OVERLAP = 16;
/** Samples that a kernel reaches beyond the part, in output pixels: the widest kernel and a little. */
const REACH = 4;

/**
 * Throws a PhotoError for a damaged photo; a damaged photo never becomes a half-grey picture. `band`: the
 * most bytes of samples held at a time.
 */
export async function preparePicture(
  source: Source,
  plan: PicturePlan,
  band = BAND_BYTES,
): Promise<Prepared> {
  warmUp();
  const { geometry } = plan;
  const scale = Math.min(
    geometry.place.width / geometry.crop.width,
    geometry.place.height / geometry.crop.height,
  );
  const part: DecodedPart = {
    region: unturned(regionOf(geometry, geometry.crop), geometry, source.facts),
    scale,
  };
  const prepared = await strictly(source, async (failOn) => {
    const [picture, dotScreen] = await Promise.all([
      inBands(source, plan, part, band, failOn),
      checkTail(source, part, failOn),
    ]);
    return { ...picture, dotScreen: picture.dotScreen ?? dotScreen };
  });
  return padded(
    prepared,
    geometry,
    colourIn(plan.background, plan.to.space),
    colourIn(plan.border ?? plan.background, plan.to.space),
  );
}

async function inBands(
  source: Source,
  plan: PicturePlan,
  part: DecodedPart,
  band: number,
  failOn: "warning" | "truncated",
): Promise<Prepared> {
  const { crop, place } = plan.geometry;
  const deep = (source.facts.bits ?? 8) > 8 ? 2 : 1;
  const shrunk = source.jpeg && part.scale <= 1 / 4 ? 4 : 1;
  const bytes = (part.region.width * part.region.height * (source.facts.alpha ? 4 : 3) * deep) / shrunk;
  const atOnce = plan.to.light !== undefined && source.gainMap !== null;
  const bands = atOnce || plan.geometry.angle || shrunk > 1 ? 1 : Math.min(64, Math.ceil(bytes / band));
  if (bands <= 1) return developed(source, plan, plan.geometry, part, failOn);
  // Bands are rows of the stored picture, which decoders can reach one after the other.
  const orientation = turnOrientation(source.facts.orientation, plan.geometry.turn ?? 0);
  const columns = swapsSides(orientation);
  const total = columns ? place.width : place.height;
  let whole: Prepared | null = null;
  for (let k = 0; k < bands; k += 1) {
    const [from, to] = [Math.round((k * total) / bands), Math.round(((k + 1) * total) / bands)];
    const [a, b] = [Math.max(0, from - OVERLAP), Math.min(total, to + OVERLAP)];
    const ratio = (columns ? crop.width : crop.height) / total;
    const cut: Rect = columns
      ? { ...crop, x: crop.x + a * ratio, width: (b - a) * ratio }
      : { ...crop, y: crop.y + a * ratio, height: (b - a) * ratio };
    const geometry: Geometry = {
      ...plan.geometry,
      crop: cut,
      place: columns ? { ...place, width: b - a } : { ...place, height: b - a },
    };
    const region = unturned(regionOf(geometry, cut), geometry, source.facts);
    const piece = await developed(source, plan, geometry, { ...part, region }, failOn);
    whole ??= {
      ...piece,
      width: place.width,
      height: place.height,
      data:
        piece.data instanceof Uint16Array
          ? new Uint16Array(place.width * place.height * piece.channels)
          : new Uint8Array(place.width * place.height * piece.channels),
    };
    paste(
      whole,
      piece,
      columns ? from : 0,
      columns ? 0 : from,
      columns
        ? { x: from - a, y: 0, width: to - from, height: place.height }
        : { x: 0, y: from - a, width: place.width, height: to - from },
    );
  }
  return whole!;
}

async function developed(
  source: Source,
  plan: PicturePlan,
  geometry: Geometry,
  part: DecodedPart,
  failOn: "warning" | "truncated",
): Promise<Prepared> {
  const { facts } = source;
  const { samples, shown, density, space, peak, reach } = await decodeSamples(
    source,
    part,
    { takenAs: plan.frame.takenAs ?? null, keeps: plan.to.keeps, bright: plan.to.light !== undefined },
    failOn,
  );
  const orientation = turnOrientation(facts.orientation, geometry.turn ?? 0);
  const plain = keepsPixels(geometry, facts) && !plan.sharpen;
  const development: Development = {
    from: space,
    to: plan.to.space,
    peak,
    reach,
    expand: plan.expand ?? null,
    orientation,
    photo: turnedFacts(facts, geometry),
    shown,
    density,
    crop: geometry.crop,
    angle: geometry.angle ?? 0,
    size: { width: geometry.place.width, height: geometry.place.height },
    kernel: plan.frame.kernel ?? null,
    sharpen: plan.sharpen,
    ppi: plan.ppi,
    bits: plan.bits,
    under: plan.opaque ? colourIn(plan.background, plan.to.space) : null,
    plain,
  };
  const whole = density[0] === 1 && density[1] === 1;
  const dotScreen = whole && part.scale < 1 && !peak ? dotScreenIn(samples) : null;
  const made = await developAside(samples, development);
  return { ...made, dotScreen, ...(plan.to.light && { light: plan.to.light }) };
}

const turnedFacts = ({ width, height }: { width: number; height: number }, { turn }: Geometry) =>
  (turn ?? 0) % 180 === 0 ? { width, height } : { width: height, height: width };

/** What has to be decoded for a part: the part as it leans, and what the kernel reaches beyond it. */
function regionOf({ place, angle }: Geometry, crop: Rect): Rect {
  const radians = (Math.abs(angle ?? 0) * Math.PI) / 180;
  const [cos, sin] = [Math.cos(radians), Math.sin(radians)];
  const [w, h] = [crop.width * cos + crop.height * sin, crop.width * sin + crop.height * cos];
  const reach = REACH * Math.max(1, crop.width / place.width, crop.height / place.height) + 4;
  return {
    x: crop.x + (crop.width - w) / 2 - reach,
    y: crop.y + (crop.height - h) / 2 - reach,
    width: w + 2 * reach,
    height: h + 2 * reach,
  };
}

/** A part of the turned photo as part of the upright one, inside it. */
function unturned(rect: Rect, geometry: Geometry, photo: { width: number; height: number }): Rect {
  const plain = toStored(
    rect,
    { width: photo.width, height: photo.height },
    turnOrientation(1, geometry.turn ?? 0),
  );
  const x = Math.max(0, plain.x);
  const y = Math.max(0, plain.y);
  return {
    x,
    y,
    width: Math.min(photo.width, plain.x + plain.width) - x,
    height: Math.min(photo.height, plain.y + plain.height) - y,
  };
}

function paste(to: Planned, from: Planned, x: number, y: number, part: Rect): void {
  const { channels } = to;
  for (let row = 0; row < part.height; row += 1) {
    const start = ((part.y + row) * from.width + part.x) * channels;
    to.data.set(
      from.data.subarray(start, start + part.width * channels),
      ((y + row) * to.width + x) * channels,
    );
  }
}

function padded(
  picture: Prepared,
  geometry: Geometry,
  background: readonly number[],
  border: readonly number[],
): Prepared {
  if (picture.width === geometry.width && picture.height === geometry.height) return picture;
  const { channels, data: from } = picture;
  const length = geometry.width * geometry.height * channels;
  const data = from instanceof Uint16Array ? new Uint16Array(length) : new Uint8Array(length);
  const top = from instanceof Uint16Array ? 65_535 : 255;
  const [ground, edge] = [background, border].map((colour) =>
    [...colour.map((v) => Math.round(v * top)), top].slice(0, channels),
  );
  const px = geometry.border ?? 0;
  for (let y = 0, i = 0; y < geometry.height; y += 1) {
    const outside = y < px || y >= geometry.height - px;
    for (let x = 0; x < geometry.width; x += 1, i += channels) {
      const pixel = outside || x < px || x >= geometry.width - px ? edge : ground;
      for (let c = 0; c < channels; c += 1) data[i + c] = pixel[c];
    }
  }
  const out = { ...picture, data, width: geometry.width, height: geometry.height };
  paste(out, picture, geometry.place.x, geometry.place.y, {
    x: 0,
    y: 0,
    width: picture.width,
    height: picture.height,
  });
  return out;
}

/**
 * Large flat areas with hard edges (lettering, drawings): many pixels equal their right neighbour exactly.
 */
export function isFlat({ data, width, height, channels }: Planned): boolean {
  const colours = channels < 3 ? 1 : 3;
  let equal = 0;
  let seen = 0;
  const step = Math.max(1, Math.floor(height / 200));
  for (let y = 0; y < height; y += step) {
    for (let x = 0; x + 1 < width; x += 1) {
      const p = (y * width + x) * channels;
      seen += 1;
      let same = true;
      for (let c = 0; c < colours && same; c += 1) same = data[p + c] === data[p + channels + c];
      if (same) equal += 1;
    }
  }
  return seen > 0 && equal / seen > 0.4;
}
