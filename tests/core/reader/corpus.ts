/** What a receiver's wording states: one entry a brief, clauses as in a brief file. */
export interface Wording {
  text: string;
  briefs: Stated[];
  /** Parts of sentences that only a person can check. */
  onlyYou?: string[];
  /** Parts of the text that have to be returned as not understood. */
  unread?: string[];
}

export interface Stated {
  name?: string;
  clauses: Record<string, unknown>;
  wishes?: string[];
}

export const px = (width: number, height: number) => ({ width: { exact: width }, height: { exact: height } });
export const one = (clauses: Record<string, unknown>, wishes?: string[]): Stated[] => [{ clauses, wishes }];
