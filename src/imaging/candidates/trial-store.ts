import type { Setting } from "@/core/coding";
import type { KernelName } from "@/core/photo";
import type { ConversionReport } from "@/core/pixels/colour";
import type { Judged } from "../workers";

/** What is known of a planned picture without making it again. */
export interface PictureLook {
  /** See `Picture`. */
  flat: boolean;
  kernel: KernelName | null;
  conversion: ConversionReport | null;
  /** Period in px of a dot screen in the photo. */
  dotScreen: number | null;
}

/** Remembers trials across runs. Bytes are those of the bare encoding, without headers. */
export interface TrialStore {
  /** Null where the picture was never made. */
  look(pictureKey: string): Promise<PictureLook | null>;
  keepLook(pictureKey: string, look: PictureLook): Promise<void>;
  /**
   * Size in bytes of a trial and what is seen of it, where that was looked at; null where it was never made.
   */
  find(pictureKey: string, settingKey: string): Promise<{ bytes: number; judged: Judged | null } | null>;
  read(pictureKey: string, settingKey: string): Promise<Buffer | null>;
  /** `ms`: how long the encode took. */
  keep(pictureKey: string, setting: Setting, encoded: Uint8Array, ms: number): Promise<void>;
  judge(pictureKey: string, settingKey: string, judged: Judged): Promise<void>;
}
