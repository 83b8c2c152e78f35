/**
 * Makes the trials from which the sharing of a limit on the whole knows what a photo takes at which
 * difference.
 */
import { type Brief, type OutputFormat, type ResolvedBrief, resolveBrief } from "@/core/brief";
import { type ArmSetting, armFor, qualityFor, type Traced, type Wanted, type WholeFile } from "@/core/budget";
import { CAREFUL_PIXELS, type Choice, type Picture, type Setting, searchPng, settingOf } from "@/core/coding";
import { type Geometry, rescale } from "@/core/geometry";
import { AUTO, type Frame, PhotoError } from "@/core/photo";
import { allowedFormats, keepsLayers, reasonsToEncode } from "@/core/plan";
import { rewriteHeaders } from "../headers";
import type { PlannedCache } from "../planned";
import { framed, staged } from "../planned";
import type { Source } from "../source";
import type { TrialStore } from "./trial-store";
import { Workbench } from "./workbench";

export interface TraceRequest {
  source: Source;
  brief: Brief;
  frame?: Frame;
  choice?: Choice;
  trials?: TrialStore;
  planned?: PlannedCache;
  wanted?: () => void | Promise<void>;
  sha256?: string;
}

/** A sample is tried where its picture is expected to differ by so much: from clean to plain to see. */
const SHAPE_AT = [0.9, 1.35, 2];
/** The second trial lies so far from the first, in difference. */
const APART = 1.3;

/**
 * Adds the trials that are wanted; null: none yet, only what can be told without making any. Throws a
 * GeometryError where the photo cannot take the pixels.
 */
export async function trace(
  request: TraceRequest,
  side: number | null,
  before: Traced | null,
  wanted: Pick<Wanted, "level" | "qualities"> | null,
): Promise<Traced> {
  const { brief } = request;
  const resolved = resolveBrief(brief);
  if (keepsLayers(resolved, request.source.facts))
    throw new PhotoError(
      "A limit on the whole cannot be shared with a file that stays in layers or pages. Let it be " +
        "flattened, or give it a brief of its own.",
    );
  const stage = await staged({ ...request, frame: request.frame ?? AUTO });
  const { source, sha256 } = stage;
  const { geometry: full, frame } = await framed(resolved, source, stage.frame);
  const geometry = reduced(resolved, source, full, frame, side);
  const bench = new Workbench({ ...request, source, sha256, frame }, resolved);
  const traced = before
    ? { ...before }
    : await begun({ ...request, source, frame }, resolved, bench, geometry, full, side);
  if (!traced.arm || !wanted) return traced;
  const { format } = traced;
  if (!traced.points.length) {
    const { flat } = await bench.look(geometry, format);
    traced.arm = armFor(format, resolved, geometry.width * geometry.height, flat);
  }
  const fewer = geometry.width * geometry.height < full.width * full.height;
  const picture = await bench.picture(geometry, format, fewer ? full : undefined);
  const out: Traced = { ...traced, points: [...traced.points], shape: [...traced.shape] };
  // A sample cannot show what fewer pixels cost.
  const sample = fewer ? null : await picture.sample();
  const looks = sample && picture.pixels > CAREFUL_PIXELS ? sample : null;
  const weigh = async (quality: number) => {
    if (out.points.some((point) => point.setting.quality === quality)) return;
    const setting: ArmSetting = { ...out.arm!.like, quality };
    const bytes = await picture.encode(setting);
    // The first look is at the whole, also of a large picture; it says how far to trust its sample.
    const whole = !looks || out.seen === null ? await picture.difference(setting) : null;
    if (looks && whole !== null)
      out.seen = Math.max(0.5, Math.min(2, whole / Math.max(1e-3, await looks.difference(setting))));
    out.points.push({ setting, bytes, difference: whole ?? (await looks!.difference(setting)) * out.seen! });
  };
  for (const quality of wanted.qualities) await weigh(quality);
  if (out.points.length) return out;
  if (sample && !out.shape.length) for (const level of SHAPE_AT) await shapeAt(out, sample, at(out, level));
  await weigh(at(out, wanted.level));
  if (sample) return out;
  const [first] = out.points;
  const other = at(out, first.difference > wanted.level ? wanted.level / APART : wanted.level * APART);
  if (other !== first.setting.quality) await weigh(other);
  return out;
}

