/** One photo through one brief: pass through where it obeys already, else plan, search, encode. */

import {
  type Brief,
  clauseNames,
  clauseWords,
  formatName,
  heldBy,
  lostToFormat,
  type OutputFormat,
  type ResolvedBrief,
  resolveBrief,
  WISHES_GIVEN_UP,
} from "@/core/brief";
import {
  type AvifSetting,
  choiceName,
  type Fitted,
  fitFormats,
  type Setting,
  settingOf,
} from "@/core/coding";
import { qualityOf, readJpeg, sniff } from "@/core/containers";
import { type Geometry, planGeometry, targetFor } from "@/core/geometry";
import { AUTO, aimedSize, CENTRED, cutsByHand, type Frame, PhotoError, rawTakingOf } from "@/core/photo";
import { beatsWith, screenWords } from "@/core/pixels/develop";
import type { InkReport } from "@/core/pixels/ink";
import { lightWords, meterLight } from "@/core/pixels/light";
import { allowedFormats, keepsLayers, passSteps, planSteps, reasonsToEncode } from "@/core/plan";
import type { WrittenKind } from "@/core/plan/names";
import {
  asksSurround,
  type Check,
  checkFacts,
  checkPixels,
  dropped,
  type Facts,
  meets,
  surroundOf,
  surroundWords,
  unchanged,
} from "@/core/proof";
import { formatBytes, formatSize, trimNumber } from "@/core/units";
import { repackJpeg, Workbench } from "./candidates";
import { type FitAnswer, type FitRequest, fitLayered, type Shared } from "./chosen";
import { destinationOf, pageOf, plannedHeaders, resolutionToWrite, rewriteHeaders } from "./headers";
import { framed, type PicturePlan, preparePicture, staged } from "./planned";
import { readSource, readWritten, type Source } from "./source";
import { keepGainMap, samePicture } from "./written";

/**
 * Plans and makes the file in memory. Wishes that the photo cannot have are given up one by one, the dearest
 * last.
 * Throws only for damage to the photo or when it is no longer wanted.
 */
export async function fitPhoto(request: FitRequest): Promise<FitAnswer> {
  const first = await fitAsAsked(request);
  if (first.error === null) return first;
  let brief = request.brief;
  for (const clause of WISHES_GIVEN_UP) {
    if (!brief.wishes?.includes(clause) || brief[clause] === undefined) continue;
    brief = { ...brief, [clause]: undefined };
    const answer = await fitAsAsked({ ...request, brief });
    if (answer.error !== null) continue;
    const lost = WISHES_GIVEN_UP.filter(
      (key) => request.brief[key] !== undefined && brief[key] === undefined,
    );
    const words = lost
      .map((key) => `${clauseNames[key].toLowerCase()} ${clauseWords(request.brief, key)}`)
      .join(", ");
    return {
      ...answer,
      notes: [...answer.notes, `The wish for ${words} gave way: ${first.error}`],
      encodes: answer.encodes + first.encodes,
    };
  }
  return first;
}

/** Clauses that change the pixels of any photo, unless it has been through them already. */
const DRAWN = ["ink", "border"] as const;

/** The answer for a file whose ink or border is as asked already, and everything else too: it stays. */
async function asDrawn(request: FitRequest): Promise<FitAnswer | null> {
  const { source, brief } = request;
  if (request.choice || request.share || !DRAWN.some((clause) => brief[clause] !== undefined)) return null;
  const bare: Brief = { ...brief, ink: undefined, border: undefined, frame: brief.frame };
  const resolved = resolveBrief(bare);
  const { facts } = source;
  const frame = request.frame ?? AUTO;
  const whole = targetFor(resolved, facts);
  const fits =
    facts.width >= whole.width.min &&
    facts.width <= whole.width.max &&
    facts.height >= whole.height.min &&
    facts.height <= whole.height.max;
  if (!fits || cutsByHand(frame) || frame.turn) return null;
  const geometry = planGeometry(resolved, facts, frame);
  if (reasonsToEncode(bare, resolved, facts, geometry, frame.takenAs).length) return null;
  const pixels = await preparePicture(source, asItIs(source, geometry));
  if (checkPixels(brief, pixels).some((check) => check.ok === false)) return null;
  const answer = await leastTouched({
    request,
    brief: bare,
    resolved,
    source,
    frame,
    geometry,
    notes: [],
    ink: null,
  });
  return answer.passedThrough ? answer : null;
}

