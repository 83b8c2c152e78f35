export {
  checkTail,
  type Decoded,
  type DecodedPart,
  decodeSamples,
  libraryPart,
  strictly,
  type Taken,
} from "./decode";
