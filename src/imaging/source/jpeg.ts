/** The facts of a JPEG, by our own reader of its segments. */

import {
  bodyOf,
  chromaOf,
  exifBlock,
  filterExif,
  iccProfile,
  isBareExif,
  isIptc,
  isMultiPicture,
  isXmp,
  type JpegFile,
  jfifDensity,
  MARKER,
  orientationOf,
  qualityOf,
  readGainMap,
  readJpeg,
  resolutionOf,
} from "@/core/containers";
import { PhotoError, uprightSize } from "@/core/photo";
import type { Facts } from "@/core/proof";
import { judgeProfile } from "./profiles";
import { captureDate, NOTHING, type Source, tryExif, turned } from "./source";

export function jpegSource(bytes: Buffer): Source {
  const jpeg = readJpeg(bytes);
  if (jpeg.end === null)
    throw new PhotoError("The JPEG is cut short: its end is missing. Bring in the whole file.");
  const exif = tryExif(exifBlock(jpeg));
  const icc = iccProfile(jpeg);
  const { profile, fault } = judgeProfile(icc, jpeg.frame.components.length);
  const quality = qualityOf(jpeg);
  const orientation = orientationOf(exif);
  const exifPpi = resolutionOf(exif);
  const untagged = { 1: "gray", 4: "cmyk" }[jpeg.frame.components.length] ?? "srgb";
  const privateData = exif ? filterExif(exif, "private").dropped : [];
  const has = (test: (file: JpegFile, s: (typeof jpeg.segments)[number]) => boolean) =>
    jpeg.segments.some((s) => test(jpeg, s));
  if (has(isXmp)) privateData.push("XMP data");
  if (has(isIptc)) privateData.push("IPTC data");
  const gainMap = jpeg.end < bytes.length ? readGainMap(jpeg) : null;
  if (gainMap) privateData.push("the gain map");
  else if (has(isMultiPicture) || jpeg.end < bytes.length) privateData.push("data behind the picture");
  const comment = jpeg.segments.some(
    (s) => s.marker === MARKER.COM && bodyOf(jpeg, s).some((b) => b !== 0x20),
  );
  const facts: Facts = {
    format: "jpeg",
    ...uprightSize(jpeg.frame, orientation),
    bytes: bytes.length,
    resolution: turned(exifPpi ?? jfifDensity(jpeg), orientation),
    resolutionStep: exifPpi ? 0 : 0.5,
    bits: jpeg.frame.bits,
    colourSpace: profile?.name ?? untagged,
    profileFault: fault,
    quality: quality?.quality ?? null,
    qualityExact: quality?.exact ?? false,
    chroma: chromaOf(jpeg.frame),
    orientation,
    alpha: false,
    profile: icc !== null,
    pages: 1,
    ...(gainMap && { gainMap: 2 ** Math.max(...gainMap.max) }),
    privateData,
    metadata: (exif !== null && !isBareExif(exif)) || comment || privateData.length > 0,
    date: captureDate(exif),
  };
  const packet = jpeg.segments.find((s) => isXmp(jpeg, s));
  const iptc = jpeg.segments.find((s) => isIptc(jpeg, s));
  const xmp = packet ? bodyOf(jpeg, packet) : null;
  return {
    ...NOTHING,
    bytes,
    facts,
    exif,
    jpeg,
    gainMap,
    icc,
    profile,
    xmp: xmp?.subarray(xmp.indexOf(0) + 1) ?? null,
    iptc: iptc ? bodyOf(jpeg, iptc) : null,
  };
}
