/** Holds the planned picture of one geometry at a time, made only when an encode is really needed, and every trial through the cache. */
import { createHash } from "node:crypto";
import { CAN, heldBy, type OutputFormat, type ResolvedBrief } from "@/core/brief";
import type { ConversionReport } from "@/core/colour";
import { padAvif, padGif, padJpeg, padPng, padTiff, readWebp, rebuildBmp, rebuildWebp, webpChunk } from "@/core/containers";
import type { Frame, Geometry } from "@/core/frame";
import type { KernelName } from "@/core/resample";
import { settingKey, type Picture, type Setting } from "@/core/search";
import { destinationOf } from "./destination";
import { encode } from "./encode";
import type { Source } from "./facts";
import { assemble, plannedHeaders, type Headers } from "./headers";
import { isFlat, preparePicture, type PicturePlan, type Prepared } from "./prepare";

/** Goes into the key of every cached trial: raise it when the same settings give other bytes. */
export const ENGINE = "2";

/** What is known of a planned picture without making it again. */
export interface PictureLook {
  /** See `Picture`. */
  flat: boolean;
  kernel: KernelName | null;
  conversion: ConversionReport | null;
  /** Period in px of a dot screen in the photo. */
  screen: number | null;
}

/** Remembers trials across runs. Bytes are those of the bare encoding, without headers. */
export interface TrialStore {
  /** Null where the picture was never made. */
  look(pictureKey: string): Promise<PictureLook | null>;
  keepLook(pictureKey: string, look: PictureLook): Promise<void>;
  /** Size in bytes of a trial; null where it was never made. */
  find(pictureKey: string, settingKey: string): Promise<number | null>;
  read(pictureKey: string, settingKey: string): Promise<Buffer | null>;
  keep(pictureKey: string, setting: Setting, encoded: Uint8Array): Promise<void>;
}

export interface BenchRequest {
  source: Source;
  frame: Frame;
  trials?: TrialStore;
  /** Called between steps; throws when nobody wants the answer any more. */
  wanted?: () => void | Promise<void>;
  /** SHA-256 of the source where it is known already. */
  sha256?: string;
}

export class Workbench {
  private key = "";
  private pixels: Promise<Prepared> | null = null;
  private last: { setting: Setting; key: string; encoded: Uint8Array } | null = null;
  private readonly sha256: string;
  private readonly looks = new Map<string, PictureLook>();

  constructor(private readonly request: BenchRequest, private readonly brief: ResolvedBrief) {
    this.sha256 = request.sha256 ?? createHash("sha256").update(request.source.bytes).digest("hex");
  }

  async picture(geometry: Geometry, format: OutputFormat): Promise<Picture> {
    const key = this.pictureKey(geometry, format);
    const { overhead, added } = await this.overhead(geometry, format);
    const { trials } = this.request;
    const { flat } = await this.look(geometry, format);
    return {
      pixels: geometry.width * geometry.height,
      flat,
      overhead,
      encode: async (setting) => {
        await this.request.wanted?.();
        const cached = await trials?.find(key, settingKey(setting));
        if (cached != null) return cached + added;
        const encoded = await this.encoded(geometry, setting);
        this.last = { setting, key, encoded };
        await trials?.keep(key, setting, encoded);
        return this.assembled(encoded, geometry, format).length;
      },
    };
  }

  async look(geometry: Geometry, format: OutputFormat): Promise<PictureLook> {
    const key = this.pictureKey(geometry, format);
    const known = this.looks.get(key) ?? (await this.request.trials?.look(key)) ?? null;
    if (known) return known;
    const made = await this.planned(geometry, format);
    const look: PictureLook = { flat: isFlat(made), kernel: made.kernel, conversion: made.conversion, screen: made.screen };
    this.looks.set(key, look);
    await this.request.trials?.keepLook(key, look);
    return look;
  }

  /** The whole file of a setting that the search has chosen. */
  async file(geometry: Geometry, setting: Setting, padTo: number | null): Promise<Uint8Array> {
    const key = this.pictureKey(geometry, setting.format);
    const same = this.last?.key === key && settingKey(this.last.setting) === settingKey(setting);
    const encoded = (same ? this.last!.encoded : null) ?? (await this.request.trials?.read(key, settingKey(setting))) ?? (await this.encoded(geometry, setting));
    const bytes = this.assembled(encoded, geometry, setting.format);
    return padTo === null ? bytes : this.filled(bytes, geometry, setting.format, padTo);
  }

  headers(format: OutputFormat): Headers {
    const held = heldBy(this.brief, format);
    return plannedHeaders(held, this.request.source, destinationOf(held, this.request.source, this.request.frame.takenAs), this.request.frame);
  }

