/** Code values of a file by the pixel library, as they are: on a thread that works on them there, or in place. */
import sharp from "sharp";
import type { Rect } from "@/core/photo";
import type { Samples } from "@/core/pixels/develop";
import { MAX_PIXELS } from "@/core/units";

export interface LibraryDecode {
  failOn: "warning" | "truncated";
  /** Of several, from 0. */
  page: number;
  /** Stored pixels that are wanted; null for all. */
  part: Rect | null;
  /** Profiles are the library's to apply. */
  converts: boolean;
  space: "srgb" | "rgb16" | "b-w" | "grey16";
  /** The code of white where it is not the highest. */
  top?: number;
}

/** Rejects with the library's own words where the file is damaged. */
export async function decodeByLibrary(
  file: Uint8Array,
  { failOn, page, part, converts, space, top }: LibraryDecode,
): Promise<Samples> {
  const deep = space.endsWith("16");
  let image = sharp(file, {
    failOn,
    limitInputPixels: MAX_PIXELS,
    autoOrient: false,
    ignoreIcc: !converts,
    page,
  });
  if (part) image = image.extract({ left: part.x, top: part.y, width: part.width, height: part.height });
  const { data, info } = await image
    .toColourspace(space)
    .raw({ depth: deep ? "ushort" : "uchar" })
    .toBuffer({ resolveWithObject: true });
  const codes = deep ? new Uint16Array(data.buffer, data.byteOffset, data.length / 2) : data;
  return { data: codes, width: info.width, height: info.height, channels: info.channels, top };
}
