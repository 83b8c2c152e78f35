/** `fit`: photos through a brief into a folder, one result a source, or of a set one a file. */

import { readFile, realpath, stat, unlink } from "node:fs/promises";
import { dirname, join, resolve, sep } from "node:path";
import type { Brief } from "@/core/brief";
import { isDiskFull } from "@/core/photo";
import type { Step } from "@/core/plan";
import { freeName, outputName } from "@/core/plan/names";
import { type Check, publicFacts } from "@/core/proof";
import type { FitAnswer } from "@/imaging";
import { fitPhoto, fitSet } from "@/imaging";
import type { Judging } from "@/imaging/candidates";
import { type Made, prove } from "@/imaging/proved";
import { readSource, type Source, sentence } from "@/imaging/source";
import { type Announce, writeFree } from "@/imaging/written";
import { CallError } from "./args";
import { readBounded } from "./photo-file";
import type { SourcePath } from "./sources";
import type { TotalPlan } from "./total-plan";

export interface FitResult {
  /** As it was given. */
  source: string;
  output: string | null;
  ok: boolean;
  error: string | null;
  facts: ReturnType<typeof publicFacts> | null;
  before: ReturnType<typeof publicFacts> | null;
  checks: Check[];
  difference: number | null;
  passedThrough: boolean;
  encodes: number;
  steps: Step[];
  notes: string[];
}

/** Refuses an output folder in which a source lies: outputs and originals are kept apart. */
export async function checkOutputFolder(out: string, sources: readonly SourcePath[]): Promise<void> {
  const target = await realpath(out).catch(() => resolve(out));
  const found = await stat(out).catch(() => null);
  if (found && !found.isDirectory()) throw new CallError(`--out "${out}" is a file; a folder was expected.`);
  for (const { source, error } of sources) {
    if (error) continue;
    const folder = dirname(await realpath(source));
    if (folder === target || folder.startsWith(target + sep)) {
      throw new CallError(
        `The source "${source}" lies in the output folder "${out}". Choose another folder, so that ` +
          "originals stay apart.",
      );
    }
  }
}

export interface Worked {
  result: FitResult;
  /** Null where nothing can be written. `brief`: the file's own, of a set. */
  made: { answer: FitAnswer; source: Source; brief: Brief } | null;
}

/**
 * All photos through a brief into a folder, one result a file, in their order. The next photo is worked on
 * while one
 * is written and proved; writing keeps the order, so that names are given out the same way every time.
 */
export async function fitAll({
  paths,
  brief,
  out,
  plan,
  judging,
  done,
}: {
  paths: readonly SourcePath[];
  brief: Brief;
  out: string;
  plan: TotalPlan;
  /** What nobody reads is not looked at beyond what the choice of a file needs. */
  judging: Judging;
  done: (count: number) => void;
}): Promise<FitResult[]> {
  const taken = new Set<string>();
  const results: FitResult[] = [];
  const begin = (i: number) => fitOne(paths[i], i, { brief, plan, judging });
  const started = paths.slice(0, AT_ONCE).map((_, i) => begin(i));
  for (const [i, path] of paths.entries()) {
    const files = await started[i];
    // Its bytes are let go as soon as it is written.
    delete started[i];
    if (i + AT_ONCE < paths.length) started[i + AT_ONCE] = begin(i + AT_ONCE);
    for (const file of files) results.push(await handOver(file, { path, n: i + 1, out, taken }));
    done(i + 1);
  }
  return results;
}

/** Three digits: more are noise. */
const roundedDifference = (difference: number | null) =>
  difference === null ? null : Math.round(difference * 1000) / 1000;

/** Photos that are worked on at a time. */
const AT_ONCE = 2;

interface Job {
  brief: Brief;
  plan: TotalPlan;
  judging: Judging;
}

