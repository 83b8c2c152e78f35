export type { FitAnswer } from "./answer";
export { factsAside, warmUpFacts } from "./facts-aside";
export { fitPhoto } from "./fit";
export { type SharedOut, shareOut } from "./share-out";
