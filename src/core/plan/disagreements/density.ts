/** Pixels, paper and resolution: two of them give the third. */
import { type Brief, type ClauseKey, clauseWords, paperWords, type ResolvedBrief, within } from "../../brief";
import { formatPpi, trimNumber } from "../../units";
import { type Choice, type Disagreement, demanded } from "./types";

export function densityDisagreements(brief: Brief, resolved: ResolvedBrief): Disagreement[] {
  const { paper, resolution, pixels } = resolved;
  if (!paper || !resolution) return [];
  const sides: { keys: ClauseKey[]; px: number; inches: number; name: string }[] = [];
  const side = (key: "width" | "height" | "longSide", inches: number | null, name: string) => {
    const px = pixels[key]?.exact ?? null;
    if (px !== null && inches !== null) sides.push({ keys: [key], px, inches, name });
  };
  side("width", paper.width, "wide");
  side("height", paper.height, "high");
  if (paper.width !== null && paper.height !== null)
    side("longSide", Math.max(paper.width, paper.height), "long");
  const off = sides.find(({ px, inches }) => {
    const low = (px - 0.5) / inches;
    const high = (px + 0.5) / inches;
    // Half a pixel of rounding is no contradiction.
    return resolution.exact !== null
      ? resolution.exact < low || resolution.exact > high
      : !within(resolution, px / inches, 0.5 / inches);
  });
  if (!off) return [];
  const real = off.px / off.inches;
  const keys = sides.flatMap((s) => s.keys);
  const wanted = resolution.exact ?? (real < (resolution.min ?? 0) ? resolution.min! : resolution.max!);
  const scaled = Object.fromEntries(
    sides.map(({ keys: [key], inches }) => [key, { exact: Math.max(1, Math.round(inches * wanted)) }]),
  );
  const made = sides.map(({ inches }) => Math.round(inches * wanted)).join(" × ");
  const printed = trimNumber((off.px / wanted) * 25.4, 1);
  const choices: Choice[] = [
    { label: "Keep pixels and paper", effect: `written as ${formatPpi(real)}`, change: { resolution: null } },
    {
      label: "Keep paper and resolution",
      effect: `${made} px`,
      change: { ...scaled, ...demanded(brief, ...keys) },
    },
    {
      label: "Keep pixels and resolution",
      effect: `prints ${printed} mm ${off.name}`,
      change: { paper: null },
    },
  ];
  return [
    {
      clauses: [...keys, "paper", "resolution"],
      why:
        `${off.px} px on ${paperWords(brief.paper!)} make ${formatPpi(real)}, ` +
        `${clauseWords(brief, "resolution")} is asked: ` +
        `${trimNumber(Math.max(real, wanted) / Math.min(real, wanted), 2)} × apart.`,
      wins: "Pixels and paper win, so the resolution gives way.",
      choices,
    },
  ];
}
