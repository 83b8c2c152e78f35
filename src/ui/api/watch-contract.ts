/** What the server tells of watched folders. */

/** A folder that is watched. */
export interface WatchView {
  id: string;
  folder: string;
  out: string;
  /** The name of its brief. */
  brief: string;
  /** Files that are ready, and photos that wait for a person. */
  ready: number;
  needsYou: number;
  /** What it said last; empty at first. */
  said: string;
  /** Why it does not run. */
  problem: string | null;
}

export interface WatchesView {
  /** Folders that may be watched, and that files may be put into. */
  watchRoots: string[];
  outRoots: string[];
  watches: WatchView[];
}
