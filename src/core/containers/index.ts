export { type AvifFile, avifColour, avifExif, avifLight, avifXmp, readAvif } from "./avif";
export { asStill, avifFrame, avifSequence, isSequence, joinAvif } from "./avif-sequence";
export { padAvif, rebuildAvif } from "./avif-write";
export { type BmpFile, decodeBmp, readBmp, rebuildBmp, writeBmp } from "./bmp";
export { ascii, concat, copyOf, latin1, startsWith, view } from "./bytes";
export { ContainerError } from "./error";
export {
  asciiEntry,
  directory,
  type Exif,
  type ExifEntry,
  emptyExif,
  longEntry,
  numberAt,
  orientationOf,
  patchResolution,
  rationalEntry,
  readExif,
  resolutionOf,
  shortEntry,
  TAG,
  textAt,
  withEntries,
  withResolution,
  writeExif,
} from "./exif";
export { type GainMap, readGainMap, withGainMap } from "./gain-map";
export { padGif } from "./gif";
export { readHeif } from "./heif";
export {
  bodyOf,
  chromaOf,
  exifBlock,
  exifSegment,
  iccProfile,
  iccSegments,
  isExif,
  isIcc,
  isIptc,
  isJfif,
  isMultiPicture,
  isXmp,
  type JpegFile,
  jfifDensity,
  jfifSegment,
  MARKER,
  padJpeg,
  readJpeg,
  rebuildJpeg,
  segment,
} from "./jpeg";
export { qualityOf } from "./jpeg-quality";
export { padPdf, writePdf } from "./pdf";
export {
  chunk,
  chunkBody,
  findChunk,
  type PngFile,
  padPng,
  physChunk,
  physOf,
  readPng,
  rebuildPng,
} from "./png";
export { filterExif, isBareExif } from "./privacy";
export { isRawTiff } from "./raw";
export { sniff } from "./sniff";
export { readSvg, svgAt } from "./svg";
export { padTiff, readTiff, rebuildTiff, TIFF_TAG } from "./tiff";
export { joinTiffs } from "./tiff-join";
export { jpegInTiff, tiffOfJpeg } from "./tiff-jpeg";
export { tiffPages } from "./tiff-pages";
export { readWebp, rebuildWebp, type WebpFile, webpChunk, webpExif } from "./webp";
export { correctXmp, iptcRights, withXmpResolution, xmpAlt, xmpRights } from "./xmp";
