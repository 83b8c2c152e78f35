/** Apart, so that its script is loaded when a brief is checked. */
import { type Brief, parseBrief } from "@/core/brief";

/** Throws a BriefError, whose message is a whole sentence. */
export const checkBrief = (brief: Brief): void => void parseBrief(brief);
