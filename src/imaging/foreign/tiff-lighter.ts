/**
 * A TIFF of several pages made lighter, its pages kept: packed without loss, reduced copies left out, fewer
 * pixels for all.
 */
import sharp from "sharp";
import { joinTiffs, tiffPages } from "@/core/containers";
import type { Lighter, Size } from "@/core/photo";
import type { Part, Savings } from "@/core/pixels/layers";
import type { Lightened } from "./ora-lighter";

const MOST_PAGES = 200;

/** Throws with a plain reason where a page cannot be read. */
export async function lightenTiff(
  bytes: Buffer,
  lighter: Lighter,
  wanted?: Size,
): Promise<{ file: Buffer; report: Lightened }> {
  const pages = tiffPages(bytes);
  if (pages.length > MOST_PAGES)
    throw new Error(`it has ${pages.length} pages, and up to ${MOST_PAGES} are worked on`);
  const parts: Part[] = pages.map((page, i) => ({
    kind: page.reduced ? "preview" : "layer",
    name: page.reduced ? `Page ${i + 1}, a smaller copy` : `Page ${i + 1}`,
    path: String(i + 1),
    places: [String(i)],
    bytes: page.bytes,
    hidden: false,
  }));
  const savings: Savings = {
    repack: 0,
    crop: 0,
    hidden: 0,
    previewSmaller: 0,
    previewDrop: 0,
    thumbnailSmaller: 0,
    thumbnailDrop: 0,
    extras: 0,
  };
  const made: Uint8Array[] = [];
  const size = { width: wanted?.width ?? pages[0].width, height: wanted?.height ?? pages[0].height };
  const [sx, sy] = [size.width / pages[0].width, size.height / pages[0].height];
  for (const [i, page] of pages.entries()) {
    if (page.reduced) {
      savings.previewDrop += page.bytes;
      if (lighter.preview === "drop") continue;
    }
    const to = {
      width: Math.max(1, Math.round(page.width * sx)),
      height: Math.max(1, Math.round(page.height * sy)),
    };
    const packed = await pageOf(bytes, i, "deflate", null);
    const plain = page.compression === 1 ? await pageOf(bytes, i, "none", null) : packed;
    const best = packed.length < plain.length ? packed : plain;
    savings.repack += Math.max(0, page.bytes - (tiffPages(best)[0]?.bytes ?? best.length));
    made.push(sx < 1 ? await pageOf(bytes, i, "deflate", to) : lighter.repack ? best : plain);
  }
  const joined = joinTiffs(made);
  // Pages that are packed with loss already would only grow.
  const file =
    sx === 1 && made.length === pages.length && joined.length >= bytes.length ? bytes : Buffer.from(joined);
  return { file, report: { parts, savings, ...size, told: [] } };
}

/** One page as a file of its own, its profile and resolution with it. */
function pageOf(
  bytes: Buffer,
  page: number,
  compression: "deflate" | "none",
  to: { width: number; height: number } | null,
): Promise<Buffer> {
  const image = sharp(bytes, { page, limitInputPixels: false }).keepIccProfile();
  const sized = to ? image.resize(to.width, to.height, { fit: "fill" }) : image;
  return sized
    .tiff({ compression, ...(compression === "deflate" && { predictor: "horizontal" as const }) })
    .toBuffer();
}
