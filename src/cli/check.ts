/** `check`: a proof of existing files. */
import { notChecked } from "@/core/brief";
import { publicFacts } from "@/core/proof";
import { prove } from "@/imaging/proved";
import { sentence } from "@/imaging/source";
import { type Call, CallError } from "./args";
import { loadBrief } from "./briefs";
import { readBounded } from "./photo-file";
import { checkWords, print } from "./print";

export async function check(call: Extract<Call, { command: "check" }>): Promise<number> {
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
        error: sentence(error),
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
