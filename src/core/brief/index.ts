export { CAN, heldBy, holdsColours, holdsFrames, lostToFormat } from "./abilities";
export { BriefError, MAX_BRIEF_TEXT } from "./error";
export {
  CLAUSE_KEYS,
  type ClauseKey,
  FORMATS,
  type OutputFormat,
  PAGE_FORMATS,
} from "./keys";
export { parseBrief, parseBriefText } from "./parse";
export { rebased } from "./rebased";
export {
  clauseNames,
  type FrameMode,
  limitsWhole,
  PIXEL_CLAUSES,
  type PixelClause,
  type PixelRange,
  type ResolvedBrief,
  resolveBrief,
  type View,
} from "./resolve";
export { SAMPLE_BATCH, SAMPLE_BRIEF } from "./sample";
export type { Brief } from "./schema";
export { starterBrief } from "./starter-brief";
export { STARTERS, type Starter } from "./starters";
export { notChecked, WISHES_GIVEN_UP, WRITABLE } from "./supported";
export { clauseWords, formatName, paperWords, pixelWords, within } from "./words";
