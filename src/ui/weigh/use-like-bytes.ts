"use client";

/** A trial of other pixels at about the bytes of one: what came out tells how the next has to be. */
import { useCallback, useEffect, useRef } from "react";
import type { Choice, LOSSY } from "@/core/coding";
import type { WeighedSizeView, WeighView } from "../api";
import { choiceAt } from "./lines";
import { type PaneOf, samePane, trialOf } from "./panes";

interface Sought {
  format: (typeof LOSSY)[number];
  /** At most so many, and not much less. */
  bytes: number;
  size: WeighedSizeView;
  choice: Choice;
  /** Tries that are left. */
  left: number;
}

const TRIES = 3;
const NEAR = 0.92;
/** A miss above is of no use. */
const AIMED = 0.97;

/** Gives the first choice; as its file is made, `replace` is told of better ones while a pane still shows it. */
export function useLikeBytes(
  view: WeighView | null,
  panes: readonly PaneOf[],
  replace: (old: Choice, next: Choice) => void,
): (format: Sought["format"], bytes: number, size: WeighedSizeView) => Choice | null {
  const sought = useRef<Sought | null>(null);
  useEffect(() => {
    const now = sought.current;
    const made = now && view && trialOf(now.choice, view);
    if (!now || made?.difference == null) return;
    const next = choiceAt(view!, now.format, now.bytes * AIMED, now.size);
    const done = made.bytes <= now.bytes && made.bytes >= now.bytes * NEAR;
    const shown = panes.some((pane) => samePane(pane, now.choice));
    sought.current = null;
    if (done || !shown || now.left === 0 || samePane(next, now.choice)) return;
    sought.current = { ...now, choice: next, left: now.left - 1 };
    replace(now.choice, next);
  }, [view, panes, replace]);
  return useCallback(
    (format, bytes, size) => {
      if (!view) return null;
      const most = Math.min(bytes, view.range.max ?? Number.POSITIVE_INFINITY);
      const choice = choiceAt(view, format, most * AIMED, size);
      sought.current = { format, bytes: most, size, choice, left: TRIES };
      return choice;
    },
    [view],
  );
}
