export { keepGainMap } from "./gain-map";
export { samePicture } from "./picture-bytes";
export { putAs, putInto, writeNewFile } from "./write";
