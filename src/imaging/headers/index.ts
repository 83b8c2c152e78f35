export { assemble, pageOf } from "./assemble";
export { colourIn, type Destination, destinationOf } from "./destination";
export { type Headers, plannedHeaders, resolutionToWrite } from "./headers";
export { padded } from "./pad";
export { rewriteHeaders } from "./rewrite";
