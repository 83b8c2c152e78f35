/** What a row says about itself: verdict before a run, proof after it. */
import type { RowView } from "../api";
import type { GaugeTone } from "./gauge";
import type { State } from "./state-mark";

export interface RowState {
  state: State | null;
  reason: string;
  /** Something is being measured or made for this row. */
  working: boolean;
}

export function rowState(row: RowView): RowState {
  if (row.made?.state === "done")
    return { state: row.made.ok ? "meets" : "cannot", reason: "proved", working: false };
  if (row.made?.state === "failed") return { state: "cannot", reason: row.made.error ?? "", working: false };
  if (row.made?.state === "waiting") return { state: null, reason: "being made", working: true };
  if (row.verdict) return { state: row.verdict.state, reason: row.verdict.reason, working: false };
  return { state: null, reason: row.figure === "about" ? "measuring" : "", working: row.figure === "about" };
}

export function toneOf(row: RowView): GaugeTone {
  return rowState(row).state ?? "open";
}
