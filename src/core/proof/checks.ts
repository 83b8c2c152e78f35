/** The proof: each stated clause against facts that were read back from the written bytes. */
import {
  type Brief,
  type ClauseKey,
  clauseWords,
  FORMATS,
  formatName,
  holdsFrames,
  lostToFormat,
  type PixelRange,
  type ResolvedBrief,
  within,
} from "../brief";
import { hasShape, holdsPaper, targetFor } from "../geometry";
import { aimedSize, CENTRED, type Frame, type Size } from "../photo";
import { formatBytes, formatPpi, formatSize, trimNumber } from "../units";
import type { Check } from "./check";
import { type Facts, isMoving, spaceName } from "./facts";
import { checkHead } from "./head";

/** The tolerance of brief version 1 for a resolution that is read back, in ppi. */
const RESOLUTION_SLACK = 0.05;

export interface CheckTask {
  brief: Brief;
  resolved: ResolvedBrief;
  facts: Facts;
  /** Of the photo that the file was made from; null where only the file is known. */
  before?: Facts | null;
  frame?: Frame;
}

/**
 * One check for each clause that the brief states and that can be read off a file, in the order of the
 * schema.
 * `before` are the facts of the photo that it was made from; null where only the file is known.
 */
export function checkFacts(task: CheckTask): Check[] {
  const { brief, resolved, facts, before = null, frame = CENTRED } = task;
  const checks: Check[] = [];
  const target = targetFor(resolved, before ? aimedSize(before, frame) : facts);
  const written = FORMATS.find((format) => format === facts.format);
  const lost = new Set([
    ...target.lost.map(({ clause }) => clause),
    ...(written ? lostToFormat(resolved, written) : []),
  ]);
  const add: Add = (clause, found, ok, asked = clauseWords(brief, clause)!) => {
    const yields = !ok && (resolved.wishes.has(clause) || lost.has(clause));
    checks.push({ clause, asked, found, ok: yields ? null : ok, gaveWay: yields });
  };
  if (brief.format)
    add("format", formatName(facts.format), (brief.format as string[]).includes(facts.format));
  checkPixelCounts(task, add);
  if (resolved.set) checkSet(resolved.set, facts, add);
  if (brief.head) checks.push(checkHead(task));
  if (resolved.scale !== null) checkScale(task, checks, add);
  if (target.paper) checkPaper(target.paper, facts, add);
  if (resolved.resolution) {
    const slack = Math.max(RESOLUTION_SLACK, facts.resolutionStep) + 1e-6;
    const ok = facts.resolution?.every((ppi) => within(resolved.resolution!, ppi, slack)) ?? false;
    add("resolution", resolutionWords(facts), ok);
  }
  if (brief.fileSize && (brief.fileSize.min !== undefined || brief.fileSize.max !== undefined)) {
    const { min, max } = resolved.fileSize;
    const inside = facts.bytes >= (min ?? 0) && facts.bytes <= (max ?? Infinity);
    add("fileSize", formatBytes(facts.bytes), inside);
  }
  if (resolved.quality) checkQuality(resolved.quality, facts, add);
  if (brief.colour) checkColour(brief.colour, facts, add);
  checkLayers({ resolved, brief, facts, before, checks });
  checkFrames({ resolved, brief, facts, before, checks });
  checkMetadata(brief, facts, add);
  return checks;
}

/** A file that nobody made here may be any one of a set: of a width and format that are asked, or narrower than all. */
function checkSet({ widths, formats }: NonNullable<ResolvedBrief["set"]>, facts: Facts, add: Add): void {
  const fits = widths.includes(facts.width) || facts.width < widths[0];
  const kind = !formats || (formats as string[]).includes(facts.format);
  add("set", `${facts.width} px wide, ${formatName(facts.format)}`, fits && kind);
}

