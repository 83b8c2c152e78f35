/** What kind of file it is, from its first bytes; names and endings are never believed. */
import { startsWith } from "./bytes";
import { looksLikeSvg } from "./svg";

export type SourceFormat =
  | "jpeg"
  | "png"
  | "webp"
  | "avif"
  | "tiff"
  | "gif"
  | "bmp"
  | "heif"
  | "ora"
  | "raw"
  | "svg"
  | "layered"
  | "pdf";

/**
 * `head` holds at least the first 64 bytes of the file, or all of a shorter one. Null: no kind of picture
 * that is known here.
 */
export function sniff(head: Uint8Array): SourceFormat | null {
  if (head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff) return "jpeg";
  if (startsWith(head, "\x89PNG\r\n\x1a\n")) return "png";
  if (startsWith(head, "GIF87a") || startsWith(head, "GIF89a")) return "gif";
  if (startsWith(head, "RIFF") && startsWith(head, "WEBP", 8)) return "webp";
  if (
    startsWith(head, "II*\0") ||
    startsWith(head, "MM\0*") ||
    startsWith(head, "II+\0") ||
    startsWith(head, "MM\0+")
  )
    return "tiff";
  if (startsWith(head, "%PDF-")) return "pdf";
  // OpenRaster, "file layout": the first entry of the ZIP is its type, not packed.
  if (startsWith(head, "PK\x03\x04") && startsWith(head, "mimetypeimage/openraster", 30)) return "ora";
  if (startsWith(head, "8BPS")) return "layered";
  if (startsWith(head, "BM") && head.length >= 26) return "bmp";
  if (looksLikeSvg(head)) return "svg";
  if (startsWith(head, "ftyp", 4)) {
    const brands = Array.from(
      { length: Math.max(0, Math.floor((Math.min(head.length, 32) - 8) / 4)) },
      (_, i) => String.fromCharCode(...head.subarray(8 + i * 4, 12 + i * 4)),
    );
    if (brands[0] === "crx ") return "raw";
    if (brands.some((b) => b === "avif" || b === "avis")) return "avif";
    if (brands.some((b) => ["heic", "heix", "hevc", "mif1", "msf1", "heim"].includes(b))) return "heif";
  }
  return null;
}
