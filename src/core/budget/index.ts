export { type ArmSetting, armFor } from "./arm";
export type { Ideal, Tried } from "./fewer";
export { BEGIN, type BudgetAnswer, type Known, next, sideKey, type TraceAsked } from "./next";
export { type Offer, offersFor } from "./offers";
export { qualityFor, type Traced, type WholeFile } from "./photo";
export type { Whole } from "./share";
export { cannotWords, type Limit, offerWords, sharedWords, totalCheck } from "./words";
