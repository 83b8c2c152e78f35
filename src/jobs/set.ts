/** Measures a photo under a brief that asks a set: all of its files, each kept and proved by itself. */
import { type Brief, clauseWords } from "@/core/brief";
import type { Frame } from "@/core/photo";
import { partBrief } from "@/core/plan/set";
import type { Check } from "@/core/proof";
import { fitSet, type SetAnswer } from "@/imaging";
import { type Proof, prove } from "@/imaging/proved";
import type { Source } from "@/imaging/source";
import type { Measured, MeasuredFile, Store } from "@/store";
import { NOT_MADE } from "@/store";
import { keepBytes } from "@/store/queries";
import type { HeldTrials } from "./held-trials";

export interface SetToMeasure {
  source: Source;
  brief: Brief;
  frame: Frame;
  sha256: string;
  trials: HeldTrials;
  signal?: AbortSignal;
}

/** What was not possible is an error of the whole: a page with gaps is of no use. */
export async function measuredSet(store: Store, task: SetToMeasure): Promise<Measured> {
  const { trials, source, brief } = task;
  const answer = await fitSet({ ...task, judging: "sample" });
  const failed = answer.files.find((file) => file.answer.error !== null);
  if (failed)
    return {
      ...NOT_MADE,
      frame: answer.frame,
      geometry: failed.answer.geometry,
      error: `${failed.part.width} px wide: ${failed.answer.error}`,
    };
  await trials.settle();
  const files: MeasuredFile[] = [];
  for (const file of answer.files) files.push(await kept(store, source, file));
  const [first] = answer.files;
  const bytes = files.reduce((sum, { facts }) => sum + facts.bytes, 0);
  const { output: _, judge: _judge, error: _error, ...told } = first.answer;
  return {
    ...told,
    frame: answer.frame,
    difference: files[0].difference,
    differenceAbout: files[0].differenceAbout,
    passedThrough: files.length === 1 && told.passedThrough,
    notes: [...answer.notes, ...told.notes],
    encodes: answer.files.reduce((sum, file) => sum + file.answer.encodes, 0),
    outputSha256: files[0].outputSha256,
    bytes,
    facts: files[0].facts,
    checks: [wholeCheck(brief, files), ...files.flatMap(({ checks }) => checks).filter(firstOfItsClause)],
    set: files,
    error: null,
  };
}

async function kept(
  store: Store,
  source: Source,
  { part, brief, answer }: SetAnswer["files"][number],
): Promise<MeasuredFile> {
  const { sha256 } = await keepBytes(store, answer.output!);
  const proof = await prove(brief, await store.files.read(sha256), {
    before: source.facts,
    frame: answer.frame,
    original: source.bytes,
    judge: answer.judge,
  });
  return {
    part,
    outputSha256: sha256,
    facts: proof.facts,
    checks: proof.checks,
    setting: answer.setting,
    difference: answer.difference ?? proof.difference,
    differenceAbout: answer.difference === null && proof.differenceAbout,
  };
}

/** What is not met comes before what is. */
function firstOfItsClause(check: Check, _: number, all: readonly Check[]): boolean {
  const same = all.filter((one) => one.clause === check.clause);
  return check === (same.find((one) => one.ok === false) ?? same[0]);
}

function wholeCheck(brief: Brief, files: readonly MeasuredFile[]): Check {
  const widths = [...new Set(files.map(({ part }) => part.width))].sort((a, b) => a - b);
  const found = `${files.length} ${files.length === 1 ? "file" : "files"}, ${widths.join(", ")} px wide`;
  const ok = files.every(({ checks }) => checks.every((check) => check.ok !== false));
  return { clause: "set", asked: clauseWords(brief, "set") ?? "", found, ok, gaveWay: false };
}

/** The proof of one file of a set, read back from the store. */
export async function provedFile(
  store: Store,
  { brief, source, frame }: Pick<SetToMeasure, "brief" | "source" | "frame">,
  { part, outputSha256 }: MeasuredFile,
): Promise<Proof> {
  return prove(partBrief(brief, part), await store.files.read(outputSha256), {
    before: source.facts,
    frame,
    original: source.bytes,
  });
}
