/**
 * One policy for every kind of work: how often it is tried, what is tried again at once, and what happens at its
 * end. What the photo itself brings about is written onto it by the work; everything here is the machine's.
 */

import { setTimeout } from "node:timers/promises";
import { troubleOf } from "@/core/photo";
import { sentence } from "@/imaging/source";
import type { Store, Task } from "@/store";
import { deathsOf, forgetDeaths, keepFailure, MOST_DEATHS } from "@/store/queries";

export type Kind = Task | "trial";

interface Policy {
  /** Tries of a job, with growing pauses between them, for errors that nobody has foreseen. */
  attempts: number;
  /** How long the database may be away before a try counts as failed, in ms. */
  patience: number;
}

const USUAL: Policy = { attempts: 4, patience: 120_000 };
export const POLICIES: Record<Kind, Policy> = {
  measure: USUAL,
  make: USUAL,
  thumb: USUAL,
  thumbs: USUAL,
  share: USUAL,
  collect: USUAL,
  demo: { ...USUAL, attempts: 2 },
  weigh: { ...USUAL, attempts: 2 },
  // Somebody waits in front of it.
  trial: { attempts: 2, patience: 20_000 },
};

/** Said of what ended its process twice. */
const SET_APART =
  "Working on it has ended the process that did it twice, so it is not tried by itself again. Try it again by hand, " +
  "or bring the photo in anew from a sound copy.";

/** Between two looks whether the database is there again. */
const LOOK_MS = 500;

export interface Job {
  kind: Kind;
  id: string;
  /** Counted from 1. */
  attempt: number;
}

/** Carries work out under its policy. What it throws is for the queue, which tries again later. */
export async function underPolicy(store: Store, job: Job, work: () => Promise<void>): Promise<void> {
  const { kind, id, attempt } = job;
  const deaths = await patiently(store, kind, () => deathsOf(store.db, kind, id));
  if (deaths >= MOST_DEATHS) return keepFailure(store.db, kind, id, SET_APART);
  try {
    await patiently(store, kind, work);
    if (deaths) await patiently(store, kind, () => forgetDeaths(store.db, kind, [id]));
  } catch (error) {
    const trouble = troubleOf(error);
    // On a full disk everything waits until there is space; then what waits is found and added again.
    if (trouble === "disk" || (trouble !== "photo" && attempt < POLICIES[kind].attempts)) throw error;
    await keepFailure(store.db, kind, id, sentence(error));
  }
}

/** Does it anew when the database is there again, as long as the policy is patient: that uses up no attempt. */
async function patiently<T>(store: Store, kind: Kind, work: () => Promise<T>): Promise<T> {
  const until = performance.now() + POLICIES[kind].patience;
  for (;;) {
    try {
      return await work();
    } catch (error) {
      if (troubleOf(error) !== "database" || performance.now() > until) throw error;
      await databaseBack(store, until, error);
    }
  }
}

async function databaseBack(store: Store, until: number, error: unknown): Promise<void> {
  for (;;) {
    await setTimeout(LOOK_MS);
    const there = await store.pool.query("select 1").then(
      () => true,
      () => false,
    );
    if (there) return;
    if (performance.now() > until) throw error;
  }
}
