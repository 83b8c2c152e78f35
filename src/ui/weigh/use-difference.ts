"use client";

/**
 * Differences of what is in sight, worked out beside the page. One question a pane at a time; an older one
 * is forgotten.
 */
import { useEffect, useRef, useState } from "react";
import type { Answer, Ask } from "./difference.worker";

export type SightDifference = Omit<Answer, "id"> & { key: string };
type Question = Omit<Ask, "id">;

let worker: Worker | null = null;
let ids = 0;
const waiting = new Map<number, (answer: Answer) => void>();

function ask(question: Question): Promise<Answer> {
  if (!worker) {
    worker = new Worker(new URL("./difference.worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = ({ data }: MessageEvent<Answer>) => {
      waiting.get(data.id)?.(data);
      waiting.delete(data.id);
    };
  }
  const id = (ids += 1);
  const { reference, trial } = question;
  worker.postMessage({ ...question, id }, [reference.buffer, trial.buffer]);
  return new Promise((resolve) => waiting.set(id, resolve));
}

/** `key` names what is in sight; `make` gathers its pixels, or null while they are still coming. */
export function useSightDifference(
  key: string | null,
  make: () => Question | null,
  ticks: number,
): SightDifference | null {
  const [answer, setAnswer] = useState<SightDifference | null>(null);
  const asked = useRef<string | null>(null);
  useEffect(() => {
    if (!key || asked.current === key) return;
    const timer = setTimeout(() => {
      const question = make();
      if (!question) return;
      asked.current = key;
      void ask(question).then(({ difference, map }) => {
        if (asked.current === key) setAnswer({ key, difference, map });
      });
    }, 120);
    return () => clearTimeout(timer);
  }, [key, make, ticks]);
  return answer && answer.key === key ? answer : null;
}
