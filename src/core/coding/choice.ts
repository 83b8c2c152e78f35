/** A setting that a person chooses instead of the search: for one photo, or for every photo of a batch. */
import type { OutputFormat } from "../brief";
import { trimNumber } from "../units";
import type { Choice } from "./choice-schema";
import { avifEffort, webpEffort } from "./effort";
import type { Setting } from "./types";

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
      return `AVIF${choice.chroma ? ` ${choice.chroma}` : ""}, ${choice.quality}${choice.bits === 10 ? ", 10 bits" : ""}`;
    case "tiff":
      return "TIFF";
    case "gif":
      return `GIF, ${choice.colours} colours`;
    default:
      return "BMP";
  }
}

export const formatOf = (choice: Choice): OutputFormat | null => ("format" in choice ? choice.format : null);