async function fitAsAsked(request: FitRequest): Promise<FitAnswer> {
  const { brief } = request;
  const resolved = resolveBrief(brief);
  if (request.choice && "aim" in request.choice)
    resolved.fileSize = { ...resolved.fileSize, aim: request.choice.aim };
  const asked = request.frame ?? AUTO;
  const notes = resolved.fileSize.note ? [resolved.fileSize.note] : [];
  for (const { clause, why } of targetFor(resolved, aimedSize(request.source.facts, asked)).lost)
    notes.push(`${clauseNames[clause]} gave way: ${why}.`);
  const nothing = {
    output: null,
    format: null,
    geometry: null,
    frame: asked,
    screen: null,
    setting: null,
    difference: null,
    cleanFrom: null,
    ink: null,
    passedThrough: false,
    encodes: 0,
    steps: [],
    told: [],
    notes,
  };
  try {
    if (keepsLayers(resolved, request.source.facts))
      return await fitLayered(request, resolved, {
        ...nothing,
        error: null,
        format: request.source.facts.format as WrittenKind,
      });
    if (brief.layers === "keep" && (request.source.facts.format === "ora" || request.source.facts.pages > 1))
      notes.push(
        `Layers gave way: ${formatName(allowedFormats(resolved, request.source.facts)[0])} holds one ` +
          "picture.",
      );
    const drawn = await asDrawn(request);
    if (drawn) return { ...drawn, notes: [...notes, ...drawn.notes] };
    const stage = await staged({ ...request, frame: asked });
    const { source, ink } = stage;
    const { geometry, frame } = await framed(resolved, source, stage.frame);
    if (ink) notes.push(...ink.notes);
    const enlarged = enlargedPreview(request.source.facts, frame, geometry);
    if (enlarged) notes.push(enlarged);
    const work: Work = {
      request: { ...request, source, sha256: stage.sha256 },
      brief,
      resolved,
      source,
      frame,
      geometry,
      notes,
      ink,
    };
    if (request.share) return await asShared(work, request.share);
    return await leastTouched(work);
  } catch (error) {
    if (error instanceof Error && error.name === "GeometryError") return { ...nothing, error: error.message };
    throw error;
  }
}

/** The camera's own picture of a raw file may have fewer pixels than are asked. */
function enlargedPreview(
  { format, width, preview }: Facts,
  frame: Frame,
  { scale }: Geometry,
): string | null {
  if (format !== "raw" || rawTakingOf(frame).way !== "camera" || !preview) return null;
  const factor = scale * (width / preview.width);
  if (factor <= 1.02) return null;
  return (
    `The camera's own picture has only ${formatSize(preview.width, preview.height)} px and was ` +
    `enlarged ${trimNumber(factor, 1)} times; the developed one has them all.`
  );
}

interface Work {
  request: FitRequest;
  brief: Brief;
  resolved: ResolvedBrief;
  source: Source;
  frame: Frame;
  geometry: Geometry;
  notes: string[];
  ink: InkReport | null;
}

/** From this share of its bytes on, saved, a file that obeys is encoded anew where the aim is clean. */
const WORTH_IT = 0.05;

/**
 * Passes the picture data through where they obey, packs them tighter where that is all it takes, and
 * encodes anew only where it has to, or pays.
 */
async function leastTouched(work: Work): Promise<FitAnswer> {
  const { brief, resolved, source, frame, geometry, request } = work;
  const page = request.choice ? null : ownJpegOnPage(work);
  if (page) {
    const answer = await passThrough(work, page);
    const [first, ...steps] = answer.steps;
    return {
      ...answer,
      format: "pdf",
      steps: [{ ...first, do: "Put the photo's own JPEG data on a page, byte for byte" }, ...steps],
    };
  }
  const chosen = request.choice && "format" in request.choice;
  if (chosen || reasonsToEncode(brief, resolved, source.facts, geometry, frame.takenAs).length)
    return fitAnew(work);
  const rewritten = rewriteHeaders(resolved, source);
  const inside = (bytes: number) =>
    bytes >= (resolved.fileSize.min ?? 0) && bytes <= (resolved.fileSize.max ?? Infinity);
  const saving = request.choice !== undefined || brief.fileSize?.aim === "clean";
  if (inside(rewritten.length) && !saving) return passThrough(work, rewritten);
  const packed =
    source.jpeg && (saving || rewritten.length > (resolved.fileSize.max ?? Infinity))
      ? await repackJpeg(rewritten, request.wanted)
      : null;
  const lossless = [rewritten, packed]
    .filter((bytes) => bytes !== null && inside(bytes.length))
    .sort((a, b) => a!.length - b!.length)[0];
  if (!lossless) return fitAnew(work);
  if (!saving || (request.choice && "packed" in request.choice)) return passThrough(work, lossless);
  const anew = await fitAnew(work);
  const bytes = anew.output?.length ?? Infinity;
  if (bytes <= lossless.length * (1 - WORTH_IT)) return anew;
  const gain =
    bytes < lossless.length
      ? `would save only ${trimNumber((1 - bytes / lossless.length) * 100, 1)} %`
      : "would save nothing";
  work.notes.push(
    `Encoding it anew ${gain} and lose a little more of the picture, so its data stay as they are.`,
  );
  return { ...(await passThrough(work, lossless)), encodes: anew.encodes };
}

