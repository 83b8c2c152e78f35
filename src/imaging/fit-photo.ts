/** One photo through one brief: pass through where it obeys already, else plan, search, encode. */
import { clauseNames, clauseWords, formatName, heldBy, lostToFormat, refusal, resolveBrief, WISHES_GIVEN_UP, type Brief, type OutputFormat, type ResolvedBrief } from "@/core/brief";
import { aimedSize, AUTO, CENTRED, planGeometry, proposeFrame, targetFor, type Frame, type Geometry } from "@/core/frame";
import { allowedFormats, passSteps, planSteps, reasonsToEncode, type Step } from "@/core/plan";
import { checkFacts, dropped, meets, unchanged, type Check, type Facts } from "@/core/proof";
import { beatsWith, screenWords } from "@/core/develop";
import { fitFormats, type Setting } from "@/core/search";
import { formatBytes } from "@/core/units";
import { destinationOf } from "./destination";
import { PhotoError } from "./error";
import { readSource, type Source } from "./facts";
import { plannedHeaders, resolutionToWrite } from "./headers";
import { lookForDetail } from "./look";
import { samePicture } from "./picture-bytes";
import { preparePicture, type PicturePlan } from "./prepare";
import { rewriteHeaders } from "./rewrite";
import { Workbench, type TrialStore } from "./workbench";

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
  /** The frame that was used: a proposed one where nobody has set it. */
  frame: Frame;
  /** Period in px of a dot screen that beats with the new pixels; null where none does. */
  screen: number | null;
  setting: Setting | null;
  passedThrough: boolean;
  encodes: number;
  steps: Step[];
  told: string[];
  notes: string[];
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
  const asked = request.frame ?? AUTO;
  const notes = resolved.fileSize.note ? [resolved.fileSize.note] : [];
  for (const { clause, why } of targetFor(resolved, aimedSize(source.facts, asked)).lost) notes.push(`${clauseNames[clause]} gave way: ${why}.`);
  const nothing = { output: null, format: null, geometry: null, frame: asked, screen: null, setting: null, passedThrough: false, encodes: 0, steps: [], told: [], notes };
  const refused = refusal(brief);
  if (refused) return { ...nothing, error: refused };
  try {
    let geometry = planGeometry(resolved, source.facts, asked);
    let frame = asked;
    if (asked.auto && geometry.mode === "fill" && geometry.cut > 0) {
      frame = proposeFrame(resolved, source.facts, asked, await lookForDetail(source));
      geometry = planGeometry(resolved, source.facts, frame);
    }
    const work: Work = { request, brief, resolved, source, frame, geometry, notes };
    return (await passThrough(work)) ?? (await fitAnew(work));
  } catch (error) {
    if (error instanceof Error && error.name === "GeometryError") return { ...nothing, error: error.message };
    throw error;
  }
}

interface Work {
  request: FitRequest;
  brief: Brief;
  resolved: ResolvedBrief;
  source: Source;
  frame: Frame;
  geometry: Geometry;
  notes: string[];
}

async function passThrough({ brief, resolved, source, frame, geometry, notes }: Work): Promise<FitAnswer | null> {
  if (reasonsToEncode(brief, resolved, source.facts, geometry, frame.takenAs).length) return null;
  const output = rewriteHeaders(resolved, source);
  const { min, max } = resolved.fileSize;
  if ((min !== null && output.length < min) || (max !== null && output.length > max)) return null;
  // Passing through still has to prove that the picture is whole.
  await preparePicture(source, asItIs(source, geometry));
  const identical = output === source.bytes;
  const { dropped } = plannedHeaders(resolved, source, destinationOf(resolved, source));
  const format = source.facts.format as OutputFormat;
  const steps = passSteps(
    {
      brief, resolved, facts: source.facts, geometry, frame, dropped,
      encoding: { setting: null, format, bytes: output.length, about: null, told: [] },
      writePpi: brief.resolution || brief.paper ? resolutionToWrite(resolved, source, geometry, frame) : null,
    },
    identical,
  );
  return { output, format, error: null, geometry, frame, screen: null, setting: null, passedThrough: true, encodes: 0, steps, told: [], notes };
}

