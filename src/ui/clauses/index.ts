export { AddClauses, ChipButton, ChipPopover } from "./chip-button";
export { briefSummary, type Chip, chipOf, isWished, receiversWords, statedChips } from "./chips";
export { lateCheck } from "./late-check";
export { DisagreementList } from "./late-list";
export { messageOf } from "./message";
