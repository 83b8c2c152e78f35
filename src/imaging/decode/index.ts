export { checkTail, type DecodedPart, decodeSamples, dotScreenIn, strictly } from "./decode";
