export { AddClauses, ChipButton, ChipPopover } from "./chip-button";
export { briefSummary, type Chip, chipOf, isWished, receiversWords, statedChips } from "./chips";
export { DisagreementList } from "./disagreement-list";
export { lateCheck } from "./late-check";
export { messageOf } from "./message";
