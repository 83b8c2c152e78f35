export type { Layered } from "./decoders";
export { decodeForeign, lightenLayered, MOST_FOREIGN_PIXELS, readRawFacts } from "./foreign";
export type { Foreign, ForeignPixels, Wish } from "./kinds";
export { openOra } from "./ora";
export { type Lightened, weighOra } from "./ora-lighter";
