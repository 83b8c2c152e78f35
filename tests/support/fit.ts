/** One photo through one brief and its proof, as every way into the product does it. */
import { type Brief, parseBrief } from "@/core/brief";
import type { Frame } from "@/core/photo";
import { fitPhoto } from "@/imaging";
import { prove } from "@/imaging/proved";
import { readSource } from "@/imaging/source";

export async function fit(photo: Buffer, clauses: Partial<Brief>, frame?: Frame) {
  const brief = parseBrief({ zumbrelBrief: 1, name: "b", ...clauses });
  const source = await readSource(photo);
  const answer = await fitPhoto({ source, brief, frame });
  const output = answer.output ? Buffer.from(answer.output) : null;
  const proof = output
    ? await prove(brief, output, {
        before: source.facts,
        frame: answer.frame,
        original: photo,
        judge: answer.judge,
      })
    : null;
  return { ...answer, output, proof, difference: answer.difference ?? proof?.difference ?? null };
}
