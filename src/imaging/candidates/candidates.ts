/**
 * The third station: encodings of the planned picture, made only when one is really needed, each once, and
 * judged only where somebody asks what is seen of it.
 */

import { setImmediate } from "node:timers/promises";
import type { OutputFormat } from "@/core/brief";
import {
  type JpegSetting,
  LARGE_PIXELS,
  type Picture as Searched,
  type Setting,
  settingKey,
} from "@/core/coding";
import type { GainMap } from "@/core/containers";
import type { Pixels } from "@/core/difference";
import { type Geometry, pixelsOf } from "@/core/geometry";
import type { Rect } from "@/core/photo";
import { encode, encodeAside } from "../encode";
import { assemble } from "../headers";
import {
  isFlat,
  type LargestPicture,
  type PixelCache,
  type PlannedPhoto,
  type PlannedPicture,
  PlannedPictures,
} from "../planned";
import type { Judged } from "../workers";
import { decodeFresh, decodeRounded, decodeTrial } from "./decode-trial";
import { Judge } from "./judge";
import { bytesOfMap, carriesMap, lightMap } from "./light-map";
import { memoryTrials } from "./memory-trials";
import { Sample } from "./sample";
import type { PictureLook, TrialStore } from "./trial-store";

export type Judging = "none" | "sample" | "whole";

/** How candidates are kept, and how they are broken off. */
export interface CandidatesOptions {
  trials?: TrialStore;
  /** Keeps planned pictures, where a photo is worked on in several steps. */
  planned?: PixelCache;
  /** Those of the same photo, where they are worked on again and again. */
  pictures?: PlannedPictures;
  /** What the files of a set are reduced from. */
  largest?: LargestPicture;
  /** How much is judged beyond what the choice itself needs: nothing, a sample of large pictures, all (if absent). */
  judging?: Judging;
  /** Aborted when nobody wants the answer any more; what it was aborted with is thrown. */
  signal?: AbortSignal;
}

/** One trial of a planned picture. */
export interface MadeTrial {
  pictureKey: string;
  settingKey: string;
  /** Of the whole file, headers included. */
  bytes: number;
}

/** Bytes beside the bare encoding of any setting. */
interface Overhead {
  /** Of everything that is not the picture. */
  overhead: number;
  /** Of what the bare encoding does not have yet: CMYK comes with its profile. */
  added: number;
}

export class Candidates {
  private readonly pictures: PlannedPictures;
  private readonly trials: TrialStore;
  private readonly signal: AbortSignal | undefined;
  private readonly judging: Judging;
  private readonly beingJudged = new Map<string, Promise<Judged>>();
  private last: { picture: string; setting: string; encoded: Uint8Array } | null = null;
  private lastJudge: Judge | null = null;
  private lastSample: Sample | null = null;
  private readonly looks = new Map<string, PictureLook>();
  private readonly overheads = new WeakMap<PlannedPicture, Promise<Overhead>>();
  private readonly maps = new WeakMap<PlannedPicture, Promise<GainMap>>();

  constructor(
    readonly photo: PlannedPhoto,
    { trials, planned, pictures, largest, judging = "whole", signal }: CandidatesOptions = {},
  ) {
    this.trials = trials ?? memoryTrials();
    this.signal = signal;
    this.judging = judging;
    this.pictures = pictures ?? new PlannedPictures(photo, planned, largest);
  }

  /** Nobody reads what is seen of the files. */
  get untold(): boolean {
    return this.judging === "none";
  }

  /** What is planned for pixels and format; nothing is decoded. */
  at(geometry: Geometry, format: OutputFormat): PlannedPicture {
    return this.pictures.at(geometry, format);
  }

  pixels(picture: PlannedPicture) {
    return this.pictures.pixels(picture);
  }

  /** The picture as the search sees it; differences are judged as it is looked at. */
  async searched(geometry: Geometry, format: OutputFormat): Promise<Searched> {
    const picture = this.at(geometry, format);
    // Decoding begins first: measuring what headers take is work of this thread.
    const [{ flat }, { overhead }] = await Promise.all([
      this.look(picture),
      setImmediate().then(() => this.overhead(picture)),
    ]);
    return {
      pixels: geometry.width * geometry.height,
      flat,
      opaque: picture.plan.opaque || !this.photo.source.facts.alpha,
      overhead,
      encode: async (setting) => (await this.trial(picture, setting)).bytes,
      difference: async (setting) => (await this.judged(picture, setting)).difference,
      rounded: (setting) => this.rounded(picture, setting),
      sample: async () => (await this.sample(picture))?.searched ?? null,
      reduced: async (share) => (await this.tryingOf(picture)).searched.reduced(share),
    };
  }

