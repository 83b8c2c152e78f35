export { predictLog } from "./along";
export { type Choice, choiceName, choiceSchema, forAll, formatOf, settingOf } from "./choice";
export { avifEffort, expectedSeconds, webpEffort } from "./effort";
export { aboutBytes } from "./estimate";
export { fitFormats } from "./fit";
export { type LinePoint, LOSSY, type Lossy, ladder, lineChoice, qualityFor } from "./ladder";
export { searchPng } from "./png";
export {
  aboutJpeg,
  aboutPng,
  avifPriorLog,
  differenceLog,
  FULL_CHROMA,
  priorLog,
  webpPriorLog,
} from "./prior";
export {
  type AvifSetting,
  CAREFUL_PIXELS,
  type Chroma,
  type Fitted,
  type JpegSetting,
  type PdfSetting,
  type Picture,
  type PngSetting,
  type Setting,
  settingKey,
  type WebpSetting,
  type Weighed,
} from "./types";
