export { pipeThrough } from "./child-process";
export { oneThreadEach } from "./one-thread";
export { developAside, differenceAside, findInkAside, warmUp } from "./pool";
export type { Judged } from "./work";