const at = (traced: Traced, level: number): number => qualityFor({ ...traced, id: "" }, level);

async function shapeAt(traced: Traced, sample: Picture, quality: number): Promise<void> {
  if (traced.shape.some((point) => point.setting.quality === quality)) return;
  const setting: ArmSetting = { ...traced.arm!.like, quality };
  traced.shape.push({
    setting,
    bytes: await sample.encode(setting),
    difference: await sample.difference(setting),
  });
}

/** As many pixels as the common side leaves, where the brief leaves that free. */
function reduced(
  resolved: ResolvedBrief,
  source: Source,
  full: Geometry,
  frame: Frame,
  side: number | null,
): Geometry {
  const long = Math.max(full.width, full.height);
  if (side === null || side >= long) return full;
  return rescale(resolved, source.facts, full, (side / long) ** 2, frame) ?? full;
}

async function begun(
  request: TraceRequest & { frame: Frame },
  resolved: ResolvedBrief,
  bench: Workbench,
  geometry: Geometry,
  full: Geometry,
  side: number | null,
): Promise<Traced> {
  const { source, brief, frame, choice } = request;
  const formats = allowedFormats(resolved, source.facts);
  const { min, max } = resolved.fileSize;
  const free = rescale(resolved, source.facts, full, 0.72, frame) !== null;
  const common = {
    side,
    free,
    geometry,
    full: { width: full.width, height: full.height },
    min,
    max,
    points: [],
    shape: [],
    seen: null,
  };
  const chosen = choice ? settingOf(choice, geometry.width * geometry.height) : null;
  if (chosen && formats.includes(chosen.format))
    return { ...common, format: chosen.format, arm: null, whole: await ready(bench, geometry, full, chosen) };
  const stays =
    geometry === full && reasonsToEncode(brief, resolved, source.facts, geometry, frame.takenAs).length === 0
      ? asItIs(resolved, source)
      : null;
  const lossy = formats.find((format) => armFor(format, resolved, 1, false) !== null);
  const lossless = formats[0] === lossy ? null : formats[0];
  const whole = stays ?? (lossless ? await withoutLoss(bench, geometry, full, lossless) : null);
  if (!lossy) return { ...common, format: formats[0], arm: null, whole: whole! };
  // Whether it is lettering or a drawing is looked at when the first trial is made.
  return {
    ...common,
    format: lossy,
    arm: armFor(lossy, resolved, geometry.width * geometry.height, false),
    whole,
  };
}

/** The photo's own data with the headers that are asked. */
function asItIs(resolved: ResolvedBrief, source: Source): WholeFile | null {
  const bytes = rewriteHeaders(resolved, source).length;
  const { min, max } = resolved.fileSize;
  return bytes >= (min ?? 0) && bytes <= (max ?? Infinity) ? { bytes, setting: null, difference: 0 } : null;
}

const LOSSLESS: Partial<Record<OutputFormat, Setting>> = {
  tiff: { format: "tiff", packing: "deflate" },
  gif: { format: "gif", colours: 256 },
  bmp: { format: "bmp" },
};

async function withoutLoss(
  bench: Workbench,
  geometry: Geometry,
  full: Geometry,
  format: OutputFormat,
): Promise<WholeFile> {
  const picture = await bench.picture(geometry, format);
  const setting =
    format === "png"
      ? (await searchPng(picture, { min: null, max: null, aim: "best" }, false)).found.setting
      : LOSSLESS[format]!;
  return ready(bench, geometry, full, setting);
}

async function ready(
  bench: Workbench,
  geometry: Geometry,
  full: Geometry,
  setting: Setting,
): Promise<WholeFile> {
  const fewer = geometry.width * geometry.height < full.width * full.height;
  const { bytes } = await bench.trial(geometry, setting);
  const { difference } = await bench.judged(geometry, setting, fewer ? full : undefined);
  return { bytes, setting, difference };
}
