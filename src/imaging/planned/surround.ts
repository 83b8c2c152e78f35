/** Background and border around a picture. */
import type { Geometry } from "@/core/geometry";
import { paste } from "./bands";
import type { Prepared } from "./prepared";

/** The picture in its place, with what is asked around it: `background` and `border` are code values, 0 to 1. */
export function surrounded(
  picture: Prepared,
  geometry: Geometry,
  background: readonly number[],
  border: readonly number[],
): Prepared {
  if (picture.width === geometry.width && picture.height === geometry.height) return picture;
  const { channels, data: from } = picture;
  const length = geometry.width * geometry.height * channels;
  const data = from instanceof Uint16Array ? new Uint16Array(length) : new Uint8Array(length);
  const top = from instanceof Uint16Array ? 65_535 : 255;
  const [ground, edge] = [background, border].map((colour) =>
    [...colour.map((v) => Math.round(v * top)), top].slice(0, channels),
  );
  const px = geometry.border ?? 0;
  for (let y = 0, i = 0; y < geometry.height; y += 1) {
    const outside = y < px || y >= geometry.height - px;
    for (let x = 0; x < geometry.width; x += 1, i += channels) {
      const pixel = outside || x < px || x >= geometry.width - px ? edge : ground;
      for (let c = 0; c < channels; c += 1) data[i + c] = pixel[c];
    }
  }
  const out = { ...picture, data, width: geometry.width, height: geometry.height };
  paste({
    to: out,
    from: picture,
    at: geometry.place,
    part: { x: 0, y: 0, width: picture.width, height: picture.height },
  });
  return out;
}