  /** Makes a trial, or finds it. */
  async trial(picture: PlannedPicture, setting: Setting): Promise<MadeTrial> {
    this.signal?.throwIfAborted();
    const key = settingKey(setting);
    const { added } =
      setting.format === "tiff" ? await tiffOverhead(picture, setting) : await this.overhead(picture);
    const known = await this.trials.find(picture.key, key);
    if (!known) await this.look(picture);
    const bytes = known?.bytes ?? (await this.encoded(picture, setting)).length;
    // A directory of TIFF begins at an even place.
    const odd = setting.format === "tiff" ? bytes & 1 : 0;
    return { pictureKey: picture.key, settingKey: key, bytes: bytes + odd + added };
  }

  /** What is seen of a trial as it is looked at: at the view size, where that has more pixels, else at its own. */
  judged(picture: PlannedPicture, setting: Setting): Promise<Judged> {
    const key = `${picture.key} ${settingKey(setting)}`;
    const judged = this.beingJudged.get(key) ?? this.judgeTrial(picture, setting);
    this.beingJudged.set(key, judged);
    const done = () => void this.beingJudged.delete(key);
    judged.then(done, done);
    return judged;
  }

  private async judgeTrial(picture: PlannedPicture, setting: Setting): Promise<Judged> {
    this.signal?.throwIfAborted();
    const known = await this.judgedBefore(picture, setting);
    if (known) return known;
    const like = await this.pixels(picture);
    const encoded = await this.encoding(picture, setting);
    const decode = encoded === this.last?.encoded ? decodeFresh : decodeTrial;
    return this.judge(picture, setting, await decode(encoded, setting, like, picture.cmyk));
  }

  /** What a trial that was just made is decoded to; null for one that was there before. */
  async decodedNow(picture: PlannedPicture, setting: Setting): Promise<Pixels | null> {
    const { last } = this;
    if (last?.picture !== picture.key || last.setting !== settingKey(setting)) return null;
    return decodeFresh(last.encoded, setting, await this.pixels(picture), picture.cmyk);
  }

  /** Null where nobody has looked at this trial yet. */
  async judgedBefore(picture: PlannedPicture, setting: Setting): Promise<Judged | null> {
    return (await this.trials.find(picture.key, settingKey(setting)))?.judged ?? null;
  }

  /** Holds decoded pixels of a trial against the picture that is looked at, and remembers what was seen. */
  async judge(
    picture: PlannedPicture,
    setting: Setting,
    pixels: Parameters<Judge["of"]>[0],
  ): Promise<Judged> {
    const seen = await this.seen(picture, pixels);
    const judged = { ...seen, worst: onPixels(seen.worst, picture) };
    await this.trials.judge(picture.key, settingKey(setting), judged);
    return judged;
  }

  private async seen(picture: PlannedPicture, pixels: Parameters<Judge["of"]>[0]): Promise<Judged> {
    const judge = await this.judgeOf(picture);
    return picture.seenAs ? judge.asSeen(pixels) : judge.of(pixels);
  }

  /** What would be seen of a JPEG whose levels are only rounded, of which no trial is made. */
  private async rounded(picture: PlannedPicture, setting: JpegSetting): Promise<number | null> {
    this.signal?.throwIfAborted();
    const pixels = await decodeRounded(setting, await this.pixels(picture), picture.cmyk);
    return pixels && (await this.seen(picture, pixels)).difference;
  }

  /** About what is seen of decoded pixels, by parts of them; null where the picture is small enough itself. */
  async sampled(picture: PlannedPicture, pixels: Pixels): Promise<number | null> {
    return picture.seenAs ? null : ((await this.sample(picture))?.tells(pixels) ?? null);
  }

  /** The bare encoding of a trial: the last one, one that was kept, or made now. */
  async encoding(picture: PlannedPicture, setting: Setting): Promise<Uint8Array> {
    const key = settingKey(setting);
    if (this.last?.picture === picture.key && this.last.setting === key) return this.last.encoded;
    return (await this.trials.read(picture.key, key)) ?? this.encoded(picture, setting);
  }

  async look(picture: PlannedPicture): Promise<PictureLook> {
    const { key } = picture;
    const known = this.looks.get(key) ?? (await this.trials.look(key));
    if (known) return known;
    const made = await this.pixels(picture);
    const { kernel, conversion, dotScreen } = made;
    const look: PictureLook = { flat: isFlat(made), kernel, conversion, dotScreen };
    this.looks.set(key, look);
    await this.trials.keepLook(key, look);
    return look;
  }

  /** Measured once, on a picture of one colour. */
  overhead(picture: PlannedPicture): Promise<Overhead> {
    const known = this.overheads.get(picture) ?? this.measured(picture);
    this.overheads.set(picture, known);
    return known;
  }

  private async measured(picture: PlannedPicture): Promise<Overhead> {
    const bare = await measureOverhead(picture);
    const map = await this.gainMap(picture);
    const more = map ? bytesOfMap(await bareDot(PLAIN[picture.format]), map) : 0;
    return { overhead: bare.overhead + more, added: bare.added + more };
  }

  /** What its file carries beside the picture where light above white is asked; null for all others. */
  async gainMap(picture: PlannedPicture): Promise<GainMap | null> {
    if (!carriesMap(this.photo, picture)) return null;
    const known = this.maps.get(picture) ?? this.makeMap(picture);
    this.maps.set(picture, known);
    return known;
  }

