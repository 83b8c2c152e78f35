/** What each clause shows on a gauge: the allowed band, where the photo is now, where its file will be. */
import type { PixelRange, ResolvedBrief } from "../../brief";
import type { Size } from "../../photo";
import type { GaugeInput } from "./model";

/** What is known of a photo or its file; null where it is not. */
export interface Measures {
  size: Size | null;
  bytes: number | null;
  ppi: number | null;
  quality: number | null;
}

export const NOTHING: Measures = { size: null, bytes: null, ppi: null, quality: null };

const long = (s: Size) => Math.max(s.width, s.height);
const short = (s: Size) => Math.min(s.width, s.height);
/** Two exact sides on one line: the side of the square of as many pixels. */
const mean = (s: Size) => Math.sqrt(s.width * s.height);

const band = (range: PixelRange | null) => ({
  min: range?.exact ?? range?.min ?? null,
  max: range?.exact ?? range?.max ?? null,
});

/** Pixels on one line: the clause's own side where one side is asked, else the mean side. */
export function pixelGauge(brief: ResolvedBrief | null, now: Size | null, will: Size | null): GaugeInput {
  const p = brief?.pixels;
  const on = (
    measure: (s: Size) => number,
    limits: { min: number | null; max: number | null },
  ): GaugeInput => ({ ...limits, now: now && measure(now), will: will && measure(will) });
  if (p?.width?.exact && p.height?.exact) {
    const exact = mean({ width: p.width.exact, height: p.height.exact });
    return on(mean, { min: exact, max: exact });
  }
  if (p?.longSide) return on(long, band(p.longSide));
  if (p?.shortSide) return on(short, band(p.shortSide));
  if (p?.width) return on((s) => s.width, band(p.width));
  if (p?.height) return on((s) => s.height, band(p.height));
  if (brief?.sizes) return on(mean, band({ exact: mean(brief.sizes[0]), min: null, max: null }));
  if (brief?.box) return on(long, { min: null, max: long(brief.box) });
  return on(mean, { min: null, max: null });
}

/** Null where the clause has no line, or the brief does not state it. */
export function clauseGauge(
  clause: string,
  brief: ResolvedBrief,
  now: Measures,
  will: Measures,
): GaugeInput | null {
  if (clause === "pixels" || clause === "sizes" || clause === "box")
    return pixelGauge(brief, now.size, will.size);
  if (clause === "fileSize")
    return { min: brief.fileSize.min, max: brief.fileSize.max, now: now.bytes, will: will.bytes };
  if (clause === "resolution" && brief.resolution)
    return { ...band(brief.resolution), now: now.ppi, will: will.ppi };
  if (clause === "quality" && brief.quality)
    return { min: brief.quality.min, max: brief.quality.max, now: now.quality, will: will.quality };
  return null;
}
