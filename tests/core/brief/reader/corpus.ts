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

export const kb = (min: number, max: number) => ({ min: `${min}KB`, max: `${max}KB` });
export const paper = (width: string, height: string) => ({ width, height });
export const jpeg = { format: ["jpeg"] };
export const png = { format: ["png"] };
export const pdf = { format: ["pdf"] };
export const webp = { format: ["webp"] };
export const tiff = { format: ["tiff"] };
export const max = (size: string) => ({ fileSize: { max: size } });
export const at = (ppi: number) => ({ resolution: { exact: `${ppi}ppi` } });
export const px = (width: number, height: number) => ({ width: { exact: width }, height: { exact: height } });
export const one = (clauses: Record<string, unknown>, wishes?: string[]): Stated[] => [{ clauses, wishes }];

/** Two documents, a wish and a contradiction in two sentences. */
export const BADGE =
  "For the warden's badge: your face as PNG or JPEG, 330 px wide by 420 px high if possible, weighing 30 to 90 KB, to be printed 28 mm × 35 mm. Consent slip: your mark in black pen on white, 200x90, not under 6 KB nor over 16 KB.";
