/** What people read on standard output. */
import type { Check, publicFacts } from "@/core/proof";
import { formatBytes, formatSize } from "@/core/units";

export const print = (text: string) => process.stdout.write(`${text}\n`);

export function factWords(f: ReturnType<typeof publicFacts>): string {
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

export const checkWords = (checks: readonly Check[]) =>
  checks
    .map(
      (c) =>
        `    ${c.ok === false ? "✗" : c.gaveWay ? "~" : c.ok ? "✓" : "?"} ${c.clause}: asked ${c.asked}, found ${c.found}`,
    )
    .join("\n");
