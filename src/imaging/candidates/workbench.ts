/**
 * Holds the planned picture of one geometry at a time, made only when an encode is really needed, and every
 * trial through the cache.
 */

import { createHash } from "node:crypto";
import { CAN, heldBy, type OutputFormat, type ResolvedBrief } from "@/core/brief";
import { type Picture, type Setting, settingKey } from "@/core/coding";
import {
  padAvif,
  padGif,
  padJpeg,
  padPdf,
  padPng,
  padTiff,
  readWebp,
  rebuildBmp,
  rebuildWebp,
  webpChunk,
} from "@/core/containers";
import type { Geometry } from "@/core/geometry";
import { type Frame, lightSettingsOf } from "@/core/photo";
import type { RgbSpace } from "@/core/pixels/colour";
import { expansionOf } from "@/core/pixels/light";
import { encode, encodeAside } from "../encode";
import { assemble, destinationOf, type Headers, plannedHeaders } from "../headers";
import type { PlannedCache } from "../planned";
import { isFlat, type PicturePlan, type Prepared, preparePicture } from "../planned";
import type { Source } from "../source";
import type { Judged } from "../workers";
import { decodeTrial } from "./decode-trial";
import { Judge, seenLarger } from "./judge";
import { memoryTrials } from "./memory-trials";
import { SAMPLED_FROM, SIDE, sampleOf } from "./sample";
import type { PictureLook, TrialStore } from "./trial-store";

/** Goes into the key of every cached trial: raise it when the same settings give other bytes. */
export const ENGINE = "3";

/** One trial of a planned picture. */
export interface MadeTrial {
  pictureKey: string;
  settingKey: string;
  /** Of the whole file, headers included. */
  bytes: number;
}

export interface BenchRequest {
  source: Source;
  frame: Frame;
  trials?: TrialStore;
  /** Keeps planned pictures, where a photo is worked on in several steps. */
  planned?: PlannedCache;
  /** Called between steps; throws when nobody wants the answer any more. */
  wanted?: () => void | Promise<void>;
  /** SHA-256 of the source where it is known already. */
  sha256?: string;
}

export class Workbench {
  /** Planned pictures in use: one, or two while fewer pixels are held against more. */
  private readonly pixels = new Map<string, Promise<Prepared>>();
  private last: { setting: Setting; key: string; encoded: Uint8Array } | null = null;
  private readonly trials: TrialStore;
  private readonly sha256: string;
  private lastJudge: Judge | null = null;
  private sampled: { key: string; picture: Picture } | null = null;
  private readonly looks = new Map<string, PictureLook>();

  constructor(
    private readonly request: BenchRequest,
    private readonly brief: ResolvedBrief,
  ) {
    this.trials = request.trials ?? memoryTrials();
    this.sha256 = request.sha256 ?? createHash("sha256").update(request.source.bytes).digest("hex");
  }

  async picture(geometry: Geometry, format: OutputFormat, seenAs?: Geometry): Promise<Picture> {
    const { overhead } = await this.overhead(geometry, format);
    const { flat } = await this.look(geometry, format);
    return {
      pixels: geometry.width * geometry.height,
      flat,
      overhead,
      encode: async (setting) => (await this.trial(geometry, setting)).bytes,
      difference: async (setting) => (await this.judged(geometry, setting, seenAs)).difference,
      sample: () => this.sample(geometry, format),
    };
  }

  /** Makes a trial, or finds it. */
  async trial(geometry: Geometry, setting: Setting): Promise<MadeTrial> {
    await this.request.wanted?.();
    const pictureKey = this.pictureKey(geometry, setting.format);
    const key = settingKey(setting);
    const { added } = await this.overhead(geometry, setting.format);
    const known = await this.trials.find(pictureKey, key);
    if (known) return { pictureKey, settingKey: key, bytes: known.bytes + added };
    await this.look(geometry, setting.format);
    const encoded = await this.encoded(geometry, setting);
    return { pictureKey, settingKey: key, bytes: this.assembled(encoded, geometry, setting.format).length };
  }

  /**
   * What is seen of a trial beside the planned picture, or beside one of more pixels at the same apparent
   * size.
   */
  async judged(geometry: Geometry, setting: Setting, seenAs?: Geometry): Promise<Judged> {
    await this.request.wanted?.();
    const { format } = setting;
    const pictureKey = this.pictureKey(geometry, format);
    const known = seenAs ? null : (await this.trials.find(pictureKey, settingKey(setting)))?.judged;
    if (known) return known;
    const encoded = await this.bare(geometry, setting);
    const like = await this.planned(geometry, format);
    const pixels = await decodeTrial(encoded, setting, like, this.cmyk(format));
    if (seenAs) {
      const whole = await this.planned(seenAs, format);
      return this.judge(this.pictureKey(seenAs, format), whole, format).of(await seenLarger(pixels, seenAs));
    }
    const judged = await this.judge(pictureKey, like, format).of(pixels);
    await this.trials.judge(pictureKey, settingKey(setting), judged);
    return judged;
  }

