export { type ConversionReport, reportConversion } from "./conversion";
export {
  encodeWith,
  encodingTable,
  linearTable,
  PQ_CURVE,
  pqFromLight,
  SRGB_CURVE,
  sameCurve,
  toLinear,
} from "./curve";
export { apply, IDENTITY, invert, isIdentity, type Matrix, multiply, type Triple } from "./matrix";
export { type Profile, readProfile } from "./profile";
export {
  between,
  linearSpace,
  PQ_PEAK,
  PQ_SPACES,
  type PqName,
  type RgbName,
  type RgbSpace,
  SPACES,
  scaledSpace,
  WHITE_NITS,
} from "./spaces";
export { writeGreyProfile, writeProfile } from "./write-profile";
