/** The largest brief file that is read, in bytes of text. */
export const MAX_BRIEF_TEXT = 1_000_000;

/** What is wrong with a brief; the message is a whole sentence. */
export class BriefError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "BriefError";
  }
}
