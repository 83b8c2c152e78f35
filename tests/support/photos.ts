/** Made-up photos for tests: seeded, with texture, so that they compress like photographs. */

import { Noise } from "@demo/noise";
import sharp from "sharp";

/** Interleaved RGB with soft forms and fine grain. */
export function pixels(width: number, height: number, seed = 1): Uint8Array {
  const noise = new Noise(seed);
  const out = new Uint8Array(width * height * 3);
  for (let y = 0, o = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, o += 3) {
      const form = noise.fbm((x / width) * 4, (y / height) * 4, 4);
      const grain = noise.at(x * 0.9, y * 0.9) * 12;
      out[o] = Math.max(0, Math.min(255, 130 + form * 150 + grain));
      out[o + 1] = Math.max(0, Math.min(255, 115 + form * 110 + grain));
      out[o + 2] = Math.max(0, Math.min(255, 90 - form * 60 + grain));
    }
  }
  return out;
}

export const raw = (width: number, height: number, seed = 1) =>
  sharp(pixels(width, height, seed), { raw: { width, height, channels: 3 } });
export const jpegPhoto = (width: number, height: number, seed = 1, quality = 92): Promise<Buffer> =>
  raw(width, height, seed).jpeg({ quality }).toBuffer();
export const pngPhoto = (width: number, height: number, seed = 1): Promise<Buffer> =>
  raw(width, height, seed).png().toBuffer();

/** The photo with an alternative text among its metadata (IPTC Photo Metadata 2021.1), put there by the colour library. */
export const saying = (photo: Buffer): Promise<Buffer> =>
  sharp(photo)
    .withXmp(
      '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">' +
        '<rdf:Description rdf:about="" xmlns:Iptc4xmpCore="http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/">' +
        '<Iptc4xmpCore:AltTextAccessibility><rdf:Alt><rdf:li xml:lang="x-default">Bark with a moth,\n "at rest"' +
        "</rdf:li></rdf:Alt></Iptc4xmpCore:AltTextAccessibility></rdf:Description></rdf:RDF></x:xmpmeta>",
    )
    .jpeg({ quality: 92 })
    .toBuffer();
