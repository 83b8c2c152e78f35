export { findInk } from "./find";
export { inkNotes } from "./notes";
export { overlayInk, renderInk } from "./render";
export type { InkFound, InkReport, RgbPicture } from "./types";
