export { PlannedCache } from "./cache";
export { framed } from "./framed";
export { overlayPicture } from "./ink";
export { isFlat, type PicturePlan, type Prepared, preparePicture } from "./prepare";
export { needsDeveloping, smallPicture } from "./small-picture";
export { staged } from "./stage";
