/**
 * Makes the trials from which the sharing of a limit on the whole knows what a photo takes at which
 * difference.
 */
import type { OutputFormat, ResolvedBrief } from "@/core/brief";
import {
  type ArmSetting,
  armFor,
  type Ideal,
  qualityFor,
  type TraceAsked,
  type Traced,
  type WholeFile,
} from "@/core/budget";
import {
  asPages,
  bestShare,
  type Choice,
  foretell,
  LARGE_PIXELS,
  lossyOf,
  type Picture,
  type Setting,
  searchPng,
  settingKey,
  settingOf,
  sideOf,
} from "@/core/coding";
import { CLEAN, PLAIN } from "@/core/difference";
import { type Geometry, pixelsOf, resized, withLongSide } from "@/core/geometry";
import { PhotoError } from "@/core/photo";
import { allowedFormats, keepsFrames, keepsLayers, reasonsToEncode } from "@/core/plan";
import { rewriteHeaders } from "../headers";
import { type PlanRequest, planPhoto, resolvedFor, viewingOf } from "../planned";
import type { Source } from "../source";
import { Candidates, type CandidatesOptions } from "./candidates";

export interface TraceRequest extends Omit<PlanRequest, "aim" | "geometry">, CandidatesOptions {
  choice?: Choice;
  /** Of the file that was made as if the photo were alone: its trial is there. */
  made?: Setting | null;
}

/** A sample is tried where its picture is usually clean and where loss is plain to see, then where it is needed. */
const SHAPE_AT = [CLEAN, PLAIN];
/** The second trial lies so far from the first, in difference. */
const APART = 1.3;

/**
 * Adds the trials that are asked; null: none yet, only what can be told without making any. Throws a
 * GeometryError where the photo cannot take the pixels.
 */
export async function trace(
  request: TraceRequest,
  { side, trials: asked, bytes }: Omit<TraceAsked, "id">,
  before: Traced | null,
): Promise<Traced> {
  if (keepsLayers(resolvedFor(request), request.source.facts))
    throw new PhotoError(
      "A limit on the whole cannot be shared with a file that stays in layers or pages. Let it be " +
        "flattened, or give it a brief of its own.",
    );
  if (keepsFrames(resolvedFor(request), request.source.facts))
    throw new PhotoError(
      "A limit on the whole cannot be shared with an animation that is kept moving. Let its first frame be taken, or " +
        "give it a brief of its own.",
    );
  const candidates = new Candidates(await planPhoto(request), request);
  const { photo } = candidates;
  const longest = Math.min(side ?? Infinity, (request.choice && sideOf(request.choice)) ?? Infinity);
  const geometry = withLongSide(viewingOf(photo), photo.geometry, longest);
  const traced = before ? { ...before } : await begun(candidates, geometry, side, request.choice);
  if (bytes !== undefined) traced.ideal = await idealFor(candidates, traced.format, bytes);
  return traced.arm && asked ? further({ candidates, geometry, made: request.made }, traced, asked) : traced;
}

/** Which pixels differ least at about so many bytes, as the photo is looked at: by its sample. */
async function idealFor(candidates: Candidates, format: OutputFormat, bytes: number): Promise<Ideal> {
  const { resolved: brief, view: geometry } = candidates.photo;
  const picture = await candidates.searched(geometry, format);
  const views = {
    brief,
    lossy: lossyOf(format)!,
    target: bytes,
    view: format === "pdf" ? asPages(picture) : picture,
    lines: new Map(),
  };
  const { difference, cleanFrom } = await foretell(views);
  const view = Math.max(geometry.width, geometry.height);
  const best = difference <= CLEAN ? { share: 1, difference } : await bestShare(views);
  const { share, difference: least } = best ?? { share: LEAST_SHARE, difference: Number.MAX_VALUE };
  return { side: Math.round(view * share), view, difference: least, clean: cleanFrom };
}

/** The trials that are asked, on top of those that are known. */
async function further(
  { candidates, geometry, made }: { candidates: Candidates; geometry: Geometry; made?: Setting | null },
  traced: Traced,
  asked: NonNullable<TraceAsked["trials"]>,
): Promise<Traced> {
  const { resolved } = candidates.photo;
  const { format } = traced;
  const out: Traced = { ...traced, points: [...traced.points], shape: [...traced.shape] };
  if (!out.points.length) {
    const { flat } = await candidates.look(candidates.at(geometry, format));
    out.arm = armFor(format, resolved, geometry.width * geometry.height, flat);
  }
  const { seenAs } = candidates.at(geometry, format);
  const picture = await candidates.searched(geometry, format);
  const sample = seenAs ? await sampleAt(candidates, geometry, format) : await picture.sample();
  const looks = seenAs || picture.pixels > LARGE_PIXELS ? sample : null;
  const weigh = (quality: number) => weighAt(out, picture, looks, quality);
  for (const quality of asked.qualities) await weigh(quality);
  if (out.points.length) return out;
  const known = made && along(out, made);
  if (known) await weigh(known);
  if (sample && !out.shape.length) {
    // Far apart first: two near each other say nothing about how steep the curve is.
    for (const quality of SHAPE_AT.map((level) => at(out, level))) await shapeAt(out, sample, quality);
    await shapeAt(out, sample, at(out, asked.level));
  }
  // What was made alone and the shape foretell which trial is worth making.
  if (sample && known) return out;
  await weigh(at(out, asked.level));
  if (sample) return out;
  const [first] = out.points;
  const other = at(out, first.difference > asked.level ? asked.level / APART : asked.level * APART);
  if (other !== first.setting.quality) await weigh(other);
  return out;
}

