/** GIF: only what filling up needs. Source: GIF89a specification, section 24 (comment extension). */
import { concat } from "./bytes";

/**
 * The file with a comment before its trailer, at or just above `target` bytes: blocks of up to 255 bytes
 * with a length byte each.
 */
export function padGif(bytes: Uint8Array, target: number): Uint8Array {
  const missing = target - bytes.length;
  if (missing <= 0) return bytes;
  let left = Math.max(1, missing - 3);
  const blocks: Uint8Array[] = [];
  while (left > 0) {
    const size = Math.max(1, Math.min(255, left - 1));
    blocks.push(new Uint8Array([size]), new Uint8Array(size).fill(0x20));
    left -= size + 1;
  }
  const end = bytes.lastIndexOf(0x3b);
  return concat([
    bytes.subarray(0, end),
    new Uint8Array([0x21, 0xfe]),
    ...blocks,
    new Uint8Array([0]),
    bytes.subarray(end),
  ]);
}
