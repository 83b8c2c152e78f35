export { type ArmSetting, armFor } from "./arm";
export { bestSide, nextSide, type Tried } from "./fewer";
export { type Offer, offersFor } from "./offers";
export { type Pick, qualityFor, type SharedPhoto, type Traced, type WholeFile } from "./photo";
export { Share, type ShareAnswer, type Wanted, type Whole } from "./share";
export { cannotWords, type Limit, offerWords, sharedWords, totalCheck } from "./words";