/**
 * The photo's JPEG data on the asked page, where nothing else has to change and the file lies in its range;
 * else null.
 */
function ownJpegOnPage({ brief, resolved, source, frame, geometry }: Work): Uint8Array | null {
  const { facts, jpeg } = source;
  if (allowedFormats(resolved, facts)[0] !== "pdf" || !jpeg || facts.orientation !== 1) return null;
  if (reasonsToEncode(brief, { ...resolved, formats: ["jpeg"] }, facts, geometry, frame.takenAs).length)
    return null;
  const components = jpeg.frame.components.length as 1 | 3 | 4;
  const to = destinationOf({ ...resolved, space: "keep" }, source);
  const file = pageOf(
    rewriteHeaders({ ...resolved, paper: null }, source),
    components,
    source.icc ?? (components === 4 ? null : to.icc),
    geometry,
    plannedHeaders(resolved, source, to, frame).page(geometry),
  );
  return file.length >= (resolved.fileSize.min ?? 0) && file.length <= (resolved.fileSize.max ?? Infinity)
    ? file
    : null;
}

async function passThrough(
  { brief, resolved, source, frame, geometry, notes }: Work,
  output: Uint8Array,
): Promise<FitAnswer> {
  // Passing through still has to prove that the picture is whole.
  await preparePicture(source, asItIs(source, geometry));
  const { dropped } = plannedHeaders(resolved, source, destinationOf(resolved, source));
  const format = source.facts.format as OutputFormat;
  const saved = output.length < source.bytes.length ? source.bytes.length - output.length : 0;
  const repacked =
    saved > 0 &&
    source.jpeg !== null &&
    sniff(output) === "jpeg" &&
    !samePicture(source, await readSource(Buffer.from(output.buffer, output.byteOffset, output.length)));
  const steps = passSteps(
    {
      brief,
      resolved,
      facts: source.facts,
      geometry,
      frame,
      dropped,
      encoding: { setting: null, format, bytes: output.length, about: null, told: [] },
      writePpi: brief.resolution || brief.paper ? resolutionToWrite(resolved, source, geometry, frame) : null,
    },
    output === source.bytes,
  );
  if (repacked)
    steps.splice(0, 1, {
      do: "Pack the picture data tighter, every pixel the same",
      why: `${formatBytes(saved)} less without any loss`,
    });
  return {
    output,
    format,
    error: null,
    geometry,
    frame,
    screen: null,
    setting: null,
    difference: 0,
    cleanFrom: null,
    ink: null,
    passedThrough: true,
    encodes: 0,
    steps,
    told: [],
    notes,
  };
}

/** Every pixel of a file, only to see that it decodes; `bright`: with the light above white. */
function asItIs(source: Source, geometry: Geometry, bright = false): PicturePlan {
  const to = destinationOf(
    { ...resolveBrief({ zumbrelBrief: 1, name: "as it is" }), space: "keep", light: bright ? "hdr" : "sdr" },
    source,
  );
  return {
    geometry,
    frame: CENTRED,
    to,
    bits: (source.facts.bits ?? 8) > 8 ? 16 : 8,
    background: "#ffffff",
    opaque: false,
    sharpen: null,
    ppi: null,
  };
}

async function asShared(work: Work, { setting, geometry, told }: Shared): Promise<FitAnswer> {
  const { resolved, source, request, frame } = work;
  if (!setting) {
    const answer = await passThrough(work, rewriteHeaders(resolved, source));
    return { ...answer, notes: [...answer.notes, ...told] };
  }
  const bench = new Workbench({ ...request, frame }, resolved);
  const fewer = geometry.width * geometry.height < work.geometry.width * work.geometry.height;
  const { bytes } = await bench.trial(geometry, setting);
  const { difference } = await bench.judged(geometry, setting, fewer ? work.geometry : undefined);
  return fitAnew({ ...work, geometry }, bench, {
    ok: true,
    setting,
    bytes,
    geometry,
    padTo: null,
    encodes: 1,
    told,
    difference,
    cleanFrom: null,
  });
}

