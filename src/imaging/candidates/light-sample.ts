/** Parts of a picture on a bright screen: what is seen of its light as different maps tell it. */
import sharp from "sharp";
import { type MapKind, type MapLook, OWN_TABLES, payloadOf } from "@/core/coding";
import type { GainMap } from "@/core/containers";
import type { Size } from "@/core/photo";
import type { RgbSpace } from "@/core/pixels/colour";
import type { Planned } from "@/core/pixels/develop";
import { applyGain, GAIN_OFFSET, type Gain, gainBetween } from "@/core/pixels/light";
import { encodeAside } from "../encode";
import { Judge } from "./judge";
import { type Place, partsOf, Sample, SIDE, spread } from "./sample";

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
  /** What maps weigh is told by parts of all kinds, what is seen of them by those where light changes most. */
  private readonly weighed: Part;
  private readonly seen: Part;
  private readonly judge: Judge;
  /** Pixels of the whole to one of those that are weighed. */
  private readonly share: number;

  /** `base` and `light`: the same picture for ordinary screens, and as PQ signals. `id`: equal only for equal light. */
  constructor(id: string, base: Codes, light: Codes) {
    const whole = new Part(base, light);
    const active = activePlaces(whole.gain(COARSE), light);
    this.weighed = Sample.serves(light) ? whole.cut(spread(light)) : whole;
    this.seen = active ? whole.cut(active) : whole;
    this.share = (light.width * light.height) / (this.weighed.light.width * this.weighed.light.height);
    this.judge = new Judge(`${id} light`, this.seen.light, light.space, active ? SIDE : undefined);
  }

  /** The picture is taken as it is planned: what its own coding does is seen on every screen. */
  async look(kind: MapKind): Promise<MapLook> {
    const { jpeg, gain } = await this.seen.map(kind);
    const { data, info } = await sharp(jpeg).toColourspace("b-w").raw().toBuffer({ resolveWithObject: true });
    const { base } = this.seen;
    const shown = applyGain(base, { data, ...info }, describedMap(jpeg, gain), base.space);
    const { width, height } = base;
    const { difference } = await this.judge.of({ data: shown.data, width, height, channels: 3 });
    const { jpeg: weighed } = await this.weighed.map(kind);
    const head = weighed.length - payloadOf(weighed.length, 0, "jpeg");
    return { bytes: head + (weighed.length - head) * this.share, difference };
  }
}

/** A picture, or some of it, and its gain at several densities. */
class Part {
  private readonly gains = new Map<number, Gain>();

  constructor(
    readonly base: Codes,
    readonly light: Codes,
  ) {}

  cut(places: readonly Place[]): Part {
    const of = (codes: Codes): Codes => ({ ...codes, ...partsOf(codes, places) });
    return new Part(of(this.base), of(this.light));
  }

  gain(shrink: number): Gain {
    const known = this.gains.get(shrink) ?? gainBetween(this.base, this.light, this.base.space, shrink);
    this.gains.set(shrink, known);
    return known;
  }

  async map({ shrink, quality }: MapKind): Promise<{ jpeg: Uint8Array; gain: Gain }> {
    const gain = this.gain(shrink);
    return { jpeg: await encodeAside({ ...gain, channels: 1 }, mapSetting(quality), false), gain };
  }
}

/** Pixels to one of the map that says where light changes; parts that are looked at. */
const [COARSE, LOOKED_AT] = [8, 4];

/**
 * A sun is small, and it is where people look: a glow around it hardly counts beside a whole sky. Null where there are
 * hardly more parts than are looked at.
 */
function activePlaces({ data, width }: Gain, picture: Size): Place[] | null {
  const [columns, rows] = [Math.floor(picture.width / SIDE), Math.floor(picture.height / SIDE)];
  if (columns * rows <= LOOKED_AT) return null;
  const cells = SIDE / COARSE;
  const parts: (Place & { range: number })[] = [];
  for (let y = 0; y < rows; y += 1)
    for (let x = 0; x < columns; x += 1) {
      let [least, most] = [255, 0];
      for (let row = 0; row < cells; row += 1) {
        const from = (y * cells + row) * width + x * cells;
        for (let p = from; p < from + cells; p += 1) {
          if (data[p] < least) least = data[p];
          if (data[p] > most) most = data[p];
        }
      }
      parts.push({ x: x * SIDE, y: y * SIDE, range: most - least });
    }
  return parts.sort((a, b) => b.range - a.range).slice(0, LOOKED_AT);
}
