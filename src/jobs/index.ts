export { keptPixels, shownKey } from "./kept-pixels";
export { freeBytes } from "./space";
