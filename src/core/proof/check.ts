import type { ClauseKey } from "../brief";

/** A clause that is asked, and what was found of it. */
export interface Check {
  clause: ClauseKey;
  asked: string;
  found: string;
  /** Null where the clause gave way to a stronger one, or cannot be told from the file alone. */
  ok: boolean | null;
  gaveWay: boolean;
}
