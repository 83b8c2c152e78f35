/**
 * What a receiver without a decoder of its own knows of a file: its kind and pixels, by a general-purpose
 * reader of headers.
 */
import { fileHead } from "@/imaging/shown";

export interface Head {
  kind: "jpeg" | "png" | "tiff" | "webp" | "pdf";
  /** Upright pixels. */
  width: number;
  height: number;
}

/** Null where the file is of no kind that can be shown or printed. */
export async function readHead(bytes: Buffer): Promise<Head | null> {
  const head = await fileHead(bytes);
  return head && ["jpeg", "png", "tiff", "webp", "pdf"].includes(head.kind) ? (head as Head) : null;
}
