/** Sets for pages, as the server tells them. */
import type { OutputFormat } from "@/core/brief";

/** One file of a set. */
export interface SetFileView {
  width: number;
  height: number;
  format: OutputFormat;
  /** Of the file, or about; null where nothing is known. */
  bytes: number | null;
  /** Null until it is measured. */
  difference: number | null;
  differenceAbout: boolean;
  /** How it is, or will be, called, with its folder. */
  name: string | null;
  /** Of the run that made it; null before. */
  itemId: string | null;
}
