/** Layered artwork flattened: its visible layers, laid on each other as the file says. */
import sharp from "sharp";
import { chosen, eightBit, flatten, type LayerPixels } from "@/core/pixels/layers";
import type { ForeignPixels, Wish } from "./kinds";
import { openOra } from "./ora";

/** Pixels of one layer. */
const MOST_LAYER_PIXELS = 120_000_000;

export async function oraPixels(bytes: Buffer, { layers }: Wish = {}): Promise<ForeignPixels> {
  const file = await openOra(bytes);
  try {
    const canvas = await flatten(
      layers ? chosen(file.artwork, layers) : file.artwork,
      async ({ source }): Promise<LayerPixels> => {
        const picture = await file.read(source);
        const { data, info } = await sharp(picture, { limitInputPixels: MOST_LAYER_PIXELS })
          .toColourspace("srgb")
          .ensureAlpha()
          .raw({ depth: "uchar" })
          .toBuffer({ resolveWithObject: true });
        return { data, width: info.width, height: info.height };
      },
    );
    return { ...eightBit(canvas), channels: 4 };
  } finally {
    file.close();
  }
}
