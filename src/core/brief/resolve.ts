/**
 * A brief with its defaults filled in and its texts turned into numbers: what plan, search and proof work
 * from.
 */
import {
  type ByteRange,
  type Measure,
  parseLength,
  parseMeasure,
  parseResolution,
  resolveByteRange,
  toBytes,
  toInches,
} from "../units";
import type { ClauseKey, OutputFormat, PageFormat } from "./keys";
import type { Brief } from "./schema";

export interface PixelRange {
  exact: number | null;
  min: number | null;
  max: number | null;
}

export type Aim = "best" | "clean" | "middle";
export type FrameMode = "whole" | "fill" | "pad" | "stretch";
export type PixelClause = "width" | "height" | "longSide" | "shortSide";
/** How a finished picture is looked at: every pixel, at its paper size, or whole on a screen, either way up. */
export type View = { kind: "pixels" } | { kind: "paper" } | { kind: "screen"; width: number; height: number };
/** The screen of which nothing else is known, in px. */
const SCREEN = { width: 1920, height: 1080 };
export const PIXEL_CLAUSES: readonly PixelClause[] = ["width", "height", "longSide", "shortSide"];

export interface MeasureRange {
  min: Measure | null;
  max: Measure | null;
}

export interface ResolvedBrief {
  name: string;
  /** Null where the source's own kind is to be kept. */
  formats: OutputFormat[] | null;
  pick: "first" | "smallest";
  pixels: Record<PixelClause, PixelRange | null>;
  sizes: { width: number; height: number }[] | null;
  box: { width: number; height: number } | null;
  /** Width over height. */
  shape: number | null;
  /** Output pixels per photo pixel on each side. */
  scale: number | null;
  /** Instead of one file one for each width, in px, from the narrowest up, and format. */
  set: { widths: number[]; formats: PageFormat[] | null } | null;
  /** In inches. */
  paper: { width: number | null; height: number | null } | null;
  /** In ppi. */
  resolution: PixelRange | null;
  fileSize: ByteRange & { aim: Aim };
  quality: { min: number; max: number } | null;
  space: "srgb" | "display-p3" | "bt2020" | "gray" | "cmyk" | "keep";
  bits: 8 | 10 | 16;
  light: "sdr" | "hdr";
  profile: "embed" | "omit";
  /** Whether the brief says anything about the profile itself. */
  statesProfile: boolean;
  frame: FrameMode;
  background: string;
  enlarge: "never" | "allow";
  view: View;
  sharpen: { for: "screen" | "print"; amount: number } | null;
  /** Crown to chin, and the eyes above the lower edge. */
  head: { height: MeasureRange | null; eyes: MeasureRange | null } | null;
  metadata: "keep" | "private" | "none";
  /** Inside the asked pixels. */
  border: { px: number; colour: string } | null;
  ink: "black" | "original" | null;
  layers: "flatten" | "keep";
  frames: "first" | "keep";
  padding: "allow" | "never";
  /** Of all files together, in bytes; null where a set is asked. */
  total: { max: number; counted: "files" | "mail" } | null;
  names: string;
  wishes: ReadonlySet<ClauseKey>;
  /** The clauses that the brief states, defaults not among them. */
  stated: ReadonlySet<ClauseKey>;
}

function range<T>(
  clause: { exact?: T; min?: T; max?: T } | undefined,
  read: (value: T) => number,
): PixelRange | null {
  if (!clause) return null;
  const at = (value: T | undefined) => (value === undefined ? null : read(value));
  return { exact: at(clause.exact), min: at(clause.min), max: at(clause.max) };
}

function measures(range: { min?: string; max?: string } | undefined): MeasureRange | null {
  if (!range) return null;
  const at = (text: string | undefined) => (text === undefined ? null : parseMeasure(text));
  return { min: at(range.min), max: at(range.max) };
}

const inches = (text: string | undefined) => (text === undefined ? null : toInches(parseLength(text)));
const same = (value: number) => value;

