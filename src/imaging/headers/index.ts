export { colourIn, type Destination, destinationOf } from "./destination";
export { assemble, type Headers, pageOf, plannedHeaders, resolutionToWrite } from "./headers";
export { rewriteHeaders } from "./rewrite";
