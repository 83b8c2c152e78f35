/** Apart, so that its script is loaded when a brief is checked. */
import { type Brief, parseBrief } from "@/core/brief";

/** Checks typed clauses as a brief file would be. Throws a BriefError, whose message is a whole sentence. */
export const checkClauses = (brief: Brief): void => void parseBrief(brief);
