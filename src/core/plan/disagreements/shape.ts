/** Pixels, paper and shape that are not of one shape. */
import { type Brief, paperWords, type ResolvedBrief } from "../../brief";
import { hasShape } from "../../geometry";
import { formatSize, trimNumber } from "../../units";
import { type Choice, type Disagreement, demanded } from "./types";

/** Exact pixels of both sides; null where one is free. */
export function exactSize(brief: ResolvedBrief): { width: number; height: number } | null {
  const [width, height] = [brief.pixels.width?.exact ?? null, brief.pixels.height?.exact ?? null];
  return width !== null && height !== null ? { width, height } : null;
}

/** "4 : 5" of 28 × 35; for shapes without small whole numbers "1 : 1.27". */
function smallRatio(ratio: number): [number, number] {
  for (let h = 1; h <= 20; h += 1) {
    const w = Math.round(ratio * h);
    if (w > 0 && Math.abs(w / h / ratio - 1) < 0.0005) return [w, h];
  }
  return ratio >= 1 ? [ratio, 1] : [1, 1 / ratio];
}

const ratioWords = (a: number, b: number) => `${trimNumber(a, 2)} : ${trimNumber(b, 2)}`;

/** Both shapes with the same first number, so that they can be compared at a glance. */
function sideBySide(one: number, other: number): [string, string] {
  const [w, h] = smallRatio(other);
  return [ratioWords(w, w / one), ratioWords(w, h)];
}

/** The size of a shape that is nearest to the one asked: a side stays where that gives the shape exactly. */
export function sizeOfShape(
  { width, height }: { width: number; height: number },
  ratio: number,
): { width: number; height: number } {
  const byWidth = { width, height: Math.max(1, Math.round(width / ratio)) };
  const byHeight = { width: Math.max(1, Math.round(height * ratio)), height };
  const off = (size: { width: number; height: number }) => Math.abs(size.width / size.height / ratio - 1);
  return off(byHeight) < off(byWidth) ? byHeight : byWidth;
}

const pixels = ({ width, height }: { width: number; height: number }) => ({
  width: { exact: width },
  height: { exact: height },
});

export function shapeDisagreements(brief: Brief, resolved: ResolvedBrief): Disagreement[] {
  const out: Disagreement[] = [];
  const size = exactSize(resolved);
  const paper =
    resolved.paper && resolved.paper.width !== null && resolved.paper.height !== null
      ? resolved.paper.width / resolved.paper.height
      : null;
  if (size && paper !== null && !hasShape(size.width, size.height, paper))
    out.push(pixelsAndPaper(brief, resolved, size, paper));
  if (size && resolved.shape !== null && !hasShape(size.width, size.height, resolved.shape))
    out.push(pixelsAndShape(brief, size, resolved.shape));
  if (
    paper !== null &&
    resolved.shape !== null &&
    !size &&
    Math.abs(turned(paper, resolved.shape) / resolved.shape - 1) > 0.005
  )
    out.push(paperAndShape(brief, resolved.paper!, resolved.shape));
  if (resolved.sizes && resolved.shape !== null) {
    const odd = resolved.sizes.filter((s) => !hasShape(s.width, s.height, resolved.shape!));
    if (odd.length) out.push(sizesAndShape(brief, resolved.sizes, odd));
  }
  return out;
}

/** Paper turns with the picture where no side is exact. */
const turned = (paper: number, shape: number) => (paper < 1 === shape < 1 ? paper : 1 / paper);

