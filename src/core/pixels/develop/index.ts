export { type Developed, type Development, develop } from "./develop";
export type { Planned } from "./finish";
export type { Samples } from "./samples";
export { beatsWith, screenPeriod, screenWords, TILE, wholeScales } from "./screen";
