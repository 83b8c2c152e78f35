export { base64Bytes, fileBytesWithin, secondsWords, sendSeconds } from "./size";
export { numbered, splitIntoMessages } from "./split";
