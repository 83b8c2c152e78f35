export { bark, linen, stone } from "./grounds";
export { drawStrokes, strokes } from "./letters";
export { shootMoor } from "./moor";
export { type MothShot, SPECIES, shootMoth } from "./moth";
export { drawLabel, shootSignature, shootTrapSheet } from "./papers";
export { PEOPLE, shootPortrait } from "./person";
