// The photographs of a folder as benchmarks use them.
import { readdirSync } from "node:fs";
import { join } from "node:path";
import sharp from "sharp";

/** From a large photograph a reduced copy and a part at full size, from a small one itself. */
export async function photographs(folder) {
  const out = [];
  for (const name of readdirSync(folder)
    .filter((f) => /\.(jpe?g|png|tiff?)$/i.test(f))
    .sort()) {
    const { width, height } = await sharp(join(folder, name)).metadata();
    const open = () => sharp(join(folder, name)).removeAlpha().toColourspace("srgb");
    if (width < 1400) out.push([name, open()]);
    else {
      out.push([`${name} reduced`, open().resize(960)]);
      out.push([
        `${name} part`,
        open().extract({
          left: Math.round(width * 0.35),
          top: Math.round(height * 0.43),
          width: 720,
          height: Math.min(540, Math.round(height * 0.5)),
        }),
      ]);
    }
  }
  return Promise.all(
    out.map(async ([name, image]) => ({
      name,
      ...(await image.raw().toBuffer({ resolveWithObject: true })),
    })),
  );
}
