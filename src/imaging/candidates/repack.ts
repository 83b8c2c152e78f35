/**
 * The coefficients of a JPEG as they are, packed again with Huffman tables of their own and in progressive
 * order: nothing of
 * the picture changes. Done by jpegtran (Debian's libjpeg-turbo-progs), where it is installed.
 */
import { pipeThrough } from "../workers";

/** Null where jpegtran is missing or does not take the file. Headers stay. */
export async function repackJpeg(bytes: Uint8Array, signal?: AbortSignal): Promise<Uint8Array | null> {
  const ended = await pipeThrough("jpegtran", ["-copy", "all", "-optimize", "-progressive"], bytes, signal);
  return ended?.code === 0 && ended.out.length ? ended.out : null;
}
