export { bundleBeside } from "./beside";
export { pipeThrough } from "./child-process";
export { FileProcesses } from "./file-processes";
export { type Framed, Frames, frameHead } from "./framed";
export { decodeByLibrary, type LibraryDecode } from "./library";
export { LimitError, LimitedChild } from "./limited-child";
export { oneThreadEach } from "./one-thread";
export {
  analyseAside,
  decodeAside,
  decodedAside,
  developAside,
  differenceAside,
  findInkAside,
  jpegAside,
  packAside,
  roundedAside,
  shareCores,
  shareThreads,
  threadsForOne,
  warmUp,
} from "./pool";
export { shared } from "./shared";
export type { Judged } from "./work";
