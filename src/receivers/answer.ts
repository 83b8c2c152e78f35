/** What receivers answer. */
export interface Line {
  /** The document, file or message that it is about. */
  about: string;
  ok: boolean;
  words: string;
}

export interface Answer {
  accepted: boolean;
  /** One sentence. */
  words: string;
  lines: Line[];
  /** A number that the receiver gives out; null where it refuses. */
  receipt: string | null;
}

/** A file as it arrived: the receiver knows no more of it. */
export interface Received {
  /** The form's slot, or nothing. */
  slot: string | null;
  name: string;
  bytes: Buffer;
}
