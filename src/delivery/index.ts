export { composeMail, type MailFile, typeOf } from "./mail";
export { messageBytes, parcelsOf } from "./parcels";
export { type PageFile, pagesOf, printSheets } from "./print-sheet";
export { proofSheet } from "./proof-sheet";
export { unzip } from "./unzip";
export { countedAs, overheadOf, wholeOf } from "./whole";
export { type ZipEntry, zipOf } from "./zip";