async function fitAnew(
  work: Work,
  bench = new Workbench({ ...work.request, frame: work.frame }, work.resolved),
  settled?: Fitted,
): Promise<FitAnswer> {
  const { brief, resolved, source, frame, geometry, notes } = work;
  const fitted = settled ?? (await asChosen(work, bench)) ?? (await searched(work, bench));
  if (!fitted.ok) {
    return {
      output: null,
      format: null,
      error: fitted.why,
      geometry,
      frame,
      screen: null,
      setting: null,
      difference: null,
      cleanFrom: null,
      ink: work.ink,
      passedThrough: false,
      encodes: fitted.encodes,
      steps: [],
      told: [],
      notes,
    };
  }
  let output = await bench.file(fitted.geometry, fitted.setting, fitted.padTo);
  if (source.gainMap && resolved.metadata === "keep" && fitted.setting.format === "jpeg") {
    const kept = await keepGainMap(source, fitted.geometry, output, resolved.fileSize.max);
    output = kept.file;
    notes.push(kept.told);
  }
  const { format } = fitted.setting;
  const { kernel, conversion, screen } = await bench.look(fitted.geometry, format);
  const headers = bench.headers(format);
  const beats = screen !== null && beatsWith(screen, fitted.geometry.scale) ? screen : null;
  if (beats !== null) notes.push(screenWords(beats));
  for (const clause of lostToFormat(resolved, format))
    notes.push(
      `${clauseNames[clause]} gave way: ${formatName(format)} has no room for ${clauseWords(brief, clause)}.`,
    );
  const earlier = source.facts.quality;
  if (
    fitted.setting.format === "jpeg" &&
    earlier !== null &&
    geometry.scale === 1 &&
    writtenQuality(output) > earlier + 1
  ) {
    notes.push(
      `The photo was saved at quality ${earlier} before; a higher one cannot bring back what was lost then.`,
    );
  }
  if (output.length > source.bytes.length) {
    const why =
      format === source.facts.format
        ? "a clause asks for more"
        : "another format is asked and the ceiling leaves room";
    notes.push(
      `The file is larger than the photo was (${formatBytes(source.bytes.length)}), because ${why}.`,
    );
  }
  if (fitted.setting.format === "avif" && resolved.light === "hdr")
    notes.push(await besideOrdinary(work, fitted.geometry, fitted.setting));
  const steps = planSteps({
    brief,
    resolved: heldBy(resolved, format),
    facts: source.facts,
    geometry: fitted.geometry,
    frame,
    kernel,
    conversion,
    ink: work.ink,
    proposed: frame.auto === true && fitted.geometry.cut > 0,
    writePpi: headers.ppi(fitted.geometry),
    dropped: headers.dropped,
    encoding: { setting: fitted.setting, format, bytes: output.length, about: null, told: fitted.told },
  });
  return {
    output,
    format,
    error: null,
    geometry: fitted.geometry,
    frame,
    screen: beats,
    setting: fitted.setting,
    difference: fitted.difference,
    cleanFrom: fitted.cleanFrom,
    ink: work.ink,
    passedThrough: false,
    encodes: fitted.encodes,
    steps,
    told: fitted.told,
    notes,
  };
}

/** What the same picture takes without light above white. */
async function besideOrdinary(
  { brief, request, frame }: Work,
  geometry: Geometry,
  setting: AvifSetting,
): Promise<string> {
  const plain: Brief = {
    ...brief,
    colour: undefined,
    fileSize: undefined,
    quality: undefined,
    format: ["jpeg"],
  };
  const resolved = resolveBrief(plain);
  const bench = new Workbench({ ...request, frame }, resolved);
  const avif = await bench.trial(geometry, { ...setting, bits: 8 });
  const jpeg = await fitFormats({
    brief: resolved,
    photo: request.source.facts,
    frame,
    geometry,
    formats: ["jpeg"],
    softCeiling: null,
    picture: (g, format, seenAs) => bench.picture(g, format, seenAs),
  });
  const asJpeg = jpeg.ok ? ` and ${formatBytes(jpeg.bytes)} as a JPEG with no visible loss` : "";
  return (
    `Without light above white the same picture takes ${formatBytes(avif.bytes)} as AVIF at the same ` +
    `setting${asJpeg}.`
  );
}

function searched({ brief, resolved, source, frame, geometry }: Work, bench: Workbench): Promise<Fitted> {
  return fitFormats({
    brief: resolved,
    photo: source.facts,
    frame,
    geometry,
    formats: allowedFormats(resolved, source.facts),
    softCeiling: softCeiling(brief, resolved, source.facts, geometry),
    picture: (g, format, seenAs) => bench.picture(g, format, seenAs),
  });
}

