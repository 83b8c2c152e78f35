/** A set for a page: which files one photo becomes, and each file's own brief. */
import {
  type Brief,
  formatName,
  type OutputFormat,
  PAGE_FORMATS,
  type ResolvedBrief,
  resolveBrief,
} from "../../brief";
import { planGeometry } from "../../geometry";
import type { Frame, Size } from "../../photo";
import type { Facts } from "../../proof";
import { formatBytes } from "../../units";
import { allowedFormats } from "../pass";

/** One file of a set. */
export interface SetPart {
  /** In px, exactly. */
  width: number;
  format: OutputFormat;
}

interface SetPlan {
  /** The widest first; of one width the format first that every browser knows, then what is lighter. */
  parts: SetPart[];
  /** The largest picture that the photo gives, in px. */
  full: Size;
  notes: string[];
}

/** The brief of all files of a set together, as if one file were asked: what else fixes pixels gives way to the set. */
export function withoutSet({
  set: _,
  box: _b,
  sizes: _s,
  scale: _c,
  total: _t,
  layers: _l,
  frames: _fr,
  ...brief
}: Brief): Brief {
  const { width, height, longSide, shortSide, ...rest } = brief;
  const sides = Object.entries({ width, height, longSide, shortSide }).flatMap(([key, range]) =>
    range?.max === undefined ? [] : [[key, { max: range.max }]],
  );
  return { ...rest, ...Object.fromEntries(sides), enlarge: "never" };
}

/** Throws a GeometryError where the photo cannot take what the brief asks. */
export function planSet(brief: Brief, photo: Facts, frame: Frame): SetPlan {
  const resolved = resolveBrief(brief);
  const full = planGeometry(resolveBrief(withoutSet(brief)), photo, frame);
  const { widths, notes } = widthsFor(resolved, full);
  const formats = formatsFor(resolved, photo);
  const parts = widths
    .toReversed()
    .flatMap((width) => formats.toReversed().map((format) => ({ width, format })));
  return { parts, full: { width: full.width, height: full.height }, notes };
}

function widthsFor({ set }: ResolvedBrief, full: Size): { widths: number[]; notes: string[] } {
  const widths = set!.widths.filter((width) => width <= full.width);
  const left = set!.widths.filter((width) => width > full.width);
  if (!left.length) return { widths, notes: [] };
  const words = left.map((width) => `${width} px`).join(", ");
  if (!widths.length)
    return {
      widths: [full.width],
      notes: [
        `It is narrower than every width that is asked (${words}), so it was made ${full.width} px wide.`,
      ],
    };
  const were = left.length > 1 ? "were" : "was";
  return {
    widths,
    notes: [`${words} ${were} left out: the picture is ${full.width} px wide, and none is enlarged.`],
  };
}

const formatsFor = (brief: ResolvedBrief, photo: Facts): OutputFormat[] => {
  const { formats } = brief.set!;
  return formats
    ? PAGE_FORMATS.filter((format) => formats.includes(format))
    : [allowedFormats(brief, photo)[0]];
};

/** What is asked of one file of a set. */
export function partBrief(brief: Brief, { width, format }: SetPart): Brief {
  const { pick: _, wishes, ...rest } = withoutSet(brief);
  const out: Brief = { ...rest, format: [format], width: { exact: width }, names: resolveBrief(brief).names };
  const left = wishes?.filter((wish) => out[wish] !== undefined && wish !== "width");
  return left?.length ? { ...out, wishes: left } : out;
}

/** Neighbouring sizes are told that differ by less than this share of the larger one's bytes. */
const ALIKE = 0.2;

/** A format that saves less than this of the one that every browser knows is not worth a source of its own. */
const WORTH = 0.05;

/** The formats that a page should offer, first choice first: the last serves every browser, the others save bytes. */
export function worthOffering(made: readonly { format: OutputFormat; bytes: number }[]): OutputFormat[] {
  const bytes = (format: OutputFormat) =>
    made.filter((one) => one.format === format).reduce((sum, one) => sum + one.bytes, 0);
  const formats = PAGE_FORMATS.filter((format) => made.some((one) => one.format === format));
  const last = formats.at(-1);
  return formats.filter((format) => format === last || bytes(format) <= bytes(last!) * (1 - WORTH));
}

/** Formats that were asked and save nothing. */
export function idleNotes(made: readonly PartMade[]): string[] {
  const offered = worthOffering(made);
  const idle = PAGE_FORMATS.filter(
    (format) => !offered.includes(format) && made.some((one) => one.format === format),
  );
  return idle.map(
    (format) =>
      `${formatName(format)} saves nothing over ${formatName(offered.at(-1)!)} here, so the markup leaves it out.`,
  );
}

/** A file that was made. */
interface PartMade extends SetPart {
  bytes: number;
}

/** Which neighbouring sizes hardly differ in bytes, so that one of the two could be left out. */
export function alikeNotes(made: readonly PartMade[]): string[] {
  return PAGE_FORMATS.flatMap((format) => {
    const sizes = made.filter((one) => one.format === format).sort((a, b) => a.width - b.width);
    return sizes.slice(1).flatMap((larger, i) => {
      const smaller = sizes[i];
      if (Math.abs(larger.bytes - smaller.bytes) >= ALIKE * larger.bytes) return [];
      return [
        `${smaller.width} and ${larger.width} px hardly differ in bytes (${formatBytes(smaller.bytes)} and ` +
          `${formatBytes(larger.bytes)}); one of them could be left out.`,
      ];
    });
  });
}
