/** One photo through one brief: pass through where it obeys already, else plan, search, encode. */
import { createHash } from "node:crypto";
import { clauseNames, clauseWords, notCarriedOut, resolveBrief, WISHES_GIVEN_UP, type Brief, type OutputFormat, type ResolvedBrief } from "@/core/brief";
import { padJpeg, padPng } from "@/core/containers";
import { CENTRED, planGeometry, targetFor, type Frame, type Geometry } from "@/core/frame";
import { allowedFormats, passSteps, planSteps, reasonsToEncode, type Step } from "@/core/plan";
import { checkFacts, meets, unchanged, type Check, type Facts } from "@/core/proof";
import { fitFormats, settingKey, type Picture, type Setting } from "@/core/search";
import { formatBytes } from "@/core/units";
import { encode } from "./encode";
import { PhotoError } from "./error";
import { readSource, type Source } from "./facts";
import { assemble, plannedHeaders, resolutionToWrite, rewriteHeaders, type Headers } from "./headers";
import { isFlat, preparePixels, type Pixels } from "./prepare";

/** Goes into the key of every cached trial: raise it when the same settings give other bytes. */
export const ENGINE = "1";

/** Remembers trials across runs. Bytes are those of the bare encoding, without headers. */
export interface TrialStore {
  /** Whether a planned picture is flat (see `Picture`); null where it was never looked at. */
  flat(pictureKey: string): Promise<boolean | null>;
  keepFlat(pictureKey: string, flat: boolean): Promise<void>;
  /** Size in bytes of a trial; null where it was never made. */
  find(pictureKey: string, settingKey: string): Promise<number | null>;
  read(pictureKey: string, settingKey: string): Promise<Buffer | null>;
  keep(pictureKey: string, setting: Setting, encoded: Buffer): Promise<void>;
}

export interface FitRequest {
  source: Source;
  brief: Brief;
  frame?: Frame;
  trials?: TrialStore;
  /** Called between steps; throws when nobody wants the answer any more. */
  wanted?: () => void | Promise<void>;
  /** SHA-256 of the source where it is known already. */
  sha256?: string;
}

export interface FitAnswer {
  /** The whole file; null where the photo cannot meet the brief. */
  output: Uint8Array | null;
  format: OutputFormat | null;
  error: string | null;
  geometry: Geometry | null;
  setting: Setting | null;
  passedThrough: boolean;
  encodes: number;
  steps: Step[];
  told: string[];
  notes: string[];
}

/** The brief's clauses that cannot be carried out yet, as one sentence; null where all can. */
export function refusal(brief: Brief): string | null {
  const missing = notCarriedOut(brief);
  return missing.length ? `not carried out yet: ${missing.join(", ")}` : null;
}

/**
 * Plans and makes the file in memory. Wishes that the photo cannot have are given up one by one, the dearest last.
 * Throws only for damage to the photo or when it is no longer wanted.
 */
export async function fitPhoto(request: FitRequest): Promise<FitAnswer> {
  const first = await fitAsAsked(request);
  if (first.error === null || refusal(request.brief)) return first;
  let brief = request.brief;
  for (const clause of WISHES_GIVEN_UP) {
    if (!brief.wishes?.includes(clause) || brief[clause] === undefined) continue;
    brief = { ...brief, [clause]: undefined };
    const answer = await fitAsAsked({ ...request, brief });
    if (answer.error !== null) continue;
    const lost = WISHES_GIVEN_UP.filter((key) => request.brief[key] !== undefined && brief[key] === undefined);
    const words = lost.map((key) => `${clauseNames[key].toLowerCase()} ${clauseWords(request.brief, key)}`).join(", ");
    return { ...answer, notes: [...answer.notes, `The wish for ${words} gave way: ${first.error}`], encodes: answer.encodes + first.encodes };
  }
  return first;
}