  private filled(bytes: Uint8Array, geometry: Geometry, format: OutputFormat, target: number): Uint8Array {
    switch (format) {
      case "jpeg":
        return padJpeg(bytes, target);
      case "png":
        return padPng(bytes, target);
      case "webp": {
        const file = readWebp(bytes);
        const headers = { icc: webpChunk(file, "ICCP"), exif: webpChunk(file, "EXIF"), xmp: webpChunk(file, "XMP ") };
        // With the filling comes the extended header of 18 bytes, where there was none.
        const missing = target - rebuildWebp(file, headers, 8).length + 8;
        return rebuildWebp(file, headers, Math.max(8, missing + (missing & 1)));
      }
      case "avif":
        return padAvif(bytes, target);
      case "tiff":
        return padTiff(bytes, target);
      case "gif":
        return padGif(bytes, target);
      default:
        return rebuildBmp(bytes, this.headers("bmp").ppi(geometry), target);
    }
  }

  private async encoded(geometry: Geometry, setting: Setting): Promise<Uint8Array> {
    return encode(await this.planned(geometry, setting.format), setting, this.cmyk(setting.format));
  }

  private cmyk(format: OutputFormat): boolean {
    const held = heldBy(this.brief, format);
    return destinationOf(held, this.request.source, this.request.frame.takenAs).name === "cmyk";
  }

  private planned(geometry: Geometry, format: OutputFormat): Promise<Prepared> {
    const key = this.pictureKey(geometry, format);
    if (this.key !== key || !this.pixels) {
      this.key = key;
      this.pixels = preparePicture(this.request.source, this.plan(geometry, format));
    }
    return this.pixels;
  }

  private plan(geometry: Geometry, format: OutputFormat): PicturePlan {
    const held = heldBy(this.brief, format);
    const { frame, source } = this.request;
    return {
      geometry, frame,
      to: destinationOf(held, source, frame.takenAs),
      bits: held.bits === 8 ? 8 : 16,
      background: held.background,
      opaque: !CAN[format].transparency || held.space === "cmyk",
      sharpen: held.sharpen,
      ppi: this.headers(format).ppi(geometry),
    };
  }

  private assembled(encoded: Uint8Array, geometry: Geometry, format: OutputFormat): Uint8Array {
    return assemble(encoded, format, this.headers(format), geometry);
  }

  /**
   * Bytes of headers in any file of this size, measured on a picture of one colour; `added` are those that the bare
   * encoding does not have yet (CMYK comes with its profile).
   */
  private async overhead(geometry: Geometry, format: OutputFormat): Promise<{ overhead: number; added: number }> {
    const [plain, bare] = await Promise.all([bareFile(format, false), bareFile(format, this.cmyk(format))]);
    const whole = this.assembled(bare, geometry, format).length;
    return { overhead: whole - plain.length, added: whole - bare.length };
  }

  private pictureKey(geometry: Geometry, format: OutputFormat): string {
    const { geometry: _, to, ...plan } = this.plan(geometry, format);
    const { facts } = this.request.source;
    const round = (rect: { x: number; y: number; width: number; height: number }) => [rect.x, rect.y, rect.width, rect.height].map((v) => v.toFixed(3));
    const under = (facts.alpha && plan.opaque) || geometry.mode === "pad" ? plan.background : "";
    const parts = [
      ENGINE, this.sha256, geometry.width, geometry.height, round(geometry.crop), round(geometry.place), geometry.turn ?? 0, geometry.angle ?? 0,
      to.name, to.keeps, plan.bits, plan.frame.kernel ?? "", plan.frame.takenAs ?? "", under, facts.alpha && !plan.opaque,
      plan.sharpen ? [plan.sharpen.for, plan.sharpen.amount, plan.sharpen.for === "print" ? plan.ppi : null] : null,
    ];
    return createHash("sha256").update(JSON.stringify(parts)).digest("hex");
  }
}

const bares = new Map<string, Promise<Uint8Array>>();
const DOT = { data: new Uint8Array(16 * 16 * 3), width: 16, height: 16, channels: 3 };
const PLAIN: Partial<Record<OutputFormat, Setting>> = {
  jpeg: { format: "jpeg", quality: 50, chroma: "4:4:4", table: 0, effort: "fast" }, png: { format: "png", colours: null, level: 9 }, webp: { format: "webp", quality: 50, effort: 0 },
  avif: { format: "avif", quality: 50, bits: 8, effort: 0 }, tiff: { format: "tiff", packing: "none" }, gif: { format: "gif", colours: 2 }, bmp: { format: "bmp" },
};

function bareFile(format: OutputFormat, cmyk: boolean): Promise<Uint8Array> {
  const key = `${format} ${cmyk}`;
  let bare = bares.get(key);
  if (!bare) bares.set(key, (bare = encode(DOT, PLAIN[format]!, cmyk)));
  return bare;
}
