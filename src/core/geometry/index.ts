export { askedPpi, holdsPaper } from "./density";
export { type DetailMap, detailMap } from "./detail";
export {
  canCut,
  canSwap,
  carried,
  centreAt,
  centreOf,
  type Editing,
  leanTo,
  moveBy,
  turnBy,
  widthTo,
  zoomBy,
} from "./editing";
export { type Geometry, keepsPixels, planGeometry, rescale } from "./geometry";
export {
  firstMarks,
  frameForHead,
  type HeadFound,
  headOf,
  markAt,
  paperHeight,
  seenMarks,
  sharesOf,
  within as headWithin,
} from "./head";
export { type Page, pageFor } from "./page";
export { proposeFrame } from "./propose";
export { hasShape, targetFor } from "./target";
export {
  comparedSizes,
  exceedsView,
  longSide,
  pixelsOf,
  resized,
  SEEN_PPI,
  type Viewing,
  viewGeometry,
  withLongSide,
} from "./view";
