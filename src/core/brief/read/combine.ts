/**
 * Findings of one document become clauses: halves of a range meet, repeats are one, what contradicts itself
 * is asked about.
 */
import { parseResolution, resolveByteRange } from "../../units";
import type { ClauseKey } from "../keys";
import type { Brief } from "../schema";
import type { Doubt, Finding } from "./finding";

export interface Combined {
  clause: ClauseKey;
  value: unknown;
  wish: boolean;
  spans: { start: number; end: number }[];
  /** Two values were read that exclude each other. */
  torn?: boolean;
}

const YIELDED = "A demand was read for the same rule, so this wish is left out.";
const TWICE = "Two different values were read for the same rule. Which one holds?";

const RANGES: ReadonlySet<ClauseKey> = new Set<ClauseKey>([
  "width",
  "height",
  "longSide",
  "shortSide",
  "resolution",
  "fileSize",
  "quality",
  "paper",
]);

/**
 * `own` rules of a document come before those `shared` by all: what is said of one beats what is said of all.
 */
export function combine(own: readonly Finding[], shared: readonly Finding[], doubts: Doubt[]): Combined[] {
  const out = new Map<ClauseKey, Combined>();
  for (const finding of own) take(out, finding, doubts, true);
  const local = new Set(out.keys());
  for (const finding of shared)
    if (finding.clause !== "format" || !local.has("format"))
      take(out, finding, doubts, !local.has(finding.clause));
  for (const { spans } of out.values()) spans.sort((a, b) => a.start - b.start);
  apartFormats(out, own, doubts);
  // Of a pair "330 × 420" not one half alone.
  const [width, height] = [out.get("width"), out.get("height")];
  if (
    width &&
    height &&
    width.torn !== height.torn &&
    width.spans.some((a) => height.spans.some((b) => a.start === b.start))
  )
    width.torn = height.torn = true;
  return [...out.values()]
    .filter((clause) => !clause.torn)
    .sort((a, b) => a.spans[0].start - b.spans[0].start);
}

/** Where other rules contradict each other, formats that were said apart are those of different things. */
function apartFormats(out: Map<ClauseKey, Combined>, own: readonly Finding[], doubts: Doubt[]): void {
  const format = out.get("format");
  const torn = [...out.values()].some((clause) => clause.torn && APART.has(clause.clause));
  const lists = own.filter((finding) => finding.clause === "format").map(({ value }) => value as string[]);
  if (
    !format ||
    !torn ||
    !lists.some((list) => lists.some((other) => !list.some((one) => other.includes(one))))
  )
    return;
  for (const span of format.spans) doubts.push({ ...span, ask: TWICE });
  format.torn = true;
}

const APART: ReadonlySet<ClauseKey> = new Set<ClauseKey>([
  "fileSize",
  "paper",
  "width",
  "height",
  "resolution",
]);

function take(out: Map<ClauseKey, Combined>, finding: Finding, doubts: Doubt[], asks: boolean): void {
  const { clause, value, wish, start, end } = finding;
  const known = out.get(clause);
  if (!known) {
    out.set(clause, { clause, value, wish, spans: [{ start, end }] });
    return;
  }
  if (known.torn) {
    known.spans.push({ start, end });
    if (asks) doubts.push({ start, end, ask: TWICE });
    return;
  }
  const joined = join(clause, known, finding);
  if (joined) {
    Object.assign(known, joined);
    known.spans.push({ start, end });
  } else if (known.wish && !wish) {
    for (const span of known.spans) doubts.push({ ...span, ask: YIELDED });
    out.set(clause, { clause, value, wish, spans: [{ start, end }] });
  } else if (wish && !known.wish) {
    if (asks) doubts.push({ start, end, ask: YIELDED });
  } else if (asks) {
    // Two demands that exclude each other: neither is a rule until somebody says which.
    doubts.push({ start, end, ask: TWICE });
    for (const span of known.spans) doubts.push({ ...span, ask: TWICE });
    known.spans.push({ start, end });
    known.torn = true;
  }
}

/** Both values in one, or null where they contradict each other. */
function join(clause: ClauseKey, a: Combined, b: Finding): { value: unknown; wish: boolean } | null {
  if (JSON.stringify(a.value) === JSON.stringify(b.value)) return { value: a.value, wish: a.wish && b.wish };
  if (clause === "format") return joinFormats(a, b);
  if (clause === "head") return joinHeads(a, b);
  if (clause === "colour" || RANGES.has(clause)) {
    if (a.wish !== b.wish) return null;
    const [x, y] = [a.value as Record<string, unknown>, b.value as Record<string, unknown>];
    if (Object.keys(x).some((key) => key in y && x[key] !== y[key]) || "exact" in x !== "exact" in y)
      return null;
    const value = { ...x, ...y };
    return inOrder(clause, value) ? { value, wish: a.wish } : null;
  }
  return null;
}

/** A format that is preferred comes first; formats that are named twice stand once. */
function joinFormats(a: Combined, b: Finding): { value: unknown; wish: boolean } {
  const [x, y] = [a.value as string[], b.value as string[]];
  const [first, then] = b.wish && !a.wish ? [y, x] : [x, y];
  return { value: [...new Set([...first, ...then])], wish: a.wish && b.wish };
}

/** How high it is, and where its eyes are: said apart, meant together. */
function joinHeads(a: Combined, b: Finding): { value: unknown; wish: boolean } | null {
  const [x, y] = [a.value, b.value] as Record<string, Record<string, string>>[];
  const value: Record<string, Record<string, string>> = { ...x };
  for (const [key, range] of Object.entries(y)) {
    const known = value[key];
    if (known && Object.keys(range).some((end) => end in known && known[end] !== range[end])) return null;
    value[key] = { ...known, ...range };
  }
  return { value, wish: a.wish && b.wish };
}

function inOrder(clause: ClauseKey, value: Record<string, unknown>): boolean {
  const { min, max } = value as { min?: never; max?: never };
  if (min === undefined || max === undefined) return true;
  if (clause === "fileSize") {
    try {
      return resolveByteRange({ min, max }) !== null;
    } catch {
      return false;
    }
  }
  if (clause === "resolution") return parseResolution(min) <= parseResolution(max);
  return (min as number) <= (max as number);
}

/** The clauses as the keys of a brief, in the order of the wording. */
export function asBrief(combined: readonly Combined[]): Partial<Brief> {
  return Object.fromEntries(combined.map(({ clause, value }) => [clause, value])) as Partial<Brief>;
}
