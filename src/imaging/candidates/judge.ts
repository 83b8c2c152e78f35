/** Holds trials against one planned picture, on threads. */
import type { Pixels } from "@/core/difference";
import type { RgbSpace } from "@/core/pixels/colour";
import type { Planned } from "@/core/pixels/develop";
import type { Judged } from "../workers";
import { analyseAside, differenceAside, shared } from "../workers";

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
    this.reference = { data: shared(pixels.data).data, width, height, channels, space, parts };
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

  /** A trial of other pixels, brought to the reference's size as viewers do. */
  async asSeen(trial: Pixels): Promise<Judged> {
    const { width, height } = this.reference;
    if (trial.width === width && trial.height === height) return this.of(trial);
    await this.analysed;
    return differenceAside(this.id, this.reference, { ...trial, space: this.space }, true);
  }
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
