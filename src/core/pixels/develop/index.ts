export { type Developed, type Development, develop, handsOn } from "./develop";
export { beatsWith, dotScreenPeriod, dotScreenWords, wholeScales } from "./dot-screen";
export type { Planned } from "./finish";
export type { Samples } from "./samples";
export { TILE } from "./spectrum";
