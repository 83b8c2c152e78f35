"use client";

/** Undo and redo on the Briefs screen: each deed knows how it is taken back. */
import { useCallback, useState } from "react";
import { useChange } from "../api";
import { say } from "../say";

export interface Deed {
  words: string;
  redo: () => Promise<unknown> | void;
  undo: () => Promise<unknown> | void;
}

export interface History {
  undo: string | null;
  redo: string | null;
  step: (direction: "undo" | "redo") => void;
  /** Carries a deed out and remembers it. */
  act: (deed: Deed) => void;
}

/** More is not needed in one sitting. */
const MOST = 200;

export function useHistory(): History {
  const [done, setDone] = useState<Deed[]>([]);
  const [undone, setUndone] = useState<Deed[]>([]);
  const run = useChange(async (work: () => Promise<unknown> | void) => work());
  const { mutate } = run;
  const act = useCallback(
    (deed: Deed) => {
      mutate(deed.redo, {
        onSuccess: () => {
          setDone((all) => [...all.slice(1 - MOST), deed]);
          setUndone([]);
        },
      });
    },
    [mutate],
  );
  const step = useCallback(
    (direction: "undo" | "redo") => {
      const [from, setFrom, setTo] =
        direction === "undo" ? [done, setDone, setUndone] : [undone, setUndone, setDone];
      const deed = from.at(-1);
      if (!deed) return;
      mutate(deed[direction], {
        onSuccess: () => {
          setFrom((all) => all.slice(0, -1));
          setTo((all) => [...all, deed]);
          say(direction === "undo" ? `Taken back: ${deed.words}` : `Done again: ${deed.words}`, {
            duration: 2500,
          });
        },
      });
    },
    [done, undone, mutate],
  );
  return { undo: done.at(-1)?.words ?? null, redo: undone.at(-1)?.words ?? null, step, act };
}
