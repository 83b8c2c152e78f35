/** A whole print sheet as one picture, for kiosks that take nothing else. */
import sharp, { type OverlayOptions } from "sharp";
import { sniff } from "@/core/containers";
import { cutsOf, type Sheet, type SheetTask } from "@/core/delivery/print-sheet";
import { PhotoError } from "@/core/photo";
import { MAX_PIXELS } from "@/core/units";
import { readPdfPicture } from "../source";

/** Pixels of the largest sheet that is drawn. */
const MOST = 160_000_000;

export async function printSheetPicture({
  sheet,
  task,
  ppi,
  as,
  read,
}: {
  sheet: Sheet;
  task: SheetTask;
  ppi: number;
  as: "jpeg" | "tiff";
  read: (id: string) => Promise<Buffer>;
}): Promise<Buffer> {
  const px = (mm: number) => Math.round((mm / 25.4) * ppi);
  const [width, height] = [px(sheet.width), px(sheet.height)];
  if (width * height > MOST)
    throw new PhotoError(
      `At ${ppi} ppi the sheet has ${Math.round((width * height) / 1e6)} megapixels; at most ` +
        `${MOST / 1e6} are drawn. Ask for a lower resolution or take the PDF.`,
    );
  const layers: OverlayOptions[] = [];
  const ready = new Map<string, Buffer>();
  for (const placed of sheet.placed) {
    // Edges are rounded, not sizes: pictures beside each other keep their gap.
    const [left, top] = [px(placed.x), px(placed.y)];
    const size = {
      width: Math.max(1, px(placed.x + placed.width) - left),
      height: Math.max(1, px(placed.y + placed.height) - top),
    };
    const key = `${placed.id} ${size.width} ${size.height} ${placed.turned}`;
    if (!ready.has(key)) ready.set(key, await fitted(await read(placed.id), size, placed.turned));
    layers.push({ input: ready.get(key)!, left, top });
  }
  const cuts = cutsOf(sheet, task);
  if (cuts.length) {
    const line = Math.max(1, ppi / 300);
    const at = (mm: number) => ((mm / 25.4) * ppi).toFixed(2);
    const drawn = cuts
      .map((cut) => `<line x1="${at(cut.x1)}" y1="${at(cut.y1)}" x2="${at(cut.x2)}" y2="${at(cut.y2)}"/>`)
      .join("");
    layers.push({
      input: Buffer.from(
        `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><g ` +
          `stroke="#737373" stroke-width="${line}">${drawn}</g></svg>`,
      ),
      left: 0,
      top: 0,
    });
  }
  const whole = sharp({
    create: { width, height, channels: 3, background: "#ffffff" },
    limitInputPixels: MAX_PIXELS,
  })
    .composite(layers)
    .withIccProfile("srgb")
    .withMetadata({ density: ppi });
  return as === "jpeg"
    ? whole.jpeg({ quality: 95, chromaSubsampling: "4:4:4" }).toBuffer()
    : whole
        .tiff({ compression: "deflate", predictor: "horizontal", xres: ppi / 25.4, yres: ppi / 25.4 })
        .toBuffer();
}

async function fitted(
  bytes: Buffer,
  size: { width: number; height: number },
  turned: boolean,
): Promise<Buffer> {
  const picture = sniff(bytes.subarray(0, 64)) === "pdf" ? (await readPdfPicture(bytes)).jpeg : bytes;
  const image = sharp(picture, { limitInputPixels: MAX_PIXELS }).autoOrient();
  const upright = turned ? image.rotate(90) : image;
  return upright
    .resize(size.width, size.height, { fit: "fill", kernel: "lanczos3" })
    .flatten({ background: "#ffffff" })
    .toColourspace("srgb")
    .png({ compressionLevel: 1 })
    .toBuffer();
}
