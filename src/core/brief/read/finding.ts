/** One thing that was read: a clause, or a part of one, and the words it came from. */
import type { ClauseKey } from "../keys";
import type { Brief } from "../schema";
import type { Token } from "./tokens";

export interface Finding<K extends ClauseKey = ClauseKey> {
  clause: K;
  value: NonNullable<Brief[K]>;
  wish: boolean;
  /** UTF-16 units in the wording. */
  start: number;
  end: number;
}

/** Something that looks like a rule but leaves a question open. */
export interface Doubt {
  start: number;
  end: number;
  ask: string;
}

/** What the readers of one statement add to. */
export class Findings {
  readonly found: Finding[] = [];
  readonly doubts: Doubt[] = [];
  /** Repeats of a rule in another unit: understood, but no clause of their own. */
  readonly repeats: { start: number; end: number }[] = [];

  add<K extends ClauseKey>(
    clause: K,
    value: NonNullable<Brief[K]>,
    tokens: readonly Token[],
    wish = false,
  ): void {
    if (tokens.length)
      this.found.push({ clause, value, wish, start: tokens[0].start, end: tokens[tokens.length - 1].end });
  }

  doubt(tokens: readonly Token[], ask: string): void {
    if (tokens.length) this.doubts.push({ start: tokens[0].start, end: tokens[tokens.length - 1].end, ask });
  }
}