/** Fewer pixels than are looked at, on the sample of those that are. */
async function sampleAt(candidates: Candidates, geometry: Geometry, format: OutputFormat): Promise<Picture> {
  const { view } = candidates.photo;
  const whole = await candidates.searched(view, format);
  const sample = (await whole.sample()) ?? whole;
  return sample.reduced(Math.sqrt(pixelsOf(geometry) / pixelsOf(view)));
}

/** Where not even a sample of the fewest pixels fits. */
const LEAST_SHARE = 0.05;

/** `looks`: a sample on which differences are judged, once the whole has shown how far to trust it. */
async function weighAt(out: Traced, picture: Picture, looks: Picture | null, quality: number): Promise<void> {
  if (out.points.some((point) => point.setting.quality === quality)) return;
  const setting: ArmSetting = { ...out.arm!.like, quality };
  const bytes = await picture.encode(setting);
  // The first look is at the whole, also of a large picture; it says how far to trust its sample.
  const whole = !looks || out.seen === null ? await picture.difference(setting) : null;
  if (looks && whole !== null)
    out.seen = Math.max(0.5, Math.min(2, whole / Math.max(1e-3, await looks.difference(setting))));
  out.points.push({ setting, bytes, difference: whole ?? (await looks!.difference(setting)) * out.seen! });
}

/** The quality of a setting that lies on the arm; null for others. */
function along({ arm }: Traced, made: Setting): number | null {
  if (!("quality" in made) || made.quality === null) return null;
  return settingKey({ ...arm!.like, quality: made.quality }) === settingKey(made) ? made.quality : null;
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

/** What can be told before the first trial of an arm. */
async function begun(
  candidates: Candidates,
  geometry: Geometry,
  side: number | null,
  choice?: Choice,
): Promise<Traced> {
  const { source, brief, resolved, frame, geometry: full } = candidates.photo;
  const formats = allowedFormats(resolved, source.facts);
  const { min, max } = resolved.fileSize;
  const free = resized(viewingOf(candidates.photo), full, 0.85) !== full;
  const common = {
    side,
    free,
    geometry,
    full: { width: full.width, height: full.height },
    min,
    max,
    density: densityOf(source),
    points: [],
    shape: [],
    seen: null,
  };
  const chosen = choice ? settingOf(choice, geometry.width * geometry.height) : null;
  if (chosen && formats.includes(chosen.format))
    return { ...common, format: chosen.format, arm: null, whole: await ready(candidates, geometry, chosen) };
  const task = { brief, resolved, facts: source.facts, geometry, takenAs: frame.takenAs };
  const stays = geometry === full && !reasonsToEncode(task).length ? asItCame(resolved, source) : null;
  const lossy = formats.find((format) => armFor(format, resolved, 1, false) !== null);
  const lossless = formats[0] === lossy ? null : formats[0];
  const whole = stays ?? (lossless ? await withoutLoss(candidates, geometry, lossless) : null);
  if (!lossy) return { ...common, format: formats[0], arm: null, whole: whole! };
  // Whether it is lettering or a drawing is looked at when the first trial is made.
  const arm = armFor(lossy, resolved, geometry.width * geometry.height, false);
  return { ...common, format: lossy, arm, whole };
}

/** Bytes a pixel of what is coded with loss: how busy a photo is, beside others of the same make. */
const densityOf = ({ facts }: Source): number | null =>
  facts.format === "jpeg" ? facts.bytes / (facts.width * facts.height) : null;

/** The photo's own data with the headers that are asked. */
function asItCame(resolved: ResolvedBrief, source: Source): WholeFile | null {
  const bytes = rewriteHeaders(resolved, source).length;
  const { min, max } = resolved.fileSize;
  return bytes >= (min ?? 0) && bytes <= (max ?? Infinity) ? { bytes, setting: null, difference: 0 } : null;
}

const LOSSLESS: Partial<Record<OutputFormat, Setting>> = {
  tiff: { format: "tiff", compression: "deflate" },
  gif: { format: "gif", colours: 256 },
  bmp: { format: "bmp" },
};

async function withoutLoss(
  candidates: Candidates,
  geometry: Geometry,
  format: OutputFormat,
): Promise<WholeFile> {
  const picture = await candidates.searched(geometry, format);
  const setting =
    format === "png"
      ? (await searchPng(picture, { min: null, max: null, aim: "best" }, false)).found.setting
      : LOSSLESS[format]!;
  return ready(candidates, geometry, setting);
}

async function ready(candidates: Candidates, geometry: Geometry, setting: Setting): Promise<WholeFile> {
  const picture = candidates.at(geometry, setting.format);
  const { bytes } = await candidates.trial(picture, setting);
  const { difference } = await candidates.judged(picture, setting);
  return { bytes, setting, difference };
}
