export {
  checkTail,
  type Decoded,
  type DecodedPart,
  decodeSamples,
  dotScreenIn,
  shrinkFor,
  strictly,
} from "./decode";
