/** What a row says about itself: verdict before a run, proof after it. */
import type { ResolvedBrief } from "@/core/brief";
import type { GaugeInput } from "@/core/gauge";
import type { RowView } from "../api/contract";
import type { GaugeTone } from "../parts/gauge";
import type { State } from "../parts/state-mark";

export interface RowState {
  state: State | null;
  reason: string;
  /** Something is being measured or made for this row. */
  working: boolean;
}

export function rowState(row: RowView): RowState {
  if (row.made?.state === "done") return { state: row.made.ok ? "meets" : "cannot", reason: "proved", working: false };
  if (row.made?.state === "failed") return { state: "cannot", reason: row.made.error ?? "", working: false };
  if (row.made?.state === "waiting") return { state: null, reason: "being made", working: true };
  if (row.verdict) return { state: row.verdict.state, reason: row.verdict.reason, working: false };
  return { state: null, reason: row.figure === "about" ? "measuring" : "", working: row.figure === "about" };
}

export function toneOf(row: RowView): GaugeTone {
  return rowState(row).state ?? "open";
}

/** Pixels on one line: the clause's own side where one side is asked, else the mean side. */
export function pixelGauge(row: RowView, brief: ResolvedBrief | null): GaugeInput {
  const { before, geometry } = row;
  const long = (s: { width: number; height: number }) => Math.max(s.width, s.height);
  const short = (s: { width: number; height: number }) => Math.min(s.width, s.height);
  const mean = (s: { width: number; height: number }) => Math.sqrt(s.width * s.height);
  const p = brief?.pixels;
  const exact = p?.width?.exact && p.height?.exact ? Math.sqrt(p.width.exact * p.height.exact) : null;
  if (exact !== null) return { min: exact, max: exact, now: mean(before), will: geometry && mean(geometry) };
  const [range, side] = p?.longSide ? [p.longSide, long] : p?.shortSide ? [p.shortSide, short] : p?.width ? [p.width, (s: { width: number }) => s.width] : p?.height ? [p.height, (s: { height: number }) => s.height] : [null, mean];
  const measure = side as (s: { width: number; height: number }) => number;
  return { min: range?.exact ?? range?.min ?? null, max: range?.exact ?? range?.max ?? null, now: measure(before), will: geometry && measure(geometry) };
}
