export type { Answer, Line, Received } from "./answer";
export { judgeForm } from "./form";
export { readHead } from "./head";
export { type Delivered, type Mailbox, openMailbox } from "./mailbox";
export { effectivePpi, judgePrint } from "./print";
export {
  type FileType,
  type FormRules,
  type MailboxRules,
  type Mood,
  RECEIVERS,
  type Rules,
  rulesSchema,
  type Slot,
  TYPE_NAMES,
} from "./rules";
export { judgeWall, shownAt } from "./wall";
export { slotWording, wordingOf } from "./wording";