/** Sides, box, sizes and shape. */
function checkPixelCounts({ brief, resolved, facts }: CheckTask, add: Add): void {
  const { width, height } = facts;
  const [long, short] = [Math.max(width, height), Math.min(width, height)];
  const sides: [ClauseKey, PixelRange | null, number][] = [
    ["width", resolved.pixels.width, width],
    ["height", resolved.pixels.height, height],
    ["longSide", resolved.pixels.longSide, long],
    ["shortSide", resolved.pixels.shortSide, short],
  ];
  for (const [clause, range, px] of sides) if (range) add(clause, `${px} px`, within(range, px));
  const size = `${formatSize(width, height)} px`;
  const { box, sizes } = brief;
  if (box) {
    const fits = long <= Math.max(box.width, box.height) && short <= Math.min(box.width, box.height);
    add("box", size, fits, `inside ${formatSize(box.width, box.height)} px, either way up`);
  }
  if (sizes) {
    const asked = sizes.map((s) => formatSize(s.width, s.height)).join(" or ");
    const one = sizes.some((s) => s.width === width && s.height === height);
    add("sizes", size, one, `${asked} px`);
  }
  if (resolved.shape !== null) add("shape", size, hasShape(width, height, resolved.shape));
}

function checkScale({ brief, resolved, facts, before, frame }: CheckTask, checks: Check[], add: Add): void {
  const size = `${formatSize(facts.width, facts.height)} px`;
  if (before) return add("scale", size, scaled(resolved.scale!, aimedSize(before, frame ?? CENTRED), facts));
  const found = "not told by the file alone";
  checks.push({ clause: "scale", asked: brief.scale!, found, ok: null, gaveWay: false });
}

function checkPaper(paper: { width: number | null; height: number | null }, facts: Facts, add: Add): void {
  if (facts.page) return add("paper", paperWords(facts), isPage(facts.page, paper));
  // A field that holds whole numbers only cannot be more exact than half of its step.
  const slack = facts.resolutionStep * Math.max(paper.width ?? 0, paper.height ?? 0);
  const { resolution } = facts;
  add("paper", paperWords(facts), resolution !== null && holdsPaper(paper, facts, resolution, slack));
}

function checkMetadata({ metadata, colour }: Brief, facts: Facts, add: Add): void {
  if (metadata === "none") add("metadata", facts.metadata ? "some is there" : "none", !facts.metadata);
  if (metadata !== "private") return;
  // A map that is asked is part of the picture.
  const left = facts.privateData.filter((what) => colour?.light !== "hdr" || what !== GAIN_MAP);
  add("metadata", left.join(", ") || "nothing private", left.length === 0, "nothing private");
}

type Add = (clause: ClauseKey, found: string, ok: boolean, asked?: string) => void;

function checkQuality(asked: { min: number; max: number }, facts: Facts, add: Add): void {
  if (facts.quality === null) return add("quality", "no quality scale", true);
  const found = facts.qualityExact
    ? String(facts.quality)
    : `about ${facts.quality}, by tables of another make`;
  add("quality", found, facts.quality >= asked.min && facts.quality <= asked.max);
}

function checkColour(asked: NonNullable<Brief["colour"]>, facts: Facts, add: Add): void {
  const found = [
    spaceName(facts.colourSpace),
    facts.bits && `${facts.bits} bit`,
    facts.light ? "high dynamic range" : facts.profile ? "with profile" : "no profile",
    hasMap(facts) && `a gain map up to ${trimNumber(facts.gainMap!, 1)} × white`,
  ]
    .filter(Boolean)
    .join(", ");
  const bright = asked.light === "hdr";
  // High dynamic range comes with Display P3 and ten bits where nothing else is said of them.
  const map = bright && hasMap(facts);
  if (bright) asked = { space: "display-p3", ...(!map && { bits: 10 }), ...asked };
  const space = asked.space === undefined || asked.space === "keep" || asked.space === facts.colourSpace;
  const bits = asked.bits === undefined || asked.bits === facts.bits;
  const profile = asked.profile === undefined || (asked.profile === "embed") === facts.profile;
  const light = asked.light === undefined || bright === (facts.light !== undefined || map);
  add("colour", found, space && bits && profile && light);
}

/** As facts name it among what is private. */
const GAIN_MAP = "the gain map";
const hasMap = ({ format, gainMap }: Facts): boolean => format === "jpeg" && (gainMap ?? 1) > 1;

const isLayered = ({ format, pages }: Facts): boolean => format === "ora" || (format === "tiff" && pages > 1);

