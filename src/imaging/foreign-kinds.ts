/** Kinds of files that the colour library does not read. */

/** 8 bits a channel, upright. */
export interface ForeignPixels {
  data: Uint8Array;
  width: number;
  height: number;
  channels: 3 | 4;
}

export type Foreign = "heif" | "ora";

export const isForeign = (kind: string | null): kind is Foreign => kind === "heif" || kind === "ora";
