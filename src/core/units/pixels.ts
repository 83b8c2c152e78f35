/** Pixel counts typed by people, and the other readings shown beside them. */
import { UnitError } from "./error";
import { lengthToPixels, parseLength } from "./length";
import { trimNumber } from "./resolution";

/** The longest side that any brief or photo may have, in pixels. */
export const MAX_SIDE = 65_535;
/** The most pixels a photo may have; larger ones are refused before they are decoded. */
export const MAX_PIXELS = 700_000_000;

/**
 * Whole pixels of what was typed: "480", "480px", or a length such as "28 mm"
 * where a resolution (ppi) is known. Throws {@link UnitError} otherwise.
 */
export function parsePixels(text: string, ppi: number | null = null): number {
  const plain = /^([0-9]{1,7})\s*(?:px|pixels?)?$/i.exec(text.trim());
  if (plain) return checkSide(Number(plain[1]), text);
  let length: ReturnType<typeof parseLength>;
  try {
    length = parseLength(text);
  } catch {
    throw new UnitError("pixels", 'whole pixels such as "480px"', `"${text}"`);
  }
  if (ppi === null) {
    throw new UnitError(
      "pixels",
      `whole pixels such as "480px"; a length needs a resolution beside it`,
      `"${text}"`,
    );
  }
  return checkSide(Math.round(lengthToPixels(length, ppi)), text);
}

function checkSide(px: number, text: string): number {
  if (px < 1 || px > MAX_SIDE) throw new UnitError("pixels", `1 to ${MAX_SIDE} px`, `"${text}"`);
  return px;
}

/** How long `px` pixels are on paper at `ppi`, in millimetres and inches: "40 mm, 1.57 in". */
export function onPaper(px: number, ppi: number): string {
  const inches = px / ppi;
  return `${trimNumber(inches * 25.4, 1)} mm, ${trimNumber(inches, 2)} in`;
}

/** "240 × 300". */
export function formatSize(width: number, height: number): string {
  return `${width} × ${height}`;
}