async function fitAsAsked(request: FitRequest): Promise<FitAnswer> {
  const { source, brief } = request;
  const resolved = resolveBrief(brief);
  const notes = resolved.fileSize.note ? [resolved.fileSize.note] : [];
  for (const { clause, why } of targetFor(resolved, source.facts).lost) notes.push(`${clauseNames[clause]} gave way: ${why}.`);
  const nothing = { output: null, format: null, geometry: null, setting: null, passedThrough: false, encodes: 0, steps: [], told: [], notes };
  const refused = refusal(brief);
  if (refused) return { ...nothing, error: refused };
  let geometry: Geometry;
  try {
    geometry = planGeometry(resolved, source.facts, request.frame ?? CENTRED);
  } catch (error) {
    if (error instanceof Error && error.name === "GeometryError") return { ...nothing, error: error.message };
    throw error;
  }
  const passed = await passThrough(request, resolved, geometry, notes);
  return passed ?? (await fitAnew(request, resolved, geometry, notes));
}

async function passThrough({ source, brief }: FitRequest, resolved: ResolvedBrief, geometry: Geometry, notes: string[]): Promise<FitAnswer | null> {
  if (reasonsToEncode(brief, resolved, source.facts, geometry).length) return null;
  const output = rewriteHeaders(resolved, source);
  const { min, max } = resolved.fileSize;
  if ((min !== null && output.length < min) || (max !== null && output.length > max)) return null;
  // Passing through still has to prove that the picture is whole.
  await preparePixels(source, geometry, resolved.background, false);
  const identical = output === source.bytes;
  const { dropped } = plannedHeaders(resolved, source);
  const steps = passSteps(
    {
      brief, resolved, facts: source.facts, geometry, dropped,
      encoding: { setting: null, format: source.facts.format, bytes: output.length, about: null, told: [] },
      writePpi: brief.resolution || brief.paper ? resolutionToWrite(resolved, source, geometry) : null,
    },
    identical,
  );
  return { output, format: source.facts.format as OutputFormat, error: null, geometry, setting: null, passedThrough: true, encodes: 0, steps, told: [], notes };
}

async function fitAnew(request: FitRequest, resolved: ResolvedBrief, geometry: Geometry, notes: string[]): Promise<FitAnswer> {
  const { source, brief } = request;
  const headers = plannedHeaders(resolved, source);
  const bench = new Bench(request, resolved, headers);
  const formats = allowedFormats(resolved, source.facts);
  const fitted = await fitFormats({
    brief: resolved,
    photo: source.facts,
    frame: request.frame ?? CENTRED,
    geometry,
    formats,
    softCeiling: softCeiling(brief, resolved, source.facts, geometry),
    picture: (g, format) => bench.picture(g, format),
  });
  if (!fitted.ok) {
    return { output: null, format: null, error: fitted.why, geometry, setting: null, passedThrough: false, encodes: fitted.encodes, steps: [], told: [], notes };
  }
  const output = await bench.file(fitted.geometry, fitted.setting, fitted.padTo);
  const { format } = fitted.setting;
  if (output.length > source.bytes.length) {
    const why = format === source.facts.format ? "a clause asks for more" : "another format is asked and the ceiling leaves room";
    notes.push(`The file is larger than the photo was (${formatBytes(source.bytes.length)}), because ${why}.`);
  }
  const steps = planSteps({
    brief, resolved, facts: source.facts, geometry: fitted.geometry, writePpi: headers.ppi(fitted.geometry), dropped: headers.dropped,
    encoding: { setting: fitted.setting, format, bytes: output.length, about: null, told: fitted.told },
  });
  return {
    output, format, error: null, geometry: fitted.geometry, setting: fitted.setting, passedThrough: false,
    encodes: fitted.encodes, steps, told: fitted.told, notes,
  };
}

/** No JPEG is made larger than it came where nothing asks for that. */
function softCeiling(brief: Brief, resolved: ResolvedBrief, facts: Facts, geometry: Geometry): number | null {
  const grows = geometry.width * geometry.height > facts.width * facts.height;
  if (facts.format !== "jpeg" || grows || brief.quality || (resolved.formats && resolved.formats[0] !== "jpeg")) return null;
  return facts.bytes;
}

/** Holds the planned picture of one geometry at a time, made only when an encode is really needed. */
class Bench {
  private key = "";
  private pixels: Promise<Pixels> | null = null;
  private last: { setting: Setting; key: string; encoded: Buffer } | null = null;
  private readonly sha256: string;

  constructor(private readonly request: FitRequest, private readonly brief: ResolvedBrief, private readonly headers: Headers) {
    this.sha256 = request.sha256 ?? createHash("sha256").update(request.source.bytes).digest("hex");
  }

