export { CAN, heldBy, holdsColours, lostToFormat } from "./abilities";
export { BriefError, MAX_BRIEF_TEXT, parseBrief, parseBriefText } from "./parse";
export {
  clauseNames,
  type FrameMode,
  PIXEL_CLAUSES,
  type PixelClause,
  type PixelRange,
  type ResolvedBrief,
  resolveBrief,
  type View,
} from "./resolve";
export { type Brief, CLAUSE_KEYS, type ClauseKey, FORMATS, type OutputFormat } from "./schema";
export { STARTERS, type Starter, starterBrief } from "./starters";
export { notChecked, WISHES_GIVEN_UP, WRITABLE } from "./supported";
export { clauseWords, formatName, paperWords, pixelWords, within } from "./words";
