/**
 * Parts of a large picture put together, from the calmest to the busiest: what settings can be tried on in a
 * tenth of the time.
 */
import { type Picture as Searched, type Setting, settingKey } from "@/core/coding";
import type { Size } from "@/core/photo";
import type { Planned } from "@/core/pixels/develop";
import { encodeAside } from "../encode";
import { isFlat, type PlannedPicture } from "../planned";
import { decodeTrial } from "./decode-trial";
import { Judge } from "./judge";

/** Pictures of more pixels than this are sampled. */
export const SAMPLED_FROM = 900_000;
/** Side of a part in px: a multiple of every block size that encoders work in. */
export const SIDE = 128;
/** Parts across and down. */
const ACROSS = 4;

/** Trials on the sample of one planned picture; none is kept longer than this. */
export class Sample {
  static serves = ({ width, height }: Size): boolean => width * height >= SAMPLED_FROM;

  /** Key of the picture that it is a sample of. */
  readonly of: string;
  readonly searched: Searched;
  private readonly pixels: Planned;
  private readonly judge: Judge;
  private readonly encodings = new Map<string, Promise<Uint8Array>>();
  private readonly differences = new Map<string, Promise<number>>();

  constructor(
    private readonly picture: PlannedPicture,
    whole: Planned,
    private readonly signal?: AbortSignal,
  ) {
    this.of = picture.key;
    this.pixels = sampleOf(whole);
    this.judge = new Judge(`${picture.key} sample`, this.pixels, picture.space, SIDE);
    this.searched = {
      pixels: this.pixels.width * this.pixels.height,
      flat: isFlat(this.pixels),
      overhead: 0,
      encode: async (setting) => (await this.encoded(setting)).length,
      difference: (setting) => this.difference(setting),
      sample: async () => null,
    };
  }

  private encoded(setting: Setting): Promise<Uint8Array> {
    this.signal?.throwIfAborted();
    const key = settingKey(setting);
    const known =
      this.encodings.get(key) ?? encodeAside(this.pixels, setting, this.picture.cmyk, this.signal);
    this.encodings.set(key, known);
    return known;
  }

  private difference(setting: Setting): Promise<number> {
    const key = settingKey(setting);
    const known = this.differences.get(key) ?? this.judged(setting);
    this.differences.set(key, known);
    return known;
  }

  private async judged(setting: Setting): Promise<number> {
    const pixels = await decodeTrial(await this.encoded(setting), setting, this.pixels, this.picture.cmyk);
    return (await this.judge.of(pixels)).difference;
  }
}

/** A picture of 512 × 512 px. */
export function sampleOf(picture: Planned): Planned {
  const { data, width, channels } = picture;
  const parts = spread(picture);
  const side = SIDE * ACROSS;
  const out =
    data instanceof Uint16Array
      ? new Uint16Array(side * side * channels)
      : new Uint8Array(side * side * channels);
  parts.forEach(({ x, y }, i) => {
    const [left, top] = [(i % ACROSS) * SIDE, Math.floor(i / ACROSS) * SIDE];
    for (let row = 0; row < SIDE; row += 1) {
      const from = ((y + row) * width + x) * channels;
      out.set(data.subarray(from, from + SIDE * channels), ((top + row) * side + left) * channels);
    }
  });
  return { data: out, width: side, height: side, channels, ...(picture.light && { light: picture.light }) };
}

/** Places of as many parts as are needed, evenly over the order of how busy they are. */
function spread({ data, width, height, channels }: Planned): { x: number; y: number }[] {
  const parts: { x: number; y: number; busy: number }[] = [];
  for (let y = 0; y + SIDE <= height; y += SIDE) {
    for (let x = 0; x + SIDE <= width; x += SIDE) {
      let busy = 0;
      for (let row = 0; row < SIDE; row += 8) {
        for (
          let p = ((y + row) * width + x) * channels, end = p + (SIDE - 1) * channels;
          p < end;
          p += channels
        )
          busy += Math.abs(data[p] - data[p + channels]);
      }
      parts.push({ x, y, busy });
    }
  }
  parts.sort((a, b) => a.busy - b.busy);
  const wanted = ACROSS * ACROSS;
  return Array.from({ length: wanted }, (_, i) => parts[Math.round((i * (parts.length - 1)) / (wanted - 1))]);
}
