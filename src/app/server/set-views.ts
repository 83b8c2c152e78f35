/** Sets as a page shows them: what is measured, what was made, and what it will be about before either. */
import { type Brief, type OutputFormat, resolveBrief } from "@/core/brief";
import { aboutBytes } from "@/core/coding";
import { planGeometry } from "@/core/geometry";
import { type Frame, GeometryError } from "@/core/photo";
import { partBrief, planSet } from "@/core/plan/set";
import type { Facts } from "@/core/proof";
import type { MeasuredFile } from "@/store";
import type { ItemRow } from "@/store/queries";
import type { RowView, SetFileView } from "@/ui/api";

/** `items`: what a run made of it, in the same order; none before. */
export const setView = (files: readonly MeasuredFile[], items: readonly ItemRow[]): SetFileView[] =>
  files.map(({ part, facts, difference, differenceAbout }, i) => {
    const item = items.length === files.length && items[i].state === "done" ? items[i] : null;
    return {
      ...part,
      height: facts.height,
      bytes: facts.bytes,
      difference,
      differenceAbout,
      name: item?.outputName ?? null,
      itemId: item?.id ?? null,
    };
  });

type Estimated = Pick<RowView, "geometry" | "figure" | "bytes" | "ppi" | "steps" | "checks" | "set">;

/**
 * What newer formats take of a JPEG's bytes, about: on the photographs of docs/decisions/0019, 0.6 to 1. Without it none
 * would be worth offering before its files are measured.
 */
const OF_JPEG: Partial<Record<OutputFormat, number>> = { avif: 0.8, webp: 0.9 };

/** Before anything is encoded. */
export function setEstimate(brief: Brief, photo: Facts, frame: Frame): Estimated {
  const nothing = { figure: "none", bytes: null, ppi: null, steps: [], checks: [], set: null } as const;
  try {
    const { parts } = planSet(brief, photo, frame);
    const planned = parts.map((part) => {
      const resolved = resolveBrief(partBrief(brief, part));
      return { part, resolved, geometry: planGeometry(resolved, photo, frame) };
    });
    const set = planned.map(({ part, resolved, geometry: { width, height } }) => ({
      ...part,
      height,
      bytes: Math.round(aboutBytes(resolved, width * height, part.format) * (OF_JPEG[part.format] ?? 1)),
      difference: null,
      differenceAbout: false,
      name: null,
      itemId: null,
    }));
    const bytes = set.reduce((sum, file) => sum + file.bytes, 0);
    return { ...nothing, steps: [], checks: [], figure: "about", bytes, geometry: planned[0].geometry, set };
  } catch (error) {
    if (error instanceof GeometryError) return { ...nothing, steps: [], checks: [], geometry: null };
    throw error;
  }
}
