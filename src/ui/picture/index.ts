export { turnedStyle } from "./draw-part";
export { PartPicture } from "./part-picture";
