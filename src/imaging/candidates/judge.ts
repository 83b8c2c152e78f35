/** Holds trials against one planned picture, on threads. */
import sharp from "sharp";
import type { Pixels } from "@/core/difference";
import type { Size } from "@/core/photo";
import type { RgbSpace } from "@/core/pixels/colour";
import type { Planned } from "@/core/pixels/develop";
import type { Judged } from "../workers";
import { analyseAside, differenceAside } from "../workers";

export class Judge {
  private readonly reference: Pixels;
  private analysed: Promise<void> = Promise.resolve();

  /** `id` is equal only for equal pixels. */
  constructor(
    readonly id: string,
    pixels: Planned,
    private readonly space: RgbSpace | undefined,
    parts?: number,
  ) {
    const { width, height, channels } = pixels;
    this.reference = { data: shared(pixels.data), width, height, channels, space, parts };
  }

  /** Begins on what the reference alone gives, while the first trial is still being made. */
  warmUp(): this {
    // What goes wrong here goes wrong again, and is told, where a trial is judged.
    this.analysed = analyseAside(this.id, this.reference).catch(() => undefined);
    return this;
  }

  async of(trial: Pixels): Promise<Judged> {
    await this.analysed;
    if (same(this.reference, trial))
      return { difference: 0, worst: null, shift: { lightness: 0, colour: 0 } };
    return differenceAside(this.id, this.reference, { ...trial, space: this.space });
  }
}

/** In memory that threads share, so that a large picture is not copied for every trial. */
function shared(data: Uint8Array | Uint16Array): Uint8Array | Uint16Array {
  const memory = new SharedArrayBuffer(data.byteLength);
  const copy = data instanceof Uint16Array ? new Uint16Array(memory) : new Uint8Array(memory);
  copy.set(data);
  return copy;
}

function same(a: Pixels, b: Pixels): boolean {
  if (
    a.width !== b.width ||
    a.height !== b.height ||
    a.channels !== b.channels ||
    a.data.BYTES_PER_ELEMENT !== b.data.BYTES_PER_ELEMENT ||
    b.top !== undefined
  )
    return false;
  const bytes = ({ data }: Pixels) => new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  return Buffer.compare(bytes(a), bytes(b)) === 0;
}

/** A picture of fewer pixels as it is seen at the size of one with more: enlarged smoothly, as viewers do. */
export async function seenLarger(pixels: Pixels, { width, height }: Size): Promise<Pixels> {
  const deep = pixels.data instanceof Uint16Array;
  const image = sharp(pixels.data as Uint8Array, {
    raw: { width: pixels.width, height: pixels.height, channels: pixels.channels as 1 | 2 | 3 | 4 },
    limitInputPixels: false,
  });
  const { data, info } = await (deep ? image.toColourspace(pixels.channels < 3 ? "grey16" : "rgb16") : image)
    .resize(width, height, { fit: "fill", kernel: "cubic" })
    .raw({ depth: deep ? "ushort" : "uchar" })
    .toBuffer({ resolveWithObject: true });
  return {
    ...pixels,
    data: deep ? new Uint16Array(data.buffer, data.byteOffset, data.length / 2) : data,
    width: info.width,
    height: info.height,
  };
}
