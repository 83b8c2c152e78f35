/**
 * The demo's heavy sources: a raw file, a phone's file, layered artwork and a 16-bit picture in a wide
 * space, made of what is drawn already.
 */
import { spawn } from "node:child_process";
import { existsSync } from "node:fs";
import { readFile, rename, unlink, writeFile } from "node:fs/promises";
import { join } from "node:path";
import sharp from "sharp";
import { ZipFile } from "yazl";
import { linearTable, SPACES, SRGB_CURVE, writeProfile } from "@/core/pixels/colour";
import { develop } from "@/core/pixels/develop";
import { aboveWhite } from "@/core/pixels/light";
import { writeDng } from "./dng";
import { drawStrokes, strokes } from "./scenes";

type Make = (folder: string) => Promise<Buffer | null>;

/** In the order in which they are made; null from its maker leaves one out. */
export const HEAVY: Record<string, Make> = {
  "moor-at-last-light.dng": lastLight,
  "hooktip-on-the-sheet.heic": phone,
  "survey-poster.ora": poster,
  "copper-tussock-wide.tif": wide,
};

/** Answers the names that were left out. */
export async function writeHeavy(folder: string): Promise<string[]> {
  const missing: string[] = [];
  for (const [name, make] of Object.entries(HEAVY)) {
    // What an earlier start has made stays.
    if (existsSync(join(folder, name))) continue;
    const bytes = await make(folder);
    if (!bytes) {
      missing.push(name);
      continue;
    }
    await writeFile(join(folder, `${name}.part`), bytes);
    await rename(join(folder, `${name}.part`), join(folder, name));
  }
  return missing;
}

const scaled = async (folder: string, name: string, width: number, height: number) => {
  const { data } = await sharp(await readFile(join(folder, name)))
    .autoOrient()
    .resize(width, height, { fit: "cover" })
    .toColourspace("srgb")
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return data;
};

/**
 * The sky of the camera's picture is near white; in the scene it was up to three times lighter, and the
 * sensor has seen that.
 */
async function lastLight(folder: string): Promise<Buffer> {
  const [width, height] = [3000, 2000];
  const codes = await scaled(folder, "moor-at-dusk.jpg", width, height);
  const linear = linearTable(SRGB_CURVE, 256);
  const preview = await sharp(codes, { raw: { width, height, channels: 3 } })
    .resize(1200, 800)
    .jpeg({ quality: 88 })
    .toBuffer();
  const data = new Float32Array(codes.length);
  for (let p = 0; p < codes.length; p += 3) {
    const strongest = linear[Math.max(codes[p], codes[p + 1], codes[p + 2])];
    const factor = aboveWhite({ start: 0.55, peak: 3 }, strongest) / Math.max(1e-6, strongest) / 3.1;
    for (let c = 0; c < 3; c += 1) data[p + c] = linear[codes[p + c]] * factor;
  }
  return writeDng({
    scene: { data, width, height },
    white: 15_360,
    black: 512,
    neutral: [0.52, 1, 0.61],
    preview: { jpeg: preview, width: 1200, height: 800 },
    orientation: 1,
    model: "Lamp Camera 2",
    date: "2026:05:14 21:12:33",
  });
}

/** As a phone would store it, where a maker of such files is at hand. */
async function phone(folder: string): Promise<Buffer | null> {
  const [from, to] = [join(folder, ".phone.png"), join(folder, ".phone.heic")];
  await writeFile(
    from,
    await sharp(await scaled(folder, "brindled-hooktip.jpg", 1536, 2048), {
      raw: { width: 1536, height: 2048, channels: 3 },
    })
      .png({ compressionLevel: 1 })
      .toBuffer(),
  );
  const code = await new Promise<number | null>((done) => {
    const child = spawn("heif-enc", ["-q", "70", "-o", to, from], { stdio: "ignore" });
    child.on("error", () => done(null));
    child.on("exit", (ended) => done(ended));
  });
  const made = code === 0 ? await readFile(to) : null;
  for (const path of [from, to]) await unlink(path).catch(() => undefined);
  return made;
}

/** Colours as a scanner's wide space holds them, in steps that 8 bits have not. */
async function wide(folder: string): Promise<Buffer> {
  const { data, info } = await sharp(await readFile(join(folder, "copper-tussock.jpg")), { ignoreIcc: true })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const size = { width: info.width, height: info.height };
  const whole = { x: 0, y: 0, ...size };
  const made = develop(
    { data: new Uint8Array(data), ...size, channels: 3 },
    {
      from: SPACES.oprgb,
      to: SPACES["romm-rgb"],
      orientation: 1,
      photo: size,
      shown: whole,
      density: [1, 1],
      crop: whole,
      angle: 0,
      size,
      kernel: null,
      sharpen: null,
      ppi: null,
      bits: 16,
      under: null,
      plain: false,
    },
  );
  const path = join(folder, ".romm.icc");
  await writeFile(path, writeProfile("romm-rgb"));
  const tiff = await sharp(made.data, { raw: { ...size, channels: 3 } })
    .toColourspace("rgb16")
    .withIccProfile(path, { attach: true })
    .tiff({ compression: "none", xres: 300 / 25.4, yres: 300 / 25.4, resolutionUnit: "inch" })
    .toBuffer();
  await unlink(path);
  return tiff;
}

