import { canonical } from "../units";
import type { Brief } from "./schema";

/**
 * What was changed from one brief to another, done to a third: a form that was opened before an edit had come through
 * does not take that edit back.
 */
export function rebased(from: Brief, to: Brief, now: Brief): Brief {
  const keys = new Set([...Object.keys(from), ...Object.keys(to)]) as Set<keyof Brief>;
  const changed = [...keys].filter((key) => text(from[key]) !== text(to[key]));
  const out = { ...now, ...Object.fromEntries(changed.map((key) => [key, to[key]])) };
  for (const key of changed) if (to[key] === undefined) delete out[key];
  return out;
}

const text = (value: unknown): string => canonical(value ?? null);
