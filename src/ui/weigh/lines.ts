/** The lines of the chart: one a format, through its trials of one kind, coarse to fine. */
import type { OutputFormat } from "@/core/brief";
import {
  atSide,
  type Choice,
  GROWTH,
  type LinePoint,
  LOSSY,
  type Lossy,
  lineChoice,
  OWN_TABLES,
  qualityFor,
} from "@/core/coding";
import { pixelsOf } from "@/core/geometry";
import type { TrialView, WeighedSizeView, WeighView } from "../api";

export interface Line {
  format: Lossy;
  /** Of its trials, as a choice names it; null for the planned pixels. */
  side: number | null;
  points: (LinePoint & { key: string; difference: number })[];
}

/** Whether a trial is of the kind that its format's line is made of. */
export function onLine(
  { setting }: TrialView,
  { chroma, bits }: Pick<WeighView, "chroma" | "bits">,
): boolean {
  if (setting.format === "jpeg")
    return setting.table === OWN_TABLES && setting.thrift === undefined && setting.chroma === chroma;
  return (
    (setting.format === "webp" && setting.quality !== null) ||
    (setting.format === "avif" && setting.bits === bits && !setting.chroma)
  );
}

export function linesOf(view: WeighView): Line[] {
  return view.sizes
    .flatMap(({ side }) => LOSSY.map((format) => ({ format, side, points: pointsOf(view, format, side) })))
    .filter(({ points }) => points.length > 1);
}

function pointsOf(view: WeighView, format: Lossy, side: number | null): Line["points"] {
  return view.trials
    .filter(
      (trial) =>
        trial.setting.format === format &&
        trial.size.side === side &&
        trial.difference !== null &&
        onLine(trial, view),
    )
    .map((trial) => ({
      key: trial.key,
      bytes: trial.bytes,
      difference: trial.difference!,
      quality: (trial.setting as { quality: number }).quality,
    }))
    .sort((a, b) => a.bytes - b.bytes);
}

/** The trial of a format that is expected to take so many bytes at these pixels. */
export function choiceAt(view: WeighView, format: Lossy, bytes: number, size: WeighedSizeView): Choice {
  const own = pointsOf(view, format, size.side);
  const planned = view.sizes.find(({ side }) => side === null)!;
  const growth = (pixelsOf(size) / pixelsOf(planned)) ** GROWTH;
  const points = own.length
    ? own
    : pointsOf(view, format, null).map((point) => ({ ...point, bytes: point.bytes * growth }));
  const quality = qualityFor(format, points, bytes, pixelsOf(size));
  return atSide(lineChoice(format, quality, view.chroma, view.bits), size.side);
}

/** The height of a line at a number of bytes, between its measured points; null beyond them. */
export function heightAt({ points }: Line, bytes: number): number | null {
  const next = points.findIndex((point) => point.bytes >= bytes);
  if (next < 0 || (next === 0 && points[0].bytes > bytes)) return null;
  const [a, b] = [points[Math.max(0, next - 1)], points[next]];
  if (a === b) return a.difference;
  const share = Math.log(bytes / a.bytes) / Math.log(b.bytes / a.bytes);
  return a.difference + share * (b.difference - a.difference);
}

export const DASHES: Record<Lossy, string> = { jpeg: "", webp: "7 4", avif: "1.5 3" };

/** Room that a line's name takes, in px. */
const NAME = { width: 42, height: 12 };

interface Place {
  x: number;
  y: number;
}

/** Names one below the other where they would lie on each other; the first stays. */
export function apart<P extends Place>(names: readonly P[]): P[] {
  const placed: P[] = [];
  for (const name of names) {
    const lies =
      ({ x, y }: Place) =>
      (one: Place) =>
        Math.abs(one.x - x) < NAME.width && Math.abs(one.y - y) < NAME.height;
    let at = name;
    for (let on = placed.find(lies(at)); on; on = placed.find(lies(at)))
      at = { ...at, y: on.y + NAME.height };
    placed.push(at);
  }
  return placed;
}

/** Round figures for an axis of bytes. */
export function byteTicks(low: number, high: number): number[] {
  const out: number[] = [];
  for (let power = 10 ** Math.floor(Math.log10(low)); power <= high; power *= 10) {
    for (const step of high / low > 60 ? [1, 3] : [1, 2, 5])
      if (power * step >= low && power * step <= high) out.push(power * step);
  }
  return out.length ? out : [low, high];
}

export const asked = (format: OutputFormat, view: WeighView): boolean => view.formats.includes(format);
