/** What a person sets for ink. */
export interface InkSettings {
  /** 0 takes only what is surely ink, 100 everything that may be; 50 lies half way between paper and ink. */
  strength: number;
  /** White around the ink, in percent of its longer side. */
  margin: number;
}

export const DEFAULT_INK: InkSettings = { strength: 50, margin: 6 };