/** The files of one photo: one, or those of a set. Nothing is written. */
export async function fitOne(path: SourcePath, i: number, { brief, plan, judging }: Job): Promise<Worked[]> {
  const nothing: FitResult = {
    source: path.source,
    output: null,
    ok: false,
    error: path.error,
    facts: null,
    before: null,
    checks: [],
    difference: null,
    passedThrough: false,
    encodes: 0,
    steps: [],
    notes: [],
  };
  if (path.error) return [{ result: nothing, made: null }];
  try {
    const source = await readSource(await readBounded(path.source));
    nothing.before = publicFacts(source.facts);
    if (plan.error) return [{ result: { ...nothing, error: plan.error }, made: null }];
    if (brief.set) {
      const { files, notes } = await fitSet({ source, brief, judging });
      return files.map((file, n) => workedOf(nothing, { ...file, source, notes: n === 0 ? notes : [] }));
    }
    const answer = await fitPhoto({
      source,
      brief,
      share: plan.shares.get(i),
      trials: plan.trials.get(i),
      planned: plan.planned ?? undefined,
      judging,
    });
    plan.trials.delete(i);
    return [workedOf(nothing, { answer, source, brief, notes: [] })];
  } catch (error) {
    return [{ result: { ...nothing, error: sentence(error) }, made: null }];
  }
}

/** `notes`: what is told of the whole set, with its first file. */
function workedOf(
  nothing: FitResult,
  { answer, source, brief, notes }: { answer: FitAnswer; source: Source; brief: Brief; notes: string[] },
): Worked {
  const result = {
    ...nothing,
    difference: roundedDifference(answer.difference),
    passedThrough: answer.passedThrough,
    encodes: answer.encodes,
    steps: answer.steps,
    notes: [...notes, ...answer.notes],
    error: answer.error,
  };
  return { result, made: answer.output && answer.geometry ? { answer, source, brief } : null };
}

/** Where a file goes, and the names that are given out already. */
export interface Destined {
  path: SourcePath;
  n: number;
  out: string;
  /** Paths that were given out, in small letters. */
  taken: Set<string>;
  /**
   * For a caller that goes on after it was broken off: told before a file is written, under the name that it will have
   * if that is still free. A full disk is then thrown.
   */
  announce?: Announce;
}

/** Writes a file under a free name, and proves it from disk; one that fails its proof does not stay. */
export async function handOver(
  { result, made }: Worked,
  { path, n, out, taken, announce }: Destined,
): Promise<FitResult> {
  if (!made) return result;
  const { answer, source, brief } = made;
  try {
    const written = await writeFree(
      answer.output!,
      (attempt) => {
        const name = outputName(brief.names ?? "{name}", {
          source: path.source,
          n,
          width: answer.geometry!.width,
          height: answer.geometry!.height,
          date: source.facts.date,
          brief: brief.name,
          format: answer.format!,
        });
        const folder = join(out, path.folder);
        const free = freeName(
          name,
          (candidate) => taken.has(join(folder, candidate).toLowerCase()) || attempt.has(candidate),
        );
        return join(folder, free);
      },
      announce,
    );
    taken.add(written.toLowerCase());
    await proveWritten(result, written, brief, {
      before: source.facts,
      frame: answer.frame,
      original: source.bytes,
      judge: answer.judge,
    });
  } catch (error) {
    if (announce && isDiskFull(error)) throw error;
    result.error = sentence(error);
  }
  return result;
}

/** The proof comes from the file on disk. A file that fails its proof does not stay. */
async function proveWritten(result: FitResult, path: string, brief: Brief, made: Made): Promise<void> {
  const proof = await prove(brief, await readFile(path), made).catch(async (error: unknown) => {
    await unlink(path);
    throw error;
  });
  result.facts = publicFacts(proof.facts);
  result.checks = proof.checks;
  result.notes.push(...proof.notes);
  result.difference ??= roundedDifference(proof.difference);
  result.ok = proof.ok;
  if (proof.ok) {
    result.output = path;
    return;
  }
  await unlink(path);
  const failed = proof.checks.find((check) => check.ok === false)!;
  result.error =
    `The written file failed its proof, so it was taken away: ${failed.clause} asked ${failed.asked}, ` +
    `found ${failed.found}.`;
}
