/** A setting that a person chooses instead of the search: for one photo, or for every photo of a batch. */
import * as z from "zod";
import type { OutputFormat } from "../brief";
import { trimNumber } from "../units";
import { avifEffort, webpEffort } from "./effort";
import { OWN_TABLES, type Setting } from "./types";

/** Long side in px that the picture is to have; absent: as planned. */
const side = z.int().min(1).max(100_000).optional();

export const choiceSchema = z.union([
  /** Whatever the brief allows, as small as it can be without visible loss. */
  z.strictObject({ aim: z.literal("clean") }),
  /** The photo's own JPEG data, packed tighter. */
  z.strictObject({ packed: z.literal(true) }),
  z.strictObject({
    format: z.literal("jpeg"),
    quality: z.number().min(1).max(100),
    chroma: z.enum(["4:2:0", "4:2:2", "4:4:4"]),
    table: z.int().min(0).max(OWN_TABLES),
    /** Absent: careful. */
    effort: z.enum(["careful", "quick", "plain"]).optional(),
    thrift: z.number().min(0).max(1).optional(),
    side,
  }),
  z.strictObject({
    format: z.literal("png"),
    colours: z.int().min(2).max(256).nullable(),
    level: z.int().min(0).max(9),
    side,
  }),
  z.strictObject({
    format: z.literal("webp"),
    quality: z.int().min(1).max(100).nullable(),
    effort: z.int().min(0).max(6).optional(),
    side,
  }),
  z.strictObject({
    format: z.literal("avif"),
    quality: z.int().min(1).max(100),
    bits: z.union([z.literal(8), z.literal(10)]),
    effort: z.int().min(0).max(9).optional(),
    side,
  }),
  z.strictObject({ format: z.literal("tiff"), compression: z.enum(["deflate", "lzw", "none"]), side }),
  z.strictObject({ format: z.literal("gif"), colours: z.int().min(2).max(256), side }),
  z.strictObject({ format: z.literal("bmp"), side }),
]);

export type Choice = z.infer<typeof choiceSchema>;

/** The chosen setting for a picture of that many pixels; null where the aim is chosen, not the setting. */
export function settingOf(choice: Choice, pixels: number): Setting | null {
  if ("aim" in choice || "packed" in choice) return null;
  const { side: _, ...setting } = choice;
  switch (setting.format) {
    case "jpeg":
      return { ...setting, effort: setting.effort ?? "careful" };
    case "webp":
      return { ...setting, effort: setting.effort ?? webpEffort(pixels) };
    case "avif":
      return { ...setting, effort: setting.effort ?? avifEffort(pixels) };
    default:
      return setting;
  }
}

/** The same choice for other photos: efforts follow from their own numbers of pixels. */
export function forAll(choice: Choice): Choice {
  if (!("effort" in choice)) return choice;
  const { effort: _, ...rest } = choice;
  return rest as Choice;
}

export const sideOf = (choice: Choice): number | null =>
  "aim" in choice || "packed" in choice ? null : (choice.side ?? null);

/** The same setting at so many pixels; null: as planned. */
export function atSide(choice: Choice, side: number | null): Choice {
  if ("aim" in choice || "packed" in choice) return choice;
  const { side: _, ...rest } = choice;
  return (side === null ? rest : { ...rest, side }) as Choice;
}

/** "JPEG 4:4:4, 86", "Clean": short enough for a column or a folder. */
export function choiceName(choice: Choice): string {
  if ("aim" in choice) return "Clean";
  if ("packed" in choice) return "Packed tighter";
  const side = sideOf(choice);
  return side === null ? settingName(choice) : `${settingName(choice)}, ${side} px`;
}

function settingName(choice: Extract<Choice, { format: string }>): string {
  switch (choice.format) {
    case "jpeg":
      return `JPEG ${choice.chroma}, ${trimNumber(choice.quality, 1)}`;
    case "png":
      return choice.colours === null ? "PNG" : `PNG, ${choice.colours} colours`;
    case "webp":
      return choice.quality === null ? "WebP, lossless" : `WebP, ${choice.quality}`;
    case "avif":
      return `AVIF, ${choice.quality}${choice.bits === 10 ? ", 10 bits" : ""}`;
    case "tiff":
      return "TIFF";
    case "gif":
      return `GIF, ${choice.colours} colours`;
    default:
      return "BMP";
  }
}

export const formatOf = (choice: Choice): OutputFormat | null => ("format" in choice ? choice.format : null);
