export { type Developed, type Development, develop, handsOn } from "./develop";
export { beatsWith, dotScreenWords, wholeScales } from "./dot-screen";
export type { Planned } from "./finish";
export type { Samples } from "./samples";
export { dotScreenIn } from "./screen-in";
export { TILE } from "./spectrum";
