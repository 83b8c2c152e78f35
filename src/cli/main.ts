/** inspect, read-brief, check and fit: core and imaging alone, no database, no server. */
import { type Brief, notChecked, parseBrief } from "@/core/brief";
import { findDisagreements } from "@/core/plan/disagreements";
import { type Check, publicFacts } from "@/core/proof";
import { formatBytes, formatSize } from "@/core/units";
import { prove } from "@/imaging/proved";
import { readWritten, sentence } from "@/imaging/source";
import { type Call, CallError, readCall } from "./args";
import { loadBrief } from "./briefs";
import { checkOutputFolder, fitAll } from "./fit";
import { checkTotal, writeMessages } from "./messages";
import { readBounded } from "./photo-file";
import { Progress } from "./progress";
import { readBrief } from "./read-brief";
import { listSources } from "./sources";
import { planTotal } from "./total";

const HELP = `Zumbrel makes photos meet what a receiver asks for.

  zumbrel start [--port N] [--empty] [--workers N] [--out-root DIR]
                                               the web application
  zumbrel test                                 every test
  zumbrel inspect FILE... [--json]             the facts of each file
  zumbrel read-brief TEXT|- [--json]           a receiver's wording, read into briefs
  zumbrel check FILE... --brief B [--json]     a proof of existing files
  zumbrel fit PATH... --brief B --out DIR [--mail] [--json]
                                               files that meet a brief; with --mail also as messages

B is a brief file, the name of a brief that ships with Zumbrel, or - for standard input.
`;

const print = (text: string) => process.stdout.write(`${text}\n`);

async function inspect({ paths, json }: Extract<Call, { command: "inspect" }>): Promise<number> {
  const files = [];
  for (const path of paths) {
    try {
      files.push({
        path,
        error: null,
        facts: publicFacts((await readWritten(await readBounded(path))).facts),
      });
    } catch (error) {
      files.push({ path, error: error instanceof CallError ? error.message : sentence(error), facts: null });
    }
  }
  if (json) print(JSON.stringify({ files }));
  else
    for (const file of files)
      print(file.facts ? `${file.path}: ${factWords(file.facts)}` : `${file.path}: ${file.error}`);
  return files.every((file) => file.facts) ? 0 : 1;
}

function factWords(f: ReturnType<typeof publicFacts>): string {
  const parts = [
    f.format.toUpperCase(),
    `${formatSize(f.width, f.height)} px`,
    formatBytes(f.bytes),
    f.resolution && `${f.resolution[0]} ppi`,
  ];
  return [...parts, f.bits && `${f.bits} bit`, f.colourSpace, f.quality && `quality ${f.quality}`, f.chroma]
    .filter(Boolean)
    .join(", ");
}

const checkWords = (checks: readonly Check[]) =>
  checks
    .map(
      (c) =>
        `    ${c.ok === false ? "✗" : c.gaveWay ? "~" : "✓"} ${c.clause}: asked ${c.asked}, found ${c.found}`,
    )
    .join("\n");

async function check(call: Extract<Call, { command: "check" }>): Promise<number> {
  const brief = await loadBrief(call.brief);
  const missing = notChecked(brief);
  if (missing.length) throw new CallError(`not carried out yet: ${missing.join(", ")}`);
  const results = [];
  for (const path of call.paths) {
    try {
      const proof = await prove(brief, await readBounded(path), null);
      results.push({
        path,
        ok: proof.ok,
        error: null,
        facts: publicFacts(proof.facts),
        checks: proof.checks,
      });
    } catch (error) {
      results.push({
        path,
        ok: false,
        error: error instanceof CallError ? error.message : sentence(error),
        facts: null,
        checks: [],
      });
    }
  }
  if (call.json) print(JSON.stringify({ results }));
  else
    for (const r of results)
      print(
        `${r.ok ? "✓" : "✗"} ${r.path}${r.error ? `: ${r.error}` : ""}${r.checks.length ? `\n${checkWords(r.checks)}` : ""}`,
      );
  return results.every((r) => r.ok) ? 0 : 1;
}

async function fit(call: Extract<Call, { command: "fit" }>): Promise<number> {
  const brief = await loadBrief(call.brief);
  const sources = await listSources(call.paths, call.out);
  if (!sources.length) throw new CallError("There are no pictures in the folders that were given.");
  await checkOutputFolder(call.out, sources);
  const results = await fitWhole(call, brief, sources);
  const mail = call.mail ? await writeMessages(results, brief, call.out) : null;
  const sum = (values: (number | undefined)[]) => values.reduce<number>((total, v) => total + (v ?? 0), 0);
  const totals = {
    sourceBytes: sum(results.map((r) => r.before?.bytes)),
    outputBytes: sum(results.filter((r) => r.output).map((r) => r.facts?.bytes)),
    mailBytes: mail?.bytes ?? null,
    messages: mail?.paths.length ?? 0,
  };
  if (call.json)
    print(JSON.stringify({ brief: stated(brief), conflicts: findDisagreements(brief), results, totals }));
  else {
    for (const r of results)
      print(
        `${r.ok ? "✓" : "✗"} ${r.source}${r.output ? ` → ${r.output}` : ""}${r.error ? `: ${r.error}` : ""}${r.checks.length ? `\n${checkWords(r.checks)}` : ""}${r.notes.map((note) => `\n    · ${note}`).join("")}`,
      );
    print(
      `${results.filter((r) => r.ok).length} of ${results.length} meet the brief, ` +
        `${formatBytes(totals.sourceBytes)} before, ${formatBytes(totals.outputBytes)} after.`,
    );
    for (const path of mail?.paths ?? []) print(`message: ${path}`);
    if (mail?.error) print(mail.error);
  }
  if (mail?.error) return 1;
  return results.every((r) => r.ok) ? 0 : 1;
}

async function fitWhole(
  call: Extract<Call, { command: "fit" }>,
  brief: Brief,
  sources: Awaited<ReturnType<typeof listSources>>,
) {
  const shares = brief.total !== undefined;
  // Looking for the common difference and making the files are two rounds.
  const progress = new Progress(sources.length * (shares ? 2 : 1));
  const plan = await planTotal(sources, brief, call.mail, (count) => progress.at(count));
  try {
    const results = await fitAll(sources, brief, call.out, plan, (count) =>
      progress.at(count + (shares ? sources.length : 0)),
    );
    if (plan.limit && !plan.error) await checkTotal(results, brief, plan.limit);
    return results;
  } finally {
    await plan.close();
  }
}

const stated = (brief: Brief): Brief => parseBrief(brief);

/** Runs one call; the answer is the exit status of cli.md: 0 all meet, 1 some do not, 2 the call is wrong. */
async function main(argv: readonly string[]): Promise<number> {
  const json = argv.includes("--json");
  try {
    const call = readCall(argv);
    switch (call.command) {
      case "inspect":
        return await inspect(call);
      case "read-brief":
        return await readBrief(call);
      case "check":
        return await check(call);
      case "fit":
        return await fit(call);
      default:
        process.stdout.write(HELP);
        return 0;
    }
  } catch (error) {
    const message = error instanceof CallError ? error.message : sentence(error);
    if (json) print(JSON.stringify({ error: message }));
    else process.stderr.write(`zumbrel: ${message}\n`);
    return 2;
  }
}

process.exitCode = await main(process.argv.slice(2));
