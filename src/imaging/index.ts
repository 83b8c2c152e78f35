export { fitPhoto, type Made, type Proof, prove } from "./fit";
export { photosOf, type SharedOut, shareOut } from "./share-out";
