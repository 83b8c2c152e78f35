export { asItIs } from "./as-it-is";
export { PlannedCache } from "./cache";
export { overlayPicture } from "./ink";
export type { PlannedPicture } from "./picture";
export { PlannedPictures } from "./pictures";
export { nameOf, notesOn, type PlannedPhoto, type PlanRequest, planPhoto, resolvedFor } from "./plan-photo";
export { isFlat, type Prepared, preparePicture } from "./prepare";
export { needsDeveloping, smallPicture } from "./small-picture";
