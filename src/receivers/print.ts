/** The print room: fits each picture onto its paper and answers with the resolution that comes of it. */

import type { Answer, Line, Received } from "./answer";
import { readHead } from "./head";
import { type PrintRules, typeWords } from "./rules";

const MM = 25.4;

/** Pixels per inch when a picture is printed as large as the paper allows, the paper turned with it. */
export function effectivePpi(rules: PrintRules, size: { width: number; height: number }): number {
  const turned = size.width >= size.height === rules.width >= rules.height;
  const [w, h] = turned ? [rules.width, rules.height] : [rules.height, rules.width];
  return Math.max(size.width / (w / MM), size.height / (h / MM));
}

export async function judgePrint(
  rules: PrintRules,
  files: readonly Received[],
  receipt: string,
): Promise<Answer> {
  const lines: Line[] = [];
  for (const { name, bytes } of files) {
    const head = await readHead(bytes);
    const add = (ok: boolean, words: string) => lines.push({ about: name, ok, words });
    if (!head || !(rules.formats as string[]).includes(head.kind)) {
      add(false, `cannot be printed: ${typeWords(rules.formats)} is taken`);
      continue;
    }
    const ppi = effectivePpi(rules, head);
    const shape = head.width / head.height;
    const paper = Math.max(rules.width, rules.height) / Math.min(rules.width, rules.height);
    const white =
      Math.abs(Math.max(shape, 1 / shape) / paper - 1) > 0.01
        ? "; it has another shape than the paper, which stays white beside it"
        : "";
    add(
      ppi >= rules.ppi - 0.5,
      `${Math.round(ppi)} ppi on ${rules.width} × ${rules.height} ` +
        `mm${ppi < rules.ppi - 0.5 ? `, less than the ${rules.ppi} that are asked: it will look soft` : ""}${white}`,
    );
  }
  const refused = lines.filter((line) => !line.ok).length;
  if (refused)
    return {
      accepted: false,
      words: `${refused} of ${lines.length} pictures cannot be printed like this.`,
      lines,
      receipt: null,
    };
  return { accepted: true, words: `Taken for printing, order ${receipt}.`, lines, receipt };
}