  private async makeMap(picture: PlannedPicture): Promise<GainMap> {
    const { overhead } = await measureOverhead(picture);
    const { searched } = await this.tryingOf(picture);
    return lightMap(this.pictures, picture, { sample: searched, beside: overhead });
  }

  private async encoded(picture: PlannedPicture, setting: Setting): Promise<Uint8Array> {
    const pixels = await this.pixels(picture);
    // What is likely looked at is analysed beside the coding.
    if (this.looksAtWhole(picture)) await this.judgeOf(picture);
    const start = performance.now();
    const encoded = await encodeAside(pixels, setting, picture.cmyk, this.signal);
    this.last = { picture: picture.key, setting: settingKey(setting), encoded };
    await this.trials.keep(picture.key, setting, encoded, Math.round(performance.now() - start));
    return encoded;
  }

  private looksAtWhole({ geometry }: PlannedPicture): boolean {
    const { quality, fileSize } = this.photo.resolved;
    const fixed = quality !== null && fileSize.max === null && fileSize.min === null;
    if (fixed) return this.judging === "whole" || (this.judging === "sample" && !Sample.serves(geometry));
    return !(this.untold && pixelsOf(geometry) > LARGE_PIXELS);
  }

  /** What a picture's trials are held against. */
  private async judgeOf(own: PlannedPicture): Promise<Judge> {
    const picture = own.seenAs ? this.at(own.seenAs, own.format) : own;
    if (this.lastJudge?.id !== picture.key)
      this.lastJudge = new Judge(picture.key, await this.pixels(picture), picture.space).warmUp();
    return this.lastJudge;
  }

  private async sample(picture: PlannedPicture): Promise<Sample | null> {
    return Sample.serves(picture.geometry) ? this.tryingOf(picture) : null;
  }

  /** Its sample, or a small picture whole. */
  private async tryingOf(picture: PlannedPicture): Promise<Sample> {
    if (this.lastSample?.of !== picture.key)
      this.lastSample = new Sample(picture, await this.pixels(picture), this.signal);
    return this.lastSample;
  }
}

/** A place of the picture that is looked at, in pixels of the one that is coded. */
function onPixels(worst: Rect | null, { geometry, seenAs }: PlannedPicture): Rect | null {
  if (!worst || !seenAs) return worst;
  const [sx, sy] = [geometry.width / seenAs.width, geometry.height / seenAs.height];
  const [x, y] = [Math.floor(worst.x * sx), Math.floor(worst.y * sy)];
  const width = Math.min(geometry.width - x, Math.max(1, Math.round(worst.width * sx)));
  const height = Math.min(geometry.height - y, Math.max(1, Math.round(worst.height * sy)));
  return { x, y, width, height };
}

const bares = new Map<string, Promise<Uint8Array>>();
const DOT = { data: new Uint8Array(16 * 16 * 3), width: 16, height: 16, channels: 3 };
const GREY_DOT = { ...DOT, data: DOT.data.subarray(0, 16 * 16), channels: 1 };
const JPEG = { quality: 50, chroma: "4:4:4", table: 0, effort: "quick" } as const;
const PLAIN: Record<OutputFormat, Setting> = {
  pdf: { format: "pdf", ...JPEG },
  jpeg: { format: "jpeg", ...JPEG },
  png: { format: "png", colours: null, level: 9 },
  webp: { format: "webp", quality: 50, effort: 0 },
  avif: { format: "avif", quality: 50, bits: 8, effort: 0 },
  tiff: { format: "tiff", compression: "none" },
  gif: { format: "gif", colours: 2 },
  bmp: { format: "bmp" },
};

function bareDot(setting: Setting, { cmyk = false, grey = false } = {}): Promise<Uint8Array> {
  const key = `${settingKey(setting)} ${cmyk} ${grey}`;
  const known = bares.get(key) ?? encode(grey ? GREY_DOT : DOT, setting, cmyk);
  bares.set(key, known);
  return known;
}

async function measureOverhead({ format, cmyk, headers }: PlannedPicture): Promise<Overhead> {
  const [plain, bare] = await Promise.all([bareDot(PLAIN[format]), bareDot(PLAIN[format], { cmyk })]);
  const whole = assemble(bare, format, headers).length;
  return { overhead: whole - plain.length, added: whole - bare.length };
}

/** Each packing of TIFF has a directory of its own. */
async function tiffOverhead(
  { cmyk, headers, space }: PlannedPicture,
  setting: Extract<Setting, { format: "tiff" }>,
): Promise<Pick<Overhead, "added">> {
  const kind: Setting =
    setting.compression === "jpeg" ? { ...setting, quality: 50, table: 0, effort: "quick" } : setting;
  const bare = await bareDot(kind, { cmyk, grey: space === undefined });
  return { added: assemble(bare, "tiff", headers).length - bare.length - (bare.length & 1) };
}
