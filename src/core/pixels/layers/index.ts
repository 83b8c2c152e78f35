export { eightBit, flatten, type LayerPixels } from "./compose";
export { readStack } from "./stack-xml";
export { chosen, mapLayers, placed, withoutHidden, writeStack } from "./tree";
export type { Artwork, Layer, Node } from "./types";
export { type Part, partsOf, type Savings } from "./weights";