const [POSTER_W, POSTER_H] = [2000, 1400];

/**
 * A poster: the moor, a moth in a soft round window, a glow, lettering, and a sketch that nobody took out.
 */
async function poster(folder: string): Promise<Buffer> {
  const ground = await scaled(folder, "moor-at-dusk.jpg", POSTER_W, POSTER_H);
  const png = (data: Uint8Array, width: number, height: number, channels: 3 | 4) =>
    sharp(data, { raw: { width, height, channels } }).png({ compressionLevel: 4 }).toBuffer();
  const canvas = (paint: (x: number, y: number) => readonly [number, number, number, number]) => {
    const out = new Uint8Array(POSTER_W * POSTER_H * 4);
    for (let y = 0, p = 0; y < POSTER_H; y += 1)
      for (let x = 0; x < POSTER_W; x += 1, p += 4) out.set(paint(x, y), p);
    return png(out, POSTER_W, POSTER_H, 4);
  };
  const { data: moth } = await sharp(await readFile(join(folder, "heath-emerald.jpg")))
    .extract({ left: 166, top: 0, width: 1280, height: 1280 })
    .resize(760, 760)
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const round = canvas((x, y) => {
    const [u, v] = [x - 1100, y - 470];
    const inside = u >= 0 && v >= 0 && u < 760 && v < 760;
    const away = Math.hypot(u - 380, v - 380);
    const alpha = Math.max(0, Math.min(1, (372 - away) / 10));
    const p = (v * 760 + u) * 3;
    return inside && alpha > 0 ? [moth[p], moth[p + 1], moth[p + 2], alpha * 255] : [0, 0, 0, 0];
  });
  const glow = canvas((x, y) => {
    const near = Math.exp(-Math.hypot(x - 1280, (y - 580) * 1.6) / 420);
    return [255, 196, 120, near > 0.02 ? near * 150 : 0];
  });
  const letters = new Float32Array(POSTER_W * POSTER_H);
  drawStrokes(letters, POSTER_W, POSTER_H, strokes("QUILLMOOR", 140, 170, 150), 9);
  drawStrokes(letters, POSTER_W, POSTER_H, strokes("MOTH NIGHTS, MAY TO SEPTEMBER", 146, 390, 48), 3);
  const title = canvas((x, y) => [250, 240, 214, letters[y * POSTER_W + x] * 255]);
  const sketch = canvas((x, y) =>
    (x * 7 + y * 13) % 61 < 3 ? [60 + ((x * 31 + y * 17) % 90), 80, 120, 255] : [236, 230, 218, 255],
  );
  const made = {
    title: await title,
    moth: await round,
    glow: await glow,
    sketch: await sketch,
    ground: await png(ground, POSTER_W, POSTER_H, 3),
  };
  const merged = await sharp(made.ground)
    .composite([{ input: made.glow, blend: "screen" }, { input: made.moth }, { input: made.title }])
    .removeAlpha()
    .png({ compressionLevel: 4 })
    .toBuffer();
  const stack = `<?xml version="1.0" encoding="UTF-8"?>
<image version="0.0.6" w="${POSTER_W}" h="${POSTER_H}" xres="150" yres="150">
  <stack>
    <layer name="Lettering" src="data/title.png" x="0" y="0"/>
    <stack name="Moth and light">
      <layer name="Moth in its window" src="data/moth.png" x="0" y="0"/>
      <layer name="Glow of the sun" src="data/glow.png" x="0" y="0" composite-op="svg:screen" opacity="0.8"/>
    </stack>
    <layer name="First sketch" src="data/sketch.png" x="0" y="0" visibility="hidden"/>
    <layer name="The moor" src="data/ground.png" x="0" y="0"/>
  </stack>
</image>
`;
  const zip = new ZipFile();
  const mtime = new Date(2026, 4, 15);
  zip.addBuffer(Buffer.from("image/openraster"), "mimetype", { compress: false, mtime });
  zip.addBuffer(Buffer.from(stack), "stack.xml", { mtime });
  for (const [name, bytes] of Object.entries(made))
    zip.addBuffer(bytes, `data/${name}.png`, { compress: false, mtime });
  zip.addBuffer(merged, "mergedimage.png", { compress: false, mtime });
  zip.addBuffer(
    await sharp(merged).resize(256, 256, { fit: "inside" }).png({ compressionLevel: 4 }).toBuffer(),
    "Thumbnails/thumbnail.png",
    { compress: false, mtime },
  );
  zip.end();
  const pieces: Buffer[] = [];
  for await (const piece of zip.outputStream as AsyncIterable<Buffer>) pieces.push(piece);
  return Buffer.concat(pieces);
}
