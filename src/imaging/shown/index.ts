export { closeUp, fileHead } from "./close-up";
export { eightBits, type Level, lightLevel, regionOf } from "./levels";
export { photoKind, preview } from "./preview";
export { printSheetPicture } from "./print-sheet-picture";
export { standIn } from "./stand-in";
