export { findDisagreements } from "./find";
export { type Change, overrule } from "./types";
