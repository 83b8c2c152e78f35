/**
 * Forty frames of trap nights: nearer and farther, lighter and darker takes of what the demo has drawn
 * already.
 */
import { readFile, rename, writeFile } from "node:fs/promises";
import { join } from "node:path";
import sharp from "sharp";

export interface Record {
  name: string;
  /** The picture that it is a part of. */
  of: string;
  width: number;
  height: number;
  /** Share of the picture's sides, and where the part lies in what is left, 0 to 1. */
  share: number;
  x: number;
  y: number;
  light: number;
  quality: number;
}

const OF = [
  "ashen-carpet.jpg",
  "brindled-hooktip.jpg",
  "fen-lackey.jpg",
  "copper-tussock.jpg",
  "stone-brocade.jpg",
  "heath-emerald.jpg",
  "pale-footman.jpg",
  "trap-sheet.jpg",
  "moor-at-dusk.jpg",
];
const COUNT = 40;

/** Evenly spread, the same every time. */
const part = (n: number, step: number) => (n * step) % 1;

export const RECORDS: Record[] = Array.from({ length: COUNT }, (_, n) => {
  const of = OF[n % OF.length];
  const upright = of === "brindled-hooktip.jpg";
  const [long, short] = n % 3 === 0 ? [3200, 2400] : [2600, 1950];
  return {
    name: `trap-${String(n + 1).padStart(2, "0")}-${of.slice(0, -4)}.JPG`,
    of,
    width: upright ? short : long,
    height: upright ? long : short,
    share: 0.62 + 0.36 * part(n + 1, 0.37),
    x: 0.3 + 0.4 * part(n + 1, 0.61),
    y: 0.3 + 0.4 * part(n + 1, 0.29),
    light: 0.9 + 0.2 * part(n + 1, 0.43),
    quality: 86 + (n % 4) * 2,
  };
});

export async function writeRecord(folder: string, record: Record): Promise<void> {
  const upright = sharp(await readFile(join(folder, record.of))).autoOrient();
  const { data, info } = await upright.toColourspace("srgb").raw().toBuffer({ resolveWithObject: true });
  const [width, height] = [Math.floor(info.width * record.share), Math.floor(info.height * record.share)];
  const jpeg = await sharp(data, { raw: { width: info.width, height: info.height, channels: info.channels } })
    .extract({
      left: Math.floor((info.width - width) * record.x),
      top: Math.floor((info.height - height) * record.y),
      width,
      height,
    })
    .resize(record.width, record.height, { fit: "cover" })
    .modulate({ brightness: record.light })
    .jpeg({ quality: record.quality })
    .toBuffer();
  const path = join(folder, record.name);
  await writeFile(`${path}.part`, jpeg);
  await rename(`${path}.part`, path);
}
