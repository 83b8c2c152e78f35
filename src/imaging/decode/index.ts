export { checkTail, decodeSamples, screenIn, strictly, type Wanted } from "./decode";
