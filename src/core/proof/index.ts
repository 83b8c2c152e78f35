export type { Check } from "./check";
export { checkFacts, dropped, meets, unchanged } from "./checks";
export { type Facts, factsOfPage, isMoving, paperSize, publicFacts, spaceName } from "./facts";
export { checkHead } from "./head";
export { asksSurround, checkPixels, surroundOf, surroundWords } from "./pixels";
