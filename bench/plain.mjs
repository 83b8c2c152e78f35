// What a plain script would do: the image library as it comes, quality found by halving.
import sharp from "sharp";

export const decoded = (bytes) => sharp(bytes).toColourspace("srgb").raw().toBuffer();

/**
 * The plain encoder's smallest file within a difference: every whole quality, 4:2:0, as the library comes.
 */
export async function plainSmallest(data, size, reference, limit) {
  let [low, high, found] = [1, 100, null];
  while (low <= high) {
    const quality = (low + high) >> 1;
    const bytes = await sharp(data, { raw: { ...size, channels: 3 } })
      .jpeg({ quality })
      .toBuffer();
    if (reference.compare({ data: await decoded(bytes), ...size, channels: 3 }).difference <= limit)
      [found, high] = [bytes.length, quality - 1];
    else low = quality + 1;
  }
  return found;
}
