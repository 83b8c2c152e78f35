/** A first figure before anything is encoded, always shown with "about". */
import type { OutputFormat, ResolvedBrief } from "../brief";
import { USUAL_QUALITY } from "./jpeg-search";
import { aboutJpeg, aboutPng } from "./prior";

/** Bytes that a file of that many pixels will roughly have under this brief. */
export function aboutBytes(brief: ResolvedBrief, pixels: number, format: OutputFormat): number {
  const { min, max, aim } = brief.fileSize;
  const lossless = {
    png: aboutPng(pixels),
    tiff: aboutPng(pixels) * 1.2,
    bmp: pixels * 3 + 54,
    gif: pixels * 0.7,
  }[format as string];
  const largest = lossless ?? aboutJpeg(pixels, 100) * 1.4;
  const usual = lossless ?? aboutJpeg(pixels, USUAL_QUALITY) * 1.4;
  if (max === null) return Math.round(Math.max(min ?? 0, usual));
  const goal = aim === "middle" ? ((min ?? 0) + max) / 2 : max * 0.98;
  return Math.round(Math.max(min ?? 0, Math.min(goal, largest)));
}
