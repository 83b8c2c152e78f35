import type { Brief } from "@/core/brief";
import type { Frame } from "@/core/photo";
import type { InkReport } from "@/core/pixels/ink";
import type { Source } from "../source";

export interface Staged {
  source: Source;
  frame: Frame;
  /** Of the source that the planned picture is made from; undefined where it has to be worked out. */
  sha256?: string;
  ink: InkReport | null;
}

export interface StageRequest {
  source: Source;
  brief: Brief;
  frame: Frame;
  sha256?: string;
}