/** Fills in the defaults of brief version 1. */
export function resolveBrief(brief: Brief): ResolvedBrief {
  const pixels = {
    width: range(brief.width, same),
    height: range(brief.height, same),
    longSide: range(brief.longSide, same),
    shortSide: range(brief.shortSide, same),
  };
  const bytes = resolveByteRange(brief.fileSize ?? {});
  const bothSides = pixels.width?.exact != null && pixels.height?.exact != null;
  const scale = brief.scale === undefined ? null : Number(brief.scale.replace(/\s?%$/, "")) / 100;
  const shaped =
    brief.shape !== undefined ||
    brief.sizes !== undefined ||
    (brief.paper?.width !== undefined && brief.paper.height !== undefined);
  const wantsPixels =
    PIXEL_CLAUSES.some((key) => pixels[key]?.exact != null || pixels[key]?.min != null) ||
    brief.sizes !== undefined ||
    (brief.paper !== undefined && brief.resolution !== undefined) ||
    (scale ?? 0) > 1;
  // A page shows all of the picture, and so does a sheet with ink on it: what is missing of the shape is
  // background.
  const nothingCut = brief.ink !== undefined || (brief.format?.every((format) => format === "pdf") ?? false);
  const stated = new Set(
    (Object.keys(brief) as (keyof Brief)[]).filter((key): key is ClauseKey => key in clauseNames),
  );
  return {
    name: brief.name,
    formats: brief.format ?? null,
    pick: brief.pick ?? "first",
    pixels,
    sizes: brief.sizes ?? null,
    box: brief.box ?? null,
    shape:
      brief.shape === undefined
        ? null
        : brief.shape
            .split(":")
            .map(Number)
            .reduce((w, h) => w / h),
    scale,
    set: brief.set
      ? { widths: [...brief.set.widths].sort((a, b) => a - b), formats: brief.set.formats ?? null }
      : null,
    paper: brief.paper ? { width: inches(brief.paper.width), height: inches(brief.paper.height) } : null,
    resolution: range(brief.resolution, parseResolution),
    fileSize: { ...bytes, aim: brief.fileSize?.aim ?? (bytes.max === null ? "clean" : "best") },
    quality: brief.quality ? { min: brief.quality.min ?? 1, max: brief.quality.max ?? 100 } : null,
    // Light above white needs wide primaries and ten bits, so these come with it.
    space: brief.colour?.space ?? (brief.colour?.light === "hdr" ? "display-p3" : "srgb"),
    bits: brief.colour?.bits ?? (brief.colour?.light === "hdr" ? 10 : 8),
    light: brief.colour?.light ?? "sdr",
    profile: brief.colour?.profile ?? "embed",
    statesProfile: brief.colour?.profile !== undefined,
    sharpen: brief.sharpen ?? null,
    head: brief.head ? { height: measures(brief.head.height), eyes: measures(brief.head.eyes) } : null,
    frame: brief.frame ?? (bothSides || shaped ? (nothingCut ? "pad" : "fill") : "whole"),
    background: brief.background ?? "#ffffff",
    enlarge: brief.enlarge ?? (wantsPixels ? "allow" : "never"),
    view: viewOf(brief),
    metadata: brief.metadata ?? "private",
    border: brief.border ?? null,
    ink: brief.ink ?? null,
    layers: brief.layers ?? "flatten",
    frames: brief.frames ?? "first",
    padding: brief.padding ?? "allow",
    total: limitsWhole(brief)
      ? { max: toBytes(brief.total!.max, "max"), counted: brief.total!.counted ?? "files" }
      : null,
    names: namesOf(brief),
    wishes: new Set(brief.wishes ?? []),
    stated,
  };
}

/** Whether a limit on all files together is to be kept: beside a set it gives way. */
export const limitsWhole = ({ total, set }: Brief): boolean => total !== undefined && set === undefined;

/** The files of a set are told apart by their widths. */
const namesOf = ({ names = "{name}", set }: Brief): string =>
  set && !/\{w(:[1-9])?\}/.test(names) ? `${names}-{w}` : names;

/** The view that a brief states, else the one that what it fixes leads to. */
function viewOf(brief: Brief): View {
  const { view, paper } = brief;
  if (typeof view === "object") return { kind: "screen", ...view.screen };
  if (view === "pixels" || (view === undefined && fixesPixels(brief))) return { kind: "pixels" };
  const pixels = PIXEL_CLAUSES.some((key) => brief[key] !== undefined) || brief.box !== undefined;
  const onPaper = view === "paper" || (view === undefined && !pixels);
  // Without a size of paper nobody knows how large it is looked at.
  return onPaper && paper ? { kind: "paper" } : { kind: "screen", ...SCREEN };
}

const fixesPixels = (brief: Brief): boolean =>
  PIXEL_CLAUSES.some((key) => brief[key]?.exact !== undefined) ||
  brief.sizes !== undefined ||
  brief.scale !== undefined ||
  (brief.paper !== undefined && brief.resolution?.exact !== undefined);

/** What each clause is called on screen and in sentences. */
export const clauseNames: Record<ClauseKey, string> = {
  format: "Format",
  pick: "Choice of format",
  width: "Width",
  height: "Height",
  longSide: "Long side",
  shortSide: "Short side",
  box: "Box",
  sizes: "Sizes",
  shape: "Shape",
  scale: "Scale",
  set: "Set",
  paper: "Paper",
  resolution: "Resolution",
  fileSize: "File size",
  quality: "Quality",
  colour: "Colour",
  frame: "Frame",
  background: "Background",
  enlarge: "Enlarging",
  view: "View",
  head: "Head",
  sharpen: "Sharpening",
  metadata: "Metadata",
  border: "Border",
  ink: "Ink",
  layers: "Layers",
  frames: "Frames",
  padding: "Padding",
  total: "Total",
  names: "Names",
};
