export { predictLog } from "./along";
export { aboutGeometry, GROWTH, lossyOf } from "./as-seen";
export { viewWords } from "./as-seen-words";
export { bestShare, foretell } from "./best-share";
export { atSide, choiceName, forAll, formatOf, settingOf, sideOf } from "./choice";
export { type Choice, choiceSchema } from "./choice-schema";
export { avifEffort, expectedSeconds, webpEffort } from "./effort";
export { aboutBytes } from "./estimate";
export { familiesOf } from "./family";
export { fitFormats } from "./fit";
export { JpegCoder, type JpegPixels, type JpegSamples, packJpeg } from "./jpeg";
export { type LinePoint, LOSSY, type Lossy, ladder, lineChoice, qualityFor } from "./ladder";
export { type MapKind, type MapLook, shareLight } from "./light-share";
export { Line } from "./line";
export {
  LEVELS,
  type MovingFormat,
  type MovingFound,
  type MovingPixels,
  type MovingSetting,
  type MovingTask,
  NO_LOSS,
  searchMoving,
} from "./moving";
export { asPages } from "./one-format";
export { type Indexed, indexed } from "./palette";
export { searchPng } from "./png";
export { FILTER_WAYS, filtered, unfiltered } from "./png-filters";
export {
  aboutJpeg,
  aboutPng,
  avifPriorLog,
  differenceLog,
  FULL_CHROMA,
  priorLog,
  webpPriorLog,
} from "./prior";
export { OF_SAMPLE } from "./sampled";
export {
  ANNEX_K,
  type AvifSetting,
  type Chroma,
  type Fitted,
  type JpegSetting,
  LARGE_PIXELS,
  OWN_CODER_PIXELS,
  OWN_TABLES,
  type PdfSetting,
  type Picture,
  type PngSetting,
  partsOf,
  payloadOf,
  type Setting,
  settingKey,
  TIGHT_SECONDS,
  TIGHTEST,
  trialKey,
  type WebpSetting,
  type Weighed,
} from "./types";