/** The file of the chosen setting; null, and a note that says why, where the brief does not allow it. */
async function asChosen(
  { request, resolved, source, geometry, notes }: Work,
  bench: Workbench,
): Promise<Fitted | null> {
  const chosen = request.choice ? settingOf(request.choice, geometry.width * geometry.height) : null;
  if (!chosen) return null;
  // A setting that was chosen for a photo of eight bits serves one of ten.
  const setting: Setting =
    chosen.format === "avif" && resolved.bits === 10 ? { ...chosen, bits: 10 } : chosen;
  const name = choiceName(request.choice!);
  const refused = (why: string) => {
    notes.push(`${name} was chosen on Weigh, but ${why}, so Zumbrel looked for a setting itself.`);
    return null;
  };
  const formats = allowedFormats(resolved, source.facts);
  if (!formats.includes(setting.format))
    return refused(`the brief asks for ${formats.map(formatName).join(" or ")}`);
  const { bytes } = await bench.trial(geometry, setting);
  const { min, max } = resolved.fileSize;
  if (max !== null && bytes > max)
    return refused(`gives ${formatBytes(bytes)} here, above the ceiling of ${formatBytes(max)}`);
  if (min !== null && bytes < min)
    return refused(`gives ${formatBytes(bytes)} here, below the floor of ${formatBytes(min)}`);
  const asked = resolved.quality;
  if (asked && setting.format === "jpeg") {
    const quality = writtenQuality(await bench.file(geometry, setting, null));
    if (quality < asked.min || quality > asked.max)
      return refused(
        `is read back as quality ${quality}, outside the ${asked.min} to ${asked.max} of the brief`,
      );
  }
  const { difference } = await bench.judged(geometry, setting);
  return {
    ok: true,
    setting,
    bytes,
    geometry,
    padTo: null,
    encodes: 1,
    told: ["the setting of your choice, because it was chosen on Weigh"],
    difference,
    cleanFrom: null,
  };
}

/** On the scale of the Annex K tables. */
const writtenQuality = (file: Uint8Array): number => qualityOf(readJpeg(file))?.quality ?? 0;

/** No JPEG is made larger than it came where nothing asks for that. */
function softCeiling(brief: Brief, resolved: ResolvedBrief, facts: Facts, geometry: Geometry): number | null {
  const grows = geometry.width * geometry.height > facts.width * facts.height;
  if (
    facts.format !== "jpeg" ||
    grows ||
    brief.quality ||
    (resolved.formats && resolved.formats[0] !== "jpeg")
  )
    return null;
  return facts.bytes;
}

export interface Proof {
  ok: boolean;
  facts: Facts;
  checks: Check[];
  unchanged: string[];
  /** What of the photo's metadata is not in the file. */
  dropped: string[];
  /** Figures that judge nothing. */
  notes: string[];
}

export interface Made {
  /** Facts of the photo that the file was made from. */
  before: Facts;
  frame?: Frame;
  /** The photo's bytes, to see whether the picture data stayed the same. */
  original?: Buffer;
}

/**
 * Reads written bytes back with a fresh decoder and holds them against the brief. Throws where they do not
 * decode.
 */
export async function prove(brief: Brief, written: Buffer, made: Made | null): Promise<Proof> {
  const source = await readWritten(written);
  const { facts } = source;
  const geometry = planGeometry(resolveBrief({ zumbrelBrief: 1, name: "as it is" }), facts);
  const pixels = await preparePicture(source, asItIs(source, geometry, facts.light !== undefined));
  if (pixels.width !== facts.width || pixels.height !== facts.height)
    throw new PhotoError("The written file decodes to another size than it says.");
  // Ink is cut out of its photo, whose own size then says nothing.
  const before = brief.ink ? null : (made?.before ?? null);
  const checks = [
    ...checkFacts(brief, resolveBrief(brief), facts, before, made?.frame ?? CENTRED),
    ...checkPixels(brief, pixels),
  ];
  const same =
    made?.original &&
    made.before.format === facts.format &&
    samePicture(await readSource(made.original), source);
  const left = made ? unchanged(brief, made.before, facts) : [];
  if (same)
    left.unshift(
      written.equals(made!.original!) ? "every byte of the file" : "the picture data, byte for byte",
    );
  const notes = pixels.light
    ? [lightWords(meterLight({ data: pixels.data as Uint16Array, channels: pixels.channels }))]
    : asksSurround(brief)
      ? [surroundWords(surroundOf(pixels, brief.border?.px))]
      : [];
  return {
    ok: meets(checks),
    facts,
    checks,
    unchanged: left,
    dropped: made ? dropped(made.before, facts) : [],
    notes,
  };
}
