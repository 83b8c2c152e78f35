export type { FitAnswer } from "./answer";
export { factsAside, warmUpFacts } from "./facts-aside";
export { fitPhoto } from "./fit";
export { fitSet, type SetAnswer } from "./fit-set";
export { rehearse } from "./rehearse";
export { type SharedOut, shareOut } from "./share-out";
