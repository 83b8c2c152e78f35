export { type Check, checkFacts, dropped, meets, unchanged } from "./checks";
export { type Facts, factsOfPage, paperSize, publicFacts, spaceName } from "./facts";
export { asksSurround, checkPixels, surroundOf, surroundWords } from "./pixels";