function pixelsAndPaper(
  brief: Brief,
  resolved: ResolvedBrief,
  size: { width: number; height: number },
  paper: number,
): Disagreement {
  const [px, mm] = sideBySide(size.width / size.height, paper);
  const wished =
    resolved.wishes.has("width") && resolved.wishes.has("height") && !resolved.wishes.has("paper");
  const fitting = sizeOfShape(size, paper);
  const long = (resolved.paper!.width! * size.height) / size.width;
  const printed = `prints ${paperWords({ width: brief.paper!.width, height: inUnitOf(brief.paper!.width!, long) })}`;
  const wanted = Math.round(size.width / paper);
  const over = Math.abs(size.height - wanted);
  return {
    clauses: ["width", "height", "paper"],
    why:
      `${formatSize(size.width, size.height)} px is ${px}, ${paperWords(brief.paper!)} is ${mm}. At ` +
      `${size.width} px of width the paper wants a height of ${wanted} px: ${over} ` +
      `${size.height > wanted ? "fewer" : "more"}.`,
    wins: wished
      ? "The pixels are only wished, so the paper wins."
      : "The pixels win unless you choose otherwise.",
    choices: [
      {
        label: "Follow the pixels",
        effect: printed,
        change: { paper: { width: brief.paper!.width! }, ...demanded(brief, "width", "height") },
      },
      {
        label: "Follow the paper",
        effect: `${formatSize(fitting.width, fitting.height)} px`,
        change: pixels(fitting),
      },
    ],
  };
}

/** A length in inches, spelled in the unit of another. */
function inUnitOf(like: string, inches: number): string {
  const unit = /[a-z″"]+$/i.exec(like.trim())![0];
  const per: Record<string, number> = { mm: 25.4, cm: 2.54, pt: 72 };
  return `${trimNumber(inches * (per[unit.toLowerCase()] ?? 1), 2)}${unit}`;
}

function pixelsAndShape(brief: Brief, size: { width: number; height: number }, shape: number): Disagreement {
  const fitting = sizeOfShape(size, shape);
  return {
    clauses: ["width", "height", "shape"],
    why:
      `${formatSize(size.width, size.height)} px is ${sideBySide(size.width / size.height, shape)[0]}, ` +
      `the shape asked is ${brief.shape}.`,
    wins: "The pixels win unless you choose otherwise.",
    choices: [
      {
        label: "Follow the pixels",
        effect: `${formatSize(size.width, size.height)} px`,
        change: { shape: null, ...demanded(brief, "width", "height") },
      },
      {
        label: "Follow the shape",
        effect: `${formatSize(fitting.width, fitting.height)} px`,
        change: pixels(fitting),
      },
    ],
  };
}

function paperAndShape(
  brief: Brief,
  paper: { width: number | null; height: number | null },
  shape: number,
): Disagreement {
  const height = inUnitOf(brief.paper!.width!, paper.width! / shape);
  return {
    clauses: ["shape", "paper"],
    why:
      `${paperWords(brief.paper!)} is ${sideBySide(paper.width! / paper.height!, shape)[0]}, the shape ` +
      `asked is ${brief.shape}.`,
    wins: "The shape wins unless you choose otherwise.",
    choices: [
      {
        label: "Follow the shape",
        effect: paperWords({ width: brief.paper!.width, height }),
        change: { paper: { width: brief.paper!.width!, height }, ...demanded(brief, "shape") },
      },
      { label: "Follow the paper", effect: paperWords(brief.paper!), change: { shape: null } },
    ],
  };
}

function sizesAndShape(
  brief: Brief,
  sizes: readonly { width: number; height: number }[],
  odd: readonly { width: number; height: number }[],
): Disagreement {
  const left = sizes.filter((size) => !odd.includes(size));
  const words = odd.map((s) => formatSize(s.width, s.height)).join(" and ");
  const choices: Choice[] = [
    { label: "Follow the sizes", effect: `no shape beside them`, change: { shape: null } },
  ];
  if (left.length)
    choices.push({
      label: "Follow the shape",
      effect: `only ${left.map((s) => formatSize(s.width, s.height)).join(" or ")} px`,
      change: { sizes: left },
    });
  return {
    clauses: ["sizes", "shape"],
    why: `${words} px ${odd.length > 1 ? "are" : "is"} not ${brief.shape}.`,
    wins: "The sizes win unless you choose otherwise.",
    choices,
  };
}
