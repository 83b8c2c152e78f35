/** Kinds of files that the colour library does not read, and what their decoders can be asked for. */

import type { LayerChoice, Lighter, RawTaking } from "@/core/photo";
import type { RgbName } from "@/core/pixels/colour";

/** What code values mean where they are not 8-bit sRGB or the file's own colours: linear light. */
export interface LinearLight {
  space: RgbName;
  /** Multiples of white that the highest code stands for. */
  peak: number;
  /** Multiples of white that the picture really reaches; 1 where nothing lies above white. */
  reach: number;
}

/** 8 or 16 bits a channel, upright. */
export interface ForeignPixels {
  data: Uint8Array | Uint16Array;
  width: number;
  height: number;
  channels: 3 | 4;
  /** Missing: in the colours that the facts say. */
  light?: LinearLight;
}

export type Foreign = "heif" | "ora" | "raw" | "svg";

/** What is asked of a decoder beside the picture itself. */
export interface Wish {
  raw?: RawTaking;
  /** Half as many pixels a side are enough. */
  half?: boolean;
  layers?: LayerChoice;
  lighter?: Lighter;
  /** Pixels that layered artwork or a drawing is to have; artwork has as many as it has where missing. */
  size?: { width: number; height: number };
}

export const isForeign = (kind: string | null): kind is Foreign =>
  kind === "heif" || kind === "ora" || kind === "raw" || kind === "svg";
