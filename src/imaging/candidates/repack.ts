/**
 * The levels of a JPEG as they are, in the order and with the Huffman tables that take least: nothing of the picture
 * changes. Headers stay.
 */
import { packAside } from "../workers";

/** Null where it is of a kind that is left alone, damaged, or not smaller than it was. */
export async function repackJpeg(bytes: Uint8Array, signal?: AbortSignal): Promise<Uint8Array | null> {
  signal?.throwIfAborted();
  const packed = await packAside(bytes);
  return packed && packed.length < bytes.length ? packed : null;
}
