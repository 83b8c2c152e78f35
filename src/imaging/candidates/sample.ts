/**
 * Parts of a large picture put together, from the calmest to the busiest: what settings can be tried on in a
 * tenth of the time.
 */
import { OF_SAMPLE, type Picture as Searched, type Setting, settingKey } from "@/core/coding";
import type { Pixels } from "@/core/difference";
import type { Size } from "@/core/photo";
import type { Planned } from "@/core/pixels/develop";
import { seenAt } from "@/core/pixels/resample";
import { encodeAside } from "../encode";
import { isFlat, type PlannedPicture } from "../planned";
import { decodeFresh, decodeRounded } from "./decode-trial";
import { Judge } from "./judge";

/** Pictures of more pixels than this are sampled. */
export const SAMPLED_FROM = 900_000;
/** Side of a part in px: a multiple of every block size that encoders work in. */
export const SIDE = 128;
/** Parts across and down. */
const ACROSS = 4;

/** What of a planned picture its trials need. */
type Kind = Pick<PlannedPicture, "key" | "space" | "cmyk">;

/** Trials on the sample of one planned picture, or on a small one itself; none is kept longer than this. */
export class Sample {
  static serves = ({ width, height }: Size): boolean => width * height >= SAMPLED_FROM;

  /** Key of the picture that it is a sample of. */
  readonly of: string;
  readonly searched: Searched;
  private readonly judge: Judge;
  private readonly places: readonly Place[];
  private readonly smaller = new Map<number, Searched>();

  constructor(
    private readonly picture: Kind,
    whole: Planned,
    private readonly signal?: AbortSignal,
  ) {
    this.of = picture.key;
    const cut = Sample.serves(whole);
    this.places = cut ? spread(whole) : [];
    const pixels: Planned = cut
      ? { ...partsOf(whole, this.places), ...(whole.light && { light: whole.light }) }
      : whole;
    this.judge = new Judge(`${picture.key} sample`, pixels, picture.space, cut ? SIDE : undefined);
    this.searched = this.tried(pixels, async (share) => this.reduced(pixels, share));
  }

  /** About the difference of the whole, by the same parts of its decoded pixels. */
  async tells(whole: Pixels): Promise<number> {
    return (await this.judge.of(partsOf(whole, this.places))).difference * OF_SAMPLE;
  }

  private reduced(pixels: Planned, share: number): Searched {
    const side = (px: number) => Math.max(2, Math.round((px * share) / 2) * 2);
    const size = { width: side(pixels.width), height: side(pixels.height) };
    const { space } = this.picture;
    const known =
      this.smaller.get(size.width) ??
      this.tried(seenAt({ ...pixels, space }, size), () => {
        throw new Error("a smaller sample is made from the whole one");
      });
    this.smaller.set(size.width, known);
    return known;
  }

  /** Trials of these pixels, held against the sample at its own size; each is made once. */
  private tried(pixels: Planned, reduced: Searched["reduced"]): Searched {
    const { cmyk } = this.picture;
    const encodings = new Map<string, Promise<Uint8Array>>();
    const differences = new Map<string, Promise<number>>();
    const encoded = (setting: Setting) => {
      this.signal?.throwIfAborted();
      return once(encodings, setting, () => encodeAside(pixels, setting, cmyk, this.signal));
    };
    const difference = async (setting: Setting) => {
      const trial = await decodeFresh(await encoded(setting), setting, pixels, cmyk);
      return (await this.judge.asSeen(trial)).difference;
    };
    return {
      pixels: pixels.width * pixels.height,
      flat: isFlat(pixels),
      opaque: pixels.channels % 2 === 1,
      overhead: 0,
      encode: async (setting) => (await encoded(setting)).length,
      difference: (setting) => once(differences, setting, () => difference(setting)),
      rounded: async (setting) => {
        const trial = await decodeRounded(setting, pixels, cmyk);
        return trial && (await this.judge.asSeen(trial)).difference;
      },
      sample: async () => null,
      reduced,
    };
  }
}

function once<T>(made: Map<string, Promise<T>>, setting: Setting, make: () => Promise<T>): Promise<T> {
  const key = settingKey(setting);
  const known = made.get(key) ?? make();
  made.set(key, known);
  return known;
}

/** Where a part begins, in px. */
export interface Place {
  x: number;
  y: number;
}

/** Parts in a square, as many across as down. */
export function partsOf({ data, width, channels }: Pixels, places: readonly Place[]) {
  const across = Math.sqrt(places.length);
  const side = SIDE * across;
  const out =
    data instanceof Uint16Array
      ? new Uint16Array(side * side * channels)
      : new Uint8Array(side * side * channels);
  for (const [i, { x, y }] of places.entries()) {
    const [left, top] = [(i % across) * SIDE, Math.floor(i / across) * SIDE];
    for (let row = 0; row < SIDE; row += 1) {
      const from = ((y + row) * width + x) * channels;
      out.set(data.subarray(from, from + SIDE * channels), ((top + row) * side + left) * channels);
    }
  }
  return { data: out, width: side, height: side, channels };
}

/** Places of as many parts as are needed, evenly over the order of how busy they are. */
export function spread({ data, width, height, channels }: Pixels): Place[] {
  const pitch = width * channels;
  const parts: { x: number; y: number; busy: number }[] = [];
  for (let y = 0; y + SIDE <= height; y += SIDE) {
    for (let x = 0; x + SIDE <= width; x += SIDE) {
      parts.push({ x, y, busy: busyOf(data, y * pitch + x * channels, pitch, channels) });
    }
  }
  parts.sort((a, b) => a.busy - b.busy);
  const wanted = ACROSS * ACROSS;
  return Array.from({ length: wanted }, (_, i) => parts[Math.round((i * (parts.length - 1)) / (wanted - 1))]);
}

/** How much neighbours in a part differ. Apart: code that is entered once a picture would be compiled anew for each. */
function busyOf(data: Pixels["data"], from: number, pitch: number, channels: number): number {
  let busy = 0;
  for (let row = 0; row < SIDE; row += 8) {
    const start = from + row * pitch;
    for (let p = start, end = start + (SIDE - 1) * channels; p < end; p += channels)
      busy += Math.abs(data[p] - data[p + channels]);
  }
  return busy;
}
