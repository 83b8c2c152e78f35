/**
 * Kind and upright pixels of a file that came from anywhere; and a close look at it, as it would be printed.
 */
import sharp from "sharp";
import { sniff } from "@/core/containers";
import { MAX_PIXELS } from "@/core/units";
import { readPdfPicture } from "../source";

async function pictureIn(bytes: Buffer): Promise<{ kind: string; picture: Buffer } | null> {
  const kind = sniff(bytes.subarray(0, 64));
  if (!kind) return null;
  return { kind, picture: kind === "pdf" ? (await readPdfPicture(bytes)).jpeg : bytes };
}

/** Null where nothing can be told. */
export async function fileHead(
  bytes: Buffer,
): Promise<{ kind: string; width: number; height: number } | null> {
  try {
    const found = await pictureIn(bytes);
    if (!found) return null;
    const { autoOrient } = await sharp(found.picture, { limitInputPixels: MAX_PIXELS }).metadata();
    return { kind: found.kind, width: autoOrient.width, height: autoOrient.height };
  } catch {
    return null;
  }
}

/**
 * Dots that a printer lays side by side in an inch, as the eye sees them at reading distance (common
 * practice: 300).
 */
const PRINTER = 300;
/** A drop of ink runs by about so much, in dots. */
const SPREAD = 0.55;

/**
 * A part of a print seen close up, as a PNG: `width` × `height` mm of paper around the middle, each printed
 * dot
 * `dot` screen pixels wide. `ppi`: pixels of the picture per inch of paper.
 */
export async function closeUp(
  bytes: Buffer,
  ppi: number,
  part: { width: number; height: number },
  dot: number,
): Promise<Buffer> {
  const found = await pictureIn(bytes);
  if (!found) throw new Error("no picture");
  const image = sharp(found.picture, { limitInputPixels: MAX_PIXELS, failOn: "none" });
  const { autoOrient } = await image.metadata();
  const inches = (mm: number) => mm / 25.4;
  const width = Math.max(1, Math.min(autoOrient.width, Math.round(inches(part.width) * ppi)));
  const height = Math.max(1, Math.min(autoOrient.height, Math.round(inches(part.height) * ppi)));
  const left = Math.floor((autoOrient.width - width) / 2);
  const top = Math.floor((autoOrient.height - height) / 2);
  const cut = await image
    .autoOrient()
    .extract({ left, top, width, height })
    .flatten({ background: "#ffffff" })
    .toColourspace("srgb")
    .png()
    .toBuffer();
  const dots = {
    width: Math.max(1, Math.round((width / ppi) * PRINTER)),
    height: Math.max(1, Math.round((height / ppi) * PRINTER)),
  };
  // Pixels that are larger than a dot are printed as they are: that is what is seen of too few of them.
  const printed = await sharp(cut)
    .resize(dots.width, dots.height, { fit: "fill", kernel: ppi < PRINTER ? "nearest" : "lanczos3" })
    .blur(SPREAD)
    .png()
    .toBuffer();
  return sharp(printed)
    .resize(Math.round(dots.width * dot), Math.round(dots.height * dot), { fit: "fill", kernel: "cubic" })
    .png()
    .toBuffer();
}