/** Every pixel of a file, only to see that it decodes. */
function asItIs(source: Source, geometry: Geometry): PicturePlan {
  const to = destinationOf({ ...resolveBrief({ zumbrelBrief: 1, name: "as it is" }), space: "keep" }, source);
  return { geometry, frame: CENTRED, to, bits: (source.facts.bits ?? 8) > 8 ? 16 : 8, background: "#ffffff", opaque: false, sharpen: null, ppi: null };
}

async function fitAnew(work: Work): Promise<FitAnswer> {
  const { request, brief, resolved, source, frame, geometry, notes } = work;
  const bench = new Workbench({ ...request, frame }, resolved);
  const formats = allowedFormats(resolved, source.facts);
  const fitted = await fitFormats({
    brief: resolved,
    photo: source.facts,
    frame,
    geometry,
    formats,
    softCeiling: softCeiling(brief, resolved, source.facts, geometry),
    picture: (g, format) => bench.picture(g, format),
  });
  if (!fitted.ok) {
    return { output: null, format: null, error: fitted.why, geometry, frame, screen: null, setting: null, passedThrough: false, encodes: fitted.encodes, steps: [], told: [], notes };
  }
  const output = await bench.file(fitted.geometry, fitted.setting, fitted.padTo);
  const { format } = fitted.setting;
  const { kernel, conversion, screen } = await bench.look(fitted.geometry, format);
  const headers = bench.headers(format);
  const beats = screen !== null && beatsWith(screen, fitted.geometry.scale) ? screen : null;
  if (beats !== null) notes.push(screenWords(beats));
  for (const clause of lostToFormat(resolved, format)) notes.push(`${clauseNames[clause]} gave way: ${formatName(format)} has no room for ${clauseWords(brief, clause)}.`);
  if (output.length > source.bytes.length) {
    const why = format === source.facts.format ? "a clause asks for more" : "another format is asked and the ceiling leaves room";
    notes.push(`The file is larger than the photo was (${formatBytes(source.bytes.length)}), because ${why}.`);
  }
  const steps = planSteps({
    brief, resolved: heldBy(resolved, format), facts: source.facts, geometry: fitted.geometry, frame, kernel, conversion, proposed: frame.auto === true && fitted.geometry.cut > 0,
    writePpi: headers.ppi(fitted.geometry), dropped: headers.dropped,
    encoding: { setting: fitted.setting, format, bytes: output.length, about: null, told: fitted.told },
  });
  return {
    output, format, error: null, geometry: fitted.geometry, frame, screen: beats, setting: fitted.setting, passedThrough: false,
    encodes: fitted.encodes, steps, told: fitted.told, notes,
  };
}

/** No JPEG is made larger than it came where nothing asks for that. */
function softCeiling(brief: Brief, resolved: ResolvedBrief, facts: Facts, geometry: Geometry): number | null {
  const grows = geometry.width * geometry.height > facts.width * facts.height;
  if (facts.format !== "jpeg" || grows || brief.quality || (resolved.formats && resolved.formats[0] !== "jpeg")) return null;
  return facts.bytes;
}

export interface Proof {
  ok: boolean;
  facts: Facts;
  checks: Check[];
  unchanged: string[];
  /** What of the photo's metadata is not in the file. */
  dropped: string[];
}

export interface Made {
  /** Facts of the photo that the file was made from. */
  before: Facts;
  frame?: Frame;
  /** The photo's bytes, to see whether the picture data stayed the same. */
  original?: Buffer;
}

/** Reads written bytes back with a fresh decoder and holds them against the brief. Throws where they do not decode. */
export async function prove(brief: Brief, written: Buffer, made: Made | null): Promise<Proof> {
  const source = await readSource(written);
  const { facts } = source;
  const geometry = planGeometry(resolveBrief({ zumbrelBrief: 1, name: "as it is" }), facts);
  const pixels = await preparePicture(source, asItIs(source, geometry));
  if (pixels.width !== facts.width || pixels.height !== facts.height) throw new PhotoError("The written file decodes to another size than it says.");
  const checks = checkFacts(brief, resolveBrief(brief), facts, made?.before ?? null, made?.frame ?? CENTRED);
  const same = made?.original && made.before.format === facts.format && samePicture(await readSource(made.original), source);
  const left = made ? unchanged(brief, made.before, facts) : [];
  if (same) left.unshift(written.equals(made!.original!) ? "every byte of the file" : "the picture data, byte for byte");
  return { ok: meets(checks), facts, checks, unchanged: left, dropped: made ? dropped(made.before, facts) : [] };
}