/** Kept layers are asked only of what has some; they give way to a format that holds one picture. */
function checkLayers({
  resolved: { formats },
  brief: { layers },
  facts,
  before,
  checks,
}: Pick<CheckTask, "resolved" | "brief" | "facts"> & { before: Facts | null; checks: Check[] }): void {
  if (layers === undefined || (layers === "keep" && !isLayered(before ?? facts))) return;
  const kept = isLayered(facts);
  const yields =
    layers === "keep" && !kept && formats !== null && !(formats as string[]).includes(before?.format ?? "");
  const found = !kept ? "one picture" : facts.format === "ora" ? "layers" : `${facts.pages} pages`;
  checks.push({
    clause: "layers",
    asked: layers === "keep" ? "kept" : "one picture",
    found,
    ok: yields ? null : (layers === "keep") === kept,
    gaveWay: yields,
  });
}

/** Frames that are to be kept are asked only of animations; they give way to a format that holds one picture. */
function checkFrames({
  resolved,
  brief: { frames },
  facts,
  before,
  checks,
}: Pick<CheckTask, "resolved" | "brief" | "facts"> & { before: Facts | null; checks: Check[] }): void {
  if (frames === undefined || !isMoving(before ?? facts)) return;
  const { formats } = resolved;
  const moves = isMoving(facts);
  const yields =
    frames === "keep" &&
    !moves &&
    formats !== null &&
    !formats.some((format) => holdsFrames(resolved, format));
  checks.push({
    clause: "frames",
    asked: frames === "keep" ? "kept moving" : "one picture",
    found: moves ? `${facts.pages} frames` : "one picture",
    ok: yields ? null : (frames === "keep") === moves,
    gaveWay: yields,
  });
}

function scaled(scale: number, before: Size, after: Size): boolean {
  return (
    Math.abs(after.width - before.width * scale) <= 0.5 &&
    Math.abs(after.height - before.height * scale) <= 0.5
  );
}

/** Of a page, in inches: a tenth of a millimetre. */
const PAGE_SLACK = 0.1 / 25.4;

const isPage = (
  page: { width: number; height: number },
  paper: { width: number | null; height: number | null },
): boolean =>
  (paper.width === null || Math.abs(page.width - paper.width) <= PAGE_SLACK) &&
  (paper.height === null || Math.abs(page.height - paper.height) <= PAGE_SLACK);

/** "40 × 50 mm": how large the file prints at the resolution that it states. */
function paperWords({ width, height, resolution, page }: Facts): string {
  if (page) return `a page of ${trimNumber(page.width * 25.4, 1)} × ${trimNumber(page.height * 25.4, 1)} mm`;
  if (!resolution) return "no resolution";
  return (
    `${trimNumber((width / resolution[0]) * 25.4, 1)} × ` +
    `${trimNumber((height / resolution[1]) * 25.4, 1)} mm`
  );
}

function resolutionWords(facts: Facts): string {
  if (!facts.resolution) return "none";
  const [x, y] = facts.resolution;
  return Math.abs(x - y) < 0.005 ? formatPpi(x) : `${formatPpi(x)} × ${formatPpi(y)}`;
}

/** A file meets its brief when no check is false; clauses that gave way do not count against it. */
export const meets = (checks: readonly Check[]): boolean => checks.every((check) => check.ok !== false);

/** What the photo carried beside its picture and the file does not, in words. */
export function dropped(before: Facts, after: Facts): string[] {
  if (before.metadata && !after.metadata) return ["all metadata"];
  return before.privateData.filter((what) => !after.privateData.includes(what));
}

/** What was not asked and did not change, in words. */
export function unchanged(brief: Brief, before: Facts, after: Facts): string[] {
  const out: string[] = [];
  const asked = (...keys: ClauseKey[]) => keys.some((key) => brief[key] !== undefined);
  if (!asked("format") && before.format === after.format) out.push(`the format, ${formatName(after.format)}`);
  if (
    !asked("width", "height", "longSide", "shortSide", "box", "sizes", "shape", "scale") &&
    before.width === after.width &&
    before.height === after.height
  ) {
    out.push(`the pixels, ${formatSize(after.width, after.height)}`);
  }
  if (
    !asked("resolution", "paper") &&
    before.resolution &&
    after.resolution &&
    Math.abs(before.resolution[0] - after.resolution[0]) < 0.5
  ) {
    out.push(`the resolution, ${resolutionWords(after)}`);
  }
  if (!asked("colour") && before.colourSpace === after.colourSpace)
    out.push(`the colour space, ${spaceName(after.colourSpace)}`);
  if (before.date && before.date === after.date) out.push(`the capture date, ${after.date}`);
  return out;
}
