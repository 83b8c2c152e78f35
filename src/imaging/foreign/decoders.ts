/**
 * Decoders of foreign kinds, and what is asked of a file without decoding it; each runs in a process of its
 * own.
 */

import { heifPixels } from "./heif-pixels";
import type { Foreign, ForeignPixels, Wish } from "./kinds";
import { lightenOra } from "./ora-lighter";
import { oraPixels } from "./ora-pixels";
import { rawFacts, rawPixels } from "./raw-pixels";
import { svgPixels } from "./svg-pixels";
import { lightenTiff } from "./tiff-lighter";

export const DECODERS: Record<Foreign, (bytes: Buffer, wish: Wish) => Promise<ForeignPixels>> = {
  heif: heifPixels,
  ora: oraPixels,
  raw: rawPixels,
  svg: svgPixels,
};

/** What can be known only by a decoder's own reader. */
export const READERS = { raw: rawFacts };
export type Reading = keyof typeof READERS;

/** Files of layers or pages made lighter without flattening them. */
export const LIGHTENERS = { ora: lightenOra, tiff: lightenTiff };
export type Layered = keyof typeof LIGHTENERS;
