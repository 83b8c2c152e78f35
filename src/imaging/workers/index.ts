export { bundleBeside } from "./beside";
export { pipeThrough } from "./child-process";
export { LimitError, LimitedChild } from "./limited-child";
export { oneThreadEach } from "./one-thread";
export { analyseAside, developAside, differenceAside, findInkAside, THREADS, warmUp } from "./pool";
export type { Judged } from "./work";