  /** Bytes that a file has beside the bare encoding of a trial. */
  async added(geometry: Geometry, format: OutputFormat): Promise<number> {
    return (await this.overhead(geometry, format)).added;
  }

  private judge(key: string, pixels: Prepared, format: OutputFormat): Judge {
    if (this.lastJudge?.id !== key) this.lastJudge = new Judge(key, pixels, this.colours(format));
    return this.lastJudge;
  }

  /** The space of the planned picture's code values. */
  private colours(format: OutputFormat): RgbSpace | undefined {
    const held = heldBy(this.brief, format);
    const { space } = destinationOf(held, this.request.source, this.request.frame.takenAs);
    return space === "gray" ? undefined : space;
  }

  private async sample(geometry: Geometry, format: OutputFormat): Promise<Picture | null> {
    if (geometry.width * geometry.height < SAMPLED_FROM) return null;
    const key = `${this.pictureKey(geometry, format)} sample`;
    if (this.sampled?.key === key) return this.sampled.picture;
    const pixels = sampleOf(await this.planned(geometry, format));
    const judge = new Judge(key, pixels, this.colours(format), SIDE);
    const trials = new Map<string, { encoded: Uint8Array; difference: number | null }>();
    const made = async (setting: Setting) => {
      await this.request.wanted?.();
      let trial = trials.get(settingKey(setting));
      if (!trial)
        trials.set(
          settingKey(setting),
          (trial = {
            encoded: await encodeAside(pixels, setting, this.cmyk(format), this.request.wanted),
            difference: null,
          }),
        );
      return trial;
    };
    const picture: Picture = {
      pixels: pixels.width * pixels.height,
      flat: isFlat(pixels),
      overhead: 0,
      encode: async (setting) => (await made(setting)).encoded.length,
      difference: async (setting) => {
        const trial = await made(setting);
        return (trial.difference ??= (
          await judge.of(await decodeTrial(trial.encoded, setting, pixels, this.cmyk(format)))
        ).difference);
      },
      sample: async () => null,
    };
    this.sampled = { key, picture };
    return picture;
  }

  async look(geometry: Geometry, format: OutputFormat): Promise<PictureLook> {
    const key = this.pictureKey(geometry, format);
    const known = this.looks.get(key) ?? (await this.trials.look(key)) ?? null;
    if (known) return known;
    const made = await this.planned(geometry, format);
    const look: PictureLook = {
      flat: isFlat(made),
      kernel: made.kernel,
      conversion: made.conversion,
      screen: made.screen,
    };
    this.looks.set(key, look);
    await this.trials.keepLook(key, look);
    return look;
  }

  /** The whole file of a setting that the search has chosen. */
  async file(geometry: Geometry, setting: Setting, padTo: number | null): Promise<Uint8Array> {
    const bytes = this.assembled(await this.bare(geometry, setting), geometry, setting.format);
    return padTo === null ? bytes : this.filled(bytes, geometry, setting.format, padTo);
  }

  /** The bare encoding of a trial: the last one, one that was kept, or made now. */
  private async bare(geometry: Geometry, setting: Setting): Promise<Uint8Array> {
    const key = this.pictureKey(geometry, setting.format);
    const same = this.last?.key === key && settingKey(this.last.setting) === settingKey(setting);
    return (
      (same ? this.last!.encoded : null) ??
      (await this.trials.read(key, settingKey(setting))) ??
      this.encoded(geometry, setting)
    );
  }

  headers(format: OutputFormat): Headers {
    const held = heldBy(this.brief, format);
    return plannedHeaders(
      held,
      this.request.source,
      destinationOf(held, this.request.source, this.request.frame.takenAs),
      this.request.frame,
    );
  }

  private filled(bytes: Uint8Array, geometry: Geometry, format: OutputFormat, target: number): Uint8Array {
    switch (format) {
      case "jpeg":
        return padJpeg(bytes, target);
      case "png":
        return padPng(bytes, target);
      case "webp": {
        const file = readWebp(bytes);
        const headers = {
          icc: webpChunk(file, "ICCP"),
          exif: webpChunk(file, "EXIF"),
          xmp: webpChunk(file, "XMP "),
        };
        // With the filling comes the extended header of 18 bytes, where there was none.
        const missing = target - rebuildWebp(file, headers, 8).length + 8;
        return rebuildWebp(file, headers, Math.max(8, missing + (missing & 1)));
      }
      case "avif":
        return padAvif(bytes, target);
      case "tiff":
        return padTiff(bytes, target);
      case "pdf":
        return padPdf(bytes, target);
      case "gif":
        return padGif(bytes, target);
      default:
        return rebuildBmp(bytes, this.headers("bmp").ppi(geometry), target);
    }
  }

