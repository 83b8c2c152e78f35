export { isPngText, isPngXmp, keptPngText, readPage, readSource, readWritten, type Source } from "./facts";
export { readPdfPicture } from "./pdf";
export { isDiskFull, sentence } from "./sentence";
