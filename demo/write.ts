/** From a drawn picture to a file as a camera, a scanner or a drawing program would write it. */
import sharp from "sharp";
import {
  asciiEntry,
  type Exif,
  emptyExif,
  exifSegment,
  iccSegments,
  jfifSegment,
  MARKER,
  rationalEntry,
  readJpeg,
  rebuildJpeg,
  shortEntry,
  TAG,
  withResolution,
  writeExif,
} from "@/core/containers";
import { writeProfile } from "@/core/pixels/colour";
import { develop, type Picture } from "./camera";
import { random } from "./noise";
import type { DemoPicture } from "./pictures";

/**
 * Drawing costs about 3 µs a pixel, so larger pictures are drawn at this size and enlarged; grain and
 * texture come at full size.
 */
const DRAWN_PIXELS = 1_700_000;

export async function makePicture(p: DemoPicture): Promise<Buffer> {
  const factor = Math.min(1, Math.sqrt(DRAWN_PIXELS / (p.width * p.height)));
  const drawn = p.draw(Math.round(p.width * factor), Math.round(p.height * factor));
  if (drawn instanceof Uint8Array) {
    return sharp(drawn, { raw: { width: p.width, height: p.height, channels: 3 } })
      .withMetadata({ density: p.ppi })
      .png({ compressionLevel: 9 })
      .toBuffer();
  }
  const samples = await enlarged(drawn, p);
  if (p.kind === "tiff16") {
    return sharp(samples, { raw: { width: p.width, height: p.height, channels: 3 } })
      .toColourspace("rgb16")
      .tiff({
        compression: "lzw",
        predictor: "horizontal",
        xres: p.ppi / 25.4,
        yres: p.ppi / 25.4,
        resolutionUnit: "inch",
      })
      .toBuffer();
  }
  return asJpeg(withGrain(samples, p), p);
}

async function enlarged(drawn: Picture, p: DemoPicture): Promise<Uint16Array> {
  const { width, height } = drawn;
  const base = develop(drawn, { seed: 1, grain: 0, vignette: 0.22 }, 65535) as Uint16Array;
  if (width === p.width && height === p.height) return base;
  const { data } = await sharp(base, { raw: { width, height, channels: 3 } })
    .resize(p.width, p.height, { fit: "fill", kernel: "cubic" })
    .toColourspace("rgb16")
    .raw({ depth: "ushort" })
    .toBuffer({ resolveWithObject: true });
  return new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
}

/** Grain of the sensor, stronger in the middle tones, and the fine texture that enlarging cannot invent. */
function withGrain(samples: Uint16Array, p: DemoPicture): Uint8Array {
  const next = random([...p.name].reduce((sum, sign) => sum * 31 + sign.charCodeAt(0), 7) >>> 0);
  const table = Float32Array.from({ length: 65536 }, () => (next() + next() + next() + next() - 2) * 1.73);
  const out = new Uint8Array(samples.length);
  const { width, height } = p;
  for (let y = 0, o = 0; y < height; y += 1) {
    let g = Math.floor(next() * 65536);
    for (let x = 0; x < width; x += 1, o += 3) {
      g += 1;
      const luma = samples[o + 1] / 65535;
      const common = table[g & 65535] * 0.7 + table[(g + 1) & 65535] * 0.3;
      const strength = p.grain * (0.5 + 0.9 * Math.sqrt(luma) * (1 - 0.5 * luma));
      for (let c = 0; c < 3; c += 1) {
        const v = samples[o + c] / 257 + (common * 0.8 + table[(g * 3 + c * 1021) & 65535] * 0.5) * strength;
        out[o + c] = v <= 0 ? 0 : v >= 255 ? 255 : Math.round(v);
      }
    }
  }
  return out;
}

async function asJpeg(pixels: Uint8Array, p: DemoPicture): Promise<Buffer> {
  let image = sharp(pixels, { raw: { width: p.width, height: p.height, channels: 3 } });
  // Orientation 6 means: turn clockwise to see it upright. So it is stored turned the other way.
  if (p.orientation === 6) image = image.rotate(270);
  const plain = await image.jpeg({ quality: p.quality, chromaSubsampling: p.chroma }).toBuffer();
  const head = [jfifSegment(p.ppi), exifSegment(writeExif(exifOf(p)))];
  if (p.space === "display-p3") head.push(...iccSegments(writeProfile("display-p3")));
  if (p.space === "oprgb") head.push(...iccSegments(writeProfile("oprgb")));
  return Buffer.from(rebuildJpeg(readJpeg(plain), head, (s) => s.marker < MARKER.APP0 || s.marker > 0xef));
}

function exifOf(p: DemoPicture): Exif {
  const exif = withResolution(emptyExif(), p.ppi);
  exif.ifd0.push(
    asciiEntry(TAG.Make, "Quillmoor"),
    asciiEntry(TAG.Model, "Lamp Camera 2"),
    shortEntry(TAG.Orientation, p.orientation, false),
  );
  exif.ifd0.push(
    asciiEntry(TAG.Copyright, "Quillmoor Moth Survey"),
    asciiEntry(TAG.DateTime, "2026:05:15 09:12:40"),
  );
  exif.exif.push(
    asciiEntry(TAG.DateTimeOriginal, "2026:05:14 23:41:07"),
    rationalEntry(0x829d, 5.6, false),
    shortEntry(0x8827, 400, false),
  );
  if (p.place) {
    exif.exif.push(
      asciiEntry(TAG.BodySerialNumber, "QM-000417"),
      asciiEntry(TAG.CameraOwnerName, "Quillmoor office"),
    );
    exif.gps.push(asciiEntry(1, "N"), asciiEntry(3, "W"));
  }
  return exif;
}