  async picture(geometry: Geometry, format: OutputFormat): Promise<Picture> {
    const writable = format as "jpeg" | "png";
    const key = this.pictureKey(geometry, writable);
    const overhead = this.overhead(geometry, writable);
    const { trials } = this.request;
    const known = (await trials?.flat(key)) ?? null;
    const flat = known ?? isFlat(await this.planned(geometry, writable));
    if (known === null) await trials?.keepFlat(key, flat);
    return {
      pixels: geometry.width * geometry.height,
      flat,
      overhead,
      encode: async (setting) => {
        await this.request.wanted?.();
        const cached = await trials?.find(key, settingKey(setting));
        if (cached != null) return cached + overhead;
        const encoded = await encode(await this.planned(geometry, writable), setting);
        this.last = { setting, key, encoded };
        await trials?.keep(key, setting, encoded);
        return this.assembled(encoded, geometry, writable).length;
      },
    };
  }

  /** The whole file of a setting that the search has chosen. */
  async file(geometry: Geometry, setting: Setting, padTo: number | null): Promise<Uint8Array> {
    const key = this.pictureKey(geometry, setting.format);
    const same = this.last?.key === key && settingKey(this.last.setting) === settingKey(setting);
    const encoded =
      (same ? this.last!.encoded : null) ??
      (await this.request.trials?.read(key, settingKey(setting))) ??
      (await encode(await this.planned(geometry, setting.format), setting));
    const bytes = this.assembled(encoded, geometry, setting.format);
    if (padTo === null) return bytes;
    return setting.format === "jpeg" ? padJpeg(bytes, padTo) : padPng(bytes, padTo);
  }

  private planned(geometry: Geometry, format: "jpeg" | "png"): Promise<Pixels> {
    const key = this.pictureKey(geometry, format);
    if (this.key !== key || !this.pixels) {
      this.key = key;
      this.pixels = preparePixels(this.request.source, geometry, this.brief.background, format === "jpeg");
    }
    return this.pixels;
  }

  private assembled(encoded: Uint8Array, geometry: Geometry, format: "jpeg" | "png"): Uint8Array {
    return assemble(encoded, format, this.headers, geometry, this.brief.metadata === "none");
  }

  /** Bytes that the headers add to any encoding of this size. */
  private overhead(geometry: Geometry, format: "jpeg" | "png"): number {
    const bare = format === "jpeg" ? BARE_JPEG : BARE_PNG;
    return this.assembled(bare, geometry, format).length - bare.length;
  }

  private pictureKey(geometry: Geometry, format: "jpeg" | "png"): string {
    const { facts } = this.request.source;
    const round = (rect: { x: number; y: number; width: number; height: number }) => [rect.x, rect.y, rect.width, rect.height].map((v) => v.toFixed(3));
    const under = (facts.alpha && format === "jpeg") || geometry.mode === "pad" ? this.brief.background : "";
    const parts = [ENGINE, this.sha256, geometry.width, geometry.height, round(geometry.crop), round(geometry.place), under, facts.alpha && format === "png"];
    return createHash("sha256").update(JSON.stringify(parts)).digest("hex");
  }
}

/** The smallest files with the segments that every bare encoding has. */
const BARE_JPEG = Buffer.from("ffd8ffe000104a46494600010100000100010000ffc0000b080001000101011100ffda0008010100003f0000ffd9", "hex");
const BARE_PNG = Buffer.from("89504e470d0a1a0a0000000d49484452000000010000000108000000003a7e9b550000000049454e44ae426082", "hex");

export interface Proof {
  ok: boolean;
  facts: Facts;
  checks: Check[];
  unchanged: string[];
}

/** Reads written bytes back with a fresh decoder and holds them against the brief. Throws where they do not decode. */
export async function prove(brief: Brief, written: Buffer, before: Facts | null): Promise<Proof> {
  const source = await readSource(written);
  const { facts } = source;
  const geometry = planGeometry(resolveBrief({ zumbrelBrief: 1, name: "as it is" }), facts);
  const pixels = await preparePixels(source, geometry, "#ffffff", false);
  if (pixels.width !== facts.width || pixels.height !== facts.height) throw new PhotoError("The written file decodes to another size than it says.");
  const checks = checkFacts(brief, resolveBrief(brief), facts, before);
  return { ok: meets(checks), facts, checks, unchanged: before ? unchanged(brief, before, facts) : [] };
}
