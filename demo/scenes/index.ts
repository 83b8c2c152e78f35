export { bark, linen, stone } from "./grounds";
export { drawStrokes, strokes } from "./letters";
export { shootMoor } from "./moor";
export { type MothShot, shootMoth } from "./moth";
export { drawLabel, shootSignature, shootTrapSheet } from "./papers";
export { PEOPLE, shootPortrait } from "./person";
export { SPECIES } from "./species";
