export {
  checkTail,
  type Decoded,
  type DecodedPart,
  decodeSamples,
  dotScreenIn,
  strictly,
} from "./decode";
