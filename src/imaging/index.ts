export type { FitAnswer } from "./answer";
export { fitPhoto } from "./fit";
export { type SharedOut, shareOut } from "./share-out";
