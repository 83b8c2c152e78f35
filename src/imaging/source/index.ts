export { readPdfPicture } from "./pdf";
export { isPngText, isPngXmp, keptPngText } from "./png";
export { readPage, readSource, readWritten } from "./read-source";
export { sentence } from "./sentence";
export type { Source } from "./source";
