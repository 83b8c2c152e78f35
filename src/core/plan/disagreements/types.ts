/** Where the clauses of a brief contradict each other, and the ways out. */
import type { Brief, ClauseKey } from "../../brief";

/** New values of clauses; null takes a clause away. `wishes` replaces the list of wishes. */
export type Change = { [K in ClauseKey | "wishes"]?: Brief[K] | null };

export interface Choice {
  /** What the button says. */
  label: string;
  /** What comes of it, in a few words. */
  effect: string;
  change: Change;
}

export interface Disagreement {
  clauses: ClauseKey[];
  /** One or two plain sentences: which clauses, why, by how much. */
  why: string;
  /** Which of them wins when nobody chooses. */
  wins: string;
  choices: Choice[];
}

/** The same brief with a change carried out by hand. The receiver's own values stay beside it. */
export function overrule(brief: Brief, change: Change): Brief {
  const next: Record<string, unknown> = { ...brief };
  const overruled: Record<string, unknown> = { ...brief.overruled };
  const asked = new Set((brief.read ?? []).map((span) => span.clause));
  for (const [key, value] of Object.entries(change)) {
    if (value === undefined) continue;
    if (value === null || (key === "wishes" && (value as unknown[]).length === 0)) delete next[key];
    else next[key] = value;
    if (key === "wishes" || !asked.has(key as ClauseKey)) continue;
    const receivers = key in overruled ? overruled[key] : brief[key as ClauseKey];
    if (receivers === undefined) continue;
    if (JSON.stringify(receivers) === JSON.stringify(next[key])) delete overruled[key];
    else overruled[key] = receivers;
  }
  if (Object.keys(overruled).length) next.overruled = overruled;
  else delete next.overruled;
  const wishes = (next.wishes as ClauseKey[] | undefined)?.filter((wish) => next[wish] !== undefined);
  if (wishes?.length) next.wishes = wishes;
  else delete next.wishes;
  return next as Brief;
}

/** Wishes without those that are demanded now. */
export function demanded(brief: Brief, ...clauses: ClauseKey[]): { wishes?: ClauseKey[] } {
  if (!brief.wishes?.some((wish) => clauses.includes(wish))) return {};
  return { wishes: brief.wishes.filter((wish) => !clauses.includes(wish)) };
}