  private async encoded(geometry: Geometry, setting: Setting): Promise<Uint8Array> {
    const pixels = await this.planned(geometry, setting.format);
    const key = this.pictureKey(geometry, setting.format);
    const start = performance.now();
    const encoded = await encodeAside(pixels, setting, this.cmyk(setting.format), this.request.wanted);
    this.last = { setting, key, encoded };
    await this.trials.keep(key, setting, encoded, Math.round(performance.now() - start));
    return encoded;
  }

  private cmyk(format: OutputFormat): boolean {
    const held = heldBy(this.brief, format);
    return destinationOf(held, this.request.source, this.request.frame.takenAs).name === "cmyk";
  }

  planned(geometry: Geometry, format: OutputFormat): Promise<Prepared> {
    const key = this.pictureKey(geometry, format);
    const known = this.pixels.get(key) ?? this.prepared(key, geometry, format);
    this.pixels.delete(key);
    this.pixels.set(key, known);
    if (this.pixels.size > 2) this.pixels.delete(this.pixels.keys().next().value!);
    return known;
  }

  private async prepared(key: string, geometry: Geometry, format: OutputFormat): Promise<Prepared> {
    const { source, planned } = this.request;
    const kept = await planned?.get(key);
    if (kept) return kept;
    const made = await preparePicture(source, this.plan(geometry, format));
    await planned?.put(key, made);
    return made;
  }

  private plan(geometry: Geometry, format: OutputFormat): PicturePlan {
    const held = heldBy(this.brief, format);
    const { frame, source } = this.request;
    return {
      geometry,
      frame,
      to: destinationOf(held, source, frame.takenAs),
      bits: held.bits === 8 && held.light === "sdr" ? 8 : 16,
      background: held.background,
      border: held.border?.colour,
      opaque: !CAN[format].transparency || held.space === "cmyk",
      sharpen: held.sharpen,
      ppi: this.headers(format).ppi(geometry),
      ...(held.light === "hdr" && { expand: expansionOf(lightSettingsOf(frame)) }),
    };
  }

  private assembled(encoded: Uint8Array, geometry: Geometry, format: OutputFormat): Uint8Array {
    return assemble(encoded, format, this.headers(format), geometry);
  }

  /**
   * Bytes of headers in any file of this size, measured on a picture of one colour; `added` are those that
   * the bare
   * encoding does not have yet (CMYK comes with its profile).
   */
  private async overhead(
    geometry: Geometry,
    format: OutputFormat,
  ): Promise<{ overhead: number; added: number }> {
    const [plain, bare] = await Promise.all([bareFile(format, false), bareFile(format, this.cmyk(format))]);
    const whole = this.assembled(bare, geometry, format).length;
    return { overhead: whole - plain.length, added: whole - bare.length };
  }

  pictureKey(geometry: Geometry, format: OutputFormat): string {
    const { geometry: _, to, ...plan } = this.plan(geometry, format);
    const { facts } = this.request.source;
    const round = (rect: { x: number; y: number; width: number; height: number }) =>
      [rect.x, rect.y, rect.width, rect.height].map((v) => v.toFixed(3));
    const edge = geometry.border ? [geometry.border, plan.border] : null;
    const under = (facts.alpha && plan.opaque) || geometry.mode === "pad" ? plan.background : "";
    const parts = [
      ENGINE,
      this.sha256,
      geometry.width,
      geometry.height,
      round(geometry.crop),
      round(geometry.place),
      geometry.turn ?? 0,
      geometry.angle ?? 0,
      to.name,
      to.keeps,
      plan.bits,
      plan.frame.kernel ?? "",
      plan.frame.takenAs ?? "",
      under,
      facts.alpha && !plan.opaque,
      plan.sharpen
        ? [plan.sharpen.for, plan.sharpen.amount, plan.sharpen.for === "print" ? plan.ppi : null]
        : null,
      ...(edge ? [edge] : []),
      ...(to.light ? [["light", to.light, plan.expand]] : []),
    ];
    return createHash("sha256").update(JSON.stringify(parts)).digest("hex");
  }
}

const bares = new Map<string, Promise<Uint8Array>>();
const DOT = { data: new Uint8Array(16 * 16 * 3), width: 16, height: 16, channels: 3 };
const PLAIN: Record<OutputFormat, Setting> = {
  pdf: { format: "pdf", quality: 50, chroma: "4:4:4", table: 0, effort: "fast" },
  jpeg: { format: "jpeg", quality: 50, chroma: "4:4:4", table: 0, effort: "fast" },
  png: { format: "png", colours: null, level: 9 },
  webp: { format: "webp", quality: 50, effort: 0 },
  avif: { format: "avif", quality: 50, bits: 8, effort: 0 },
  tiff: { format: "tiff", packing: "none" },
  gif: { format: "gif", colours: 2 },
  bmp: { format: "bmp" },
};

function bareFile(format: OutputFormat, cmyk: boolean): Promise<Uint8Array> {
  const key = `${format} ${cmyk}`;
  let bare = bares.get(key);
  if (!bare) bares.set(key, (bare = encode(DOT, PLAIN[format], cmyk)));
  return bare;
}
