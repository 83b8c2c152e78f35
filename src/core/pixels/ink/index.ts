export { findInk } from "./find";
export { kindOf, type PhotoKind } from "./kind";
export { inkNotes } from "./notes";
export { overlayInk, renderInk } from "./render";
export type { InkFound, InkReport, RgbPicture } from "./types";
