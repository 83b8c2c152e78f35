/**
 * What a file is, and its SHA-256, found out in a process of its own: a file that takes too long or too much
 * memory ends that process, and nothing else.
 */
import { readFile } from "node:fs/promises";
import { ContainerError } from "@/core/containers";
import { MachineError, PhotoError } from "@/core/photo";
import { type LookedAt, lookAt } from "./look-at";
import { bundleBeside, LimitError, LimitedChild } from "./workers";

/** What the process is asked, and what it answers. */
export interface FactsQuestion {
  n: number;
  path: string;
}
export type FactsAnswer = { n: number } & (LookedAt | { name: string; message: string });

/** Common files take some hundredths of a second, raw files seconds. */
const LIMITS = { ms: 15_000, bytes: 1_400_000_000 };
/** Files that are looked at side by side; more wait for their turn. */
const MOST_READERS = 2;

const BUNDLE = bundleBeside("facts-child");
const readers = Array.from(
  { length: BUNDLE ? MOST_READERS : 0 },
  () => new LimitedChild({ bundle: BUNDLE!, limits: LIMITS }),
);
const waiting: (() => void)[] = [];

/** Starts a process before the first file comes. */
export const warmUpFacts = (): void => readers[0]?.warmUp();

/** Throws a {@link PhotoError} or {@link ContainerError} that says why it cannot be used. */
export async function factsAside(path: string): Promise<LookedAt> {
  if (!readers.length) return lookAt(await readFile(path));
  const free = () => readers.find((one) => !one.busy);
  while (!free()) await new Promise<void>((turn) => waiting.push(turn));
  try {
    const answer = await free()!.ask<FactsAnswer>({ path });
    if ("facts" in answer) return { facts: answer.facts, sha256: answer.sha256 };
    if (answer.name === "ContainerError") throw new ContainerError(answer.message);
    if (answer.name === "PhotoError") throw new PhotoError(answer.message);
    throw Object.assign(new Error(answer.message), { name: answer.name });
  } catch (error) {
    throw error instanceof LimitError ? inWords(error) : error;
  } finally {
    waiting.shift()?.();
  }
}

function inWords({ why }: LimitError): Error {
  if (why === "from outside")
    return new MachineError("The process that looked at it was ended from outside. Bring it in again.");
  const of =
    why === "by itself" ? "ends the process that looks at it" : `takes more ${why} than any photo does`;
  return new PhotoError(`To find out what this file is ${of}. Save it anew in the program it came from.`);
}
