/** `fit`: files that meet a brief, and what is told of them. */
import { type Brief, limitsWhole, parseBrief } from "@/core/brief";
import { findDisagreements } from "@/core/plan/disagreements";
import { formatBytes } from "@/core/units";
import { shareThreads } from "@/imaging/workers";
import { type Call, CallError } from "./args";
import { loadBrief } from "./briefs";
import { checkOutputFolder, type FitResult, fitAll } from "./fit";
import { checkWords, print } from "./print";
import { Progress } from "./progress";
import { listSources } from "./sources";
import { ALONE } from "./total-plan";

export async function fit(call: Extract<Call, { command: "fit" }>): Promise<number> {
  shareThreads();
  const brief = await loadBrief(call.brief);
  const sources = await listSources(call.paths, call.out);
  if (!sources.length) throw new CallError("There are no pictures in the folders that were given.");
  await checkOutputFolder(call.out, sources);
  const results = await fitWhole(call, brief, sources);
  const mail = call.mail ? await (await import("./messages")).writeMessages(results, brief, call.out) : null;
  const markup = brief.set ? await (await import("./markup")).writeMarkup(results, call.out) : null;
  const sum = (values: (number | undefined)[]) => values.reduce<number>((total, v) => total + (v ?? 0), 0);
  const totals = {
    sourceBytes: sum(onceEach(results).map((r) => r.before?.bytes)),
    outputBytes: sum(results.filter((r) => r.output).map((r) => r.facts?.bytes)),
    mailBytes: mail?.bytes ?? null,
    messages: mail?.paths.length ?? 0,
  };
  if (call.json)
    print(JSON.stringify({ brief: stated(brief), conflicts: findDisagreements(brief), results, totals }));
  else {
    for (const result of results) printResult(result);
    print(
      `${results.filter((r) => r.ok).length} of ${results.length} meet the brief, ` +
        `${formatBytes(totals.sourceBytes)} before, ${formatBytes(totals.outputBytes)} after.`,
    );
    for (const path of mail?.paths ?? []) print(`message: ${path}`);
    if (mail?.error) print(mail.error);
    if (markup) print(`markup: ${markup.path}${silentWords(markup.silent)}`);
  }
  if (mail?.error) return 1;
  return results.every((r) => r.ok) ? 0 : 1;
}

/** Words for those who do not see a picture are taken from the photo's own metadata. */
const silentWords = (silent: number): string =>
  silent
    ? ` (${silent} alternative text${silent === 1 ? " is" : "s are"} empty: say there what the picture shows)`
    : "";

/** A photo that became several files counts once. */
const onceEach = (results: readonly FitResult[]): FitResult[] =>
  results.filter((one, i) => i === 0 || one.source !== results[i - 1].source || !one.output);

function printResult({ ok, source, output, error, checks, notes }: FitResult): void {
  print(`${ok ? "✓" : "✗"} ${source}${output ? ` → ${output}` : ""}${error ? `: ${error}` : ""}`);
  if (checks.length) print(checkWords(checks));
  for (const note of notes) print(`    · ${note}`);
}

async function fitWhole(
  call: Extract<Call, { command: "fit" }>,
  brief: Brief,
  sources: Awaited<ReturnType<typeof listSources>>,
) {
  const shares = limitsWhole(brief);
  // Looking for the common difference and making the files are two rounds.
  const progress = new Progress(sources.length * (shares ? 2 : 1));
  const plan = shares
    ? await (await import("./total")).planTotal(sources, brief, call.mail, (count) => progress.at(count))
    : ALONE;
  try {
    const results = await fitAll({
      paths: sources,
      brief,
      out: call.out,
      plan,
      judging: call.json ? "whole" : "none",
      done: (count) => progress.at(count + (shares ? sources.length : 0)),
    });
    if (plan.limit && !plan.error) await (await import("./messages")).checkTotal(results, brief, plan.limit);
    return results;
  } finally {
    await plan.close();
  }
}

const stated = (brief: Brief): Brief => parseBrief(brief);
