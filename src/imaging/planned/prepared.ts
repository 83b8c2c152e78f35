/** The planned picture as samples. */
import type { KernelName } from "@/core/photo";
import type { ConversionReport } from "@/core/pixels/colour";
import type { Planned } from "@/core/pixels/develop";

export interface Prepared extends Planned {
  /** Null where nothing was resized. */
  kernel: KernelName | null;
  conversion: ConversionReport | null;
  /** Period in px of a dot screen in the photo that is about to be reduced; null where none was seen. */
  dotScreen: number | null;
}
