/** A trial decoded again, as far as its bytes go: code values in the planned picture's own colours. */
import sharp from "sharp";
import type { JpegSetting, Setting } from "@/core/coding";
import { decodeBmp, readBmp } from "@/core/containers";
import type { Pixels } from "@/core/difference";
import type { Planned } from "@/core/pixels/develop";
import { ownCoder } from "../encode";
import { decodedAside, roundedAside } from "../workers";

/**
 * `encoded` is the bare encoding, without the profile that the file will get. CMYK comes back as the sRGB it
 * was made from.
 */
export async function decodeTrial(
  encoded: Uint8Array,
  setting: Setting,
  like: Planned,
  cmyk: boolean,
): Promise<Pixels> {
  if (setting.format === "bmp") {
    const file = readBmp(encoded);
    return { data: decodeBmp(file), width: file.width, height: file.height, channels: 3 };
  }
  const jpeg = setting.format === "jpeg" || setting.format === "pdf";
  const deep = like.data instanceof Uint16Array && !jpeg;
  const grey = like.channels < 3;
  const { data, info } = await sharp(encoded, { limitInputPixels: false, ignoreIcc: !cmyk })
    .toColourspace(grey ? (deep ? "grey16" : "b-w") : deep ? "rgb16" : "srgb")
    .raw({ depth: deep ? "ushort" : "uchar" })
    .toBuffer({ resolveWithObject: true });
  const codes = deep ? new Uint16Array(data.buffer, data.byteOffset, data.length / 2) : data;
  // A decoder puts fewer than 16 bits into the upper ones, so that white is not the highest code.
  const top =
    deep && setting.format === "avif" ? (2 ** setting.bits - 1) * 2 ** (16 - setting.bits) : undefined;
  return { data: codes, width: info.width, height: info.height, channels: info.channels, top };
}

/**
 * The same of a trial that was just made: a JPEG of our own coder is decoded from its levels, which takes a quarter of
 * the time, to the same pixels.
 */
export async function decodeFresh(
  encoded: Uint8Array,
  setting: Setting,
  like: Planned,
  cmyk: boolean,
): Promise<Pixels> {
  const jpeg = setting.format === "jpeg" || setting.format === "pdf";
  const own = jpeg && ownCoder(setting, like, cmyk);
  const levels = own ? await decodedAside(like, { ...setting, format: "jpeg" }) : null;
  return levels ?? decodeTrial(encoded, setting, like, cmyk);
}

/** What a JPEG would be decoded to whose levels are only rounded; null where another coder writes it. */
export const decodeRounded = async (
  setting: JpegSetting,
  like: Planned,
  cmyk: boolean,
): Promise<Pixels | null> =>
  setting.effort === "careful" && ownCoder(setting, like, cmyk) ? roundedAside(like, setting) : null;
