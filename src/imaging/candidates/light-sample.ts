/** Parts of a picture on a bright screen: what is seen of its light as different maps tell it. */
import sharp from "sharp";
import { type MapKind, type MapLook, OWN_TABLES, payloadOf } from "@/core/coding";
import type { GainMap } from "@/core/containers";
import type { RgbSpace } from "@/core/pixels/colour";
import type { Planned } from "@/core/pixels/develop";
import { applyGain, GAIN_OFFSET, type Gain, gainBetween } from "@/core/pixels/light";
import { encodeAside } from "../encode";
import { Judge } from "./judge";
import { partsOf, Sample, SIDE, spread } from "./sample";

/** Codes are smooth: no halved colour, and errors weighed against bits. */
export const mapSetting = (quality: number) =>
  ({ format: "jpeg", quality, chroma: "4:4:4", table: OWN_TABLES, effort: "careful" }) as const;

export const describedMap = (jpeg: Uint8Array, { min, max }: { min: number; max: number }): GainMap => ({
  jpeg,
  min: [min],
  max: [max],
  gamma: [1],
  offsetBase: [GAIN_OFFSET],
  offsetLight: [GAIN_OFFSET],
  capacity: max,
});

type Codes = Planned & { space: RgbSpace };

export class LightSample {
  private readonly base: Codes;
  private readonly light: Codes;
  private readonly judge: Judge;
  /** Pixels of the whole to one of the parts. */
  private readonly share: number;
  private readonly gains = new Map<number, Gain>();

  /** `base` and `light`: the same picture for ordinary screens, and as PQ signals. `id`: equal only for equal light. */
  constructor(id: string, base: Codes, light: Codes) {
    const cut = Sample.serves(light);
    const places = cut ? spread(light) : [];
    const parts = (codes: Codes) => (cut ? { ...codes, ...partsOf(codes, places) } : codes);
    [this.base, this.light] = [parts(base), parts(light)];
    this.share = (light.width * light.height) / (this.light.width * this.light.height);
    this.judge = new Judge(`${id} light`, this.light, light.space, cut ? SIDE : undefined);
  }

  /** The picture is taken as it is planned: what its own coding does is seen on every screen. */
  async look({ shrink, quality }: MapKind): Promise<MapLook> {
    const gain = this.gain(shrink);
    const jpeg = await encodeAside({ ...gain, channels: 1 }, mapSetting(quality), false);
    const { data, info } = await sharp(jpeg).toColourspace("b-w").raw().toBuffer({ resolveWithObject: true });
    const { width, height } = this.base;
    const shown = applyGain(this.base, { data, ...info }, describedMap(jpeg, gain), this.base.space);
    const { difference } = await this.judge.of({ data: shown.data, width, height, channels: 3 });
    const head = jpeg.length - payloadOf(jpeg.length, 0, "jpeg");
    return { bytes: head + (jpeg.length - head) * this.share, difference };
  }

  private gain(shrink: number): Gain {
    const known = this.gains.get(shrink) ?? gainBetween(this.base, this.light, this.base.space, shrink);
    this.gains.set(shrink, known);
    return known;
  }
}
