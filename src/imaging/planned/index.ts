export { asItIs } from "./as-it-is";
export { PixelCache } from "./cache";
export { isFlat } from "./flat";
export { overlayPicture } from "./ink";
export { LargestPicture } from "./largest";
export { decodeMoving, type Moving, planMoving } from "./moving";
export { type PlannedPicture, plannedPicture } from "./picture";
export { PlannedPictures } from "./pictures";
export {
  nameOf,
  notesOn,
  type PlannedPhoto,
  type PlanRequest,
  planPhoto,
  resolvedFor,
  viewingOf,
} from "./plan-photo";
export { preparePicture } from "./prepare";
export type { Prepared } from "./prepared";
export { needsDeveloping, smallPicture } from "./small-picture";
