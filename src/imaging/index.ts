export { type FitAnswer, fitPhoto } from "./fit";
export { type SharedOut, shareOut } from "./share-out";
