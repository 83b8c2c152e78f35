/** The wall screen: fills its memory in the order in which files come, and shows each as large as it fits. */

import type { Answer, Line, Received } from "./answer";
import { readHead } from "./head";
import { typeWords, type WallRules } from "./rules";

/** How the screen shows a picture: whole, as large as it fits, enlarged if need be. */
export function shownAt(rules: WallRules, size: { width: number; height: number }): number {
  return Math.min(rules.width / size.width, rules.height / size.height);
}

export async function judgeWall(
  rules: WallRules,
  files: readonly Received[],
  receipt: string,
): Promise<Answer> {
  const lines: Line[] = [];
  let used = 0;
  for (const { name, bytes } of files) {
    const head = await readHead(bytes);
    const add = (ok: boolean, words: string) => lines.push({ about: name, ok, words });
    if (!head || !(rules.formats as string[]).includes(head.kind)) {
      add(false, `the screen cannot show it: it takes ${typeWords(rules.formats)}`);
      continue;
    }
    if (used + bytes.length > rules.memory) {
      add(
        false,
        `no room left: ${mb(rules.memory - used)} of ${mb(rules.memory)} are free, it has ` +
          `${mb(bytes.length)}`,
      );
      continue;
    }
    used += bytes.length;
    const scale = shownAt(rules, head);
    const percent = `${Math.round(scale * 100)} %`;
    add(
      true,
      scale > 1.001
        ? `shown enlarged to ${percent}: it has fewer pixels than the screen`
        : scale > 0.999
          ? "shown pixel by pixel"
          : `shown reduced to ${percent}: more pixels than the screen has only fill its memory`,
    );
  }
  const refused = lines.filter((line) => !line.ok).length;
  const words = refused
    ? `${lines.length - refused} of ${lines.length} pictures are on the screen; ${mb(used)} of ` +
      `${mb(rules.memory)} are used.`
    : `All ${lines.length} pictures are on the screen; ${mb(used)} of ${mb(rules.memory)} are used.`;
  return { accepted: refused === 0 && lines.length > 0, words, lines, receipt: refused ? null : receipt };
}

const mb = (bytes: number) => `${(bytes / 1_000_000).toFixed(1)} MB`;
