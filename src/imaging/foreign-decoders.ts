/** Decoders of foreign kinds; each runs in a process of its own. */
import type { Foreign, ForeignPixels } from "./foreign-kinds";
import { heifPixels } from "./heif-pixels";
import { oraPixels } from "./ora-pixels";

export const DECODERS: Record<Foreign, (bytes: Buffer) => Promise<ForeignPixels>> = { heif: heifPixels, ora: oraPixels };
