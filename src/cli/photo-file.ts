import { readFile, stat } from "node:fs/promises";
import { MAX_PIXELS } from "@/core/units";
import { CallError } from "./args";

/** The largest photo file that is read, in bytes. */
export const MAX_FILE_BYTES = 512 * 1024 * 1024;

/** Reads a photo's bytes, bounded. */
export async function readBounded(path: string): Promise<Buffer> {
  const { size } = await stat(path);
  if (size > MAX_FILE_BYTES)
    throw new CallError(
      `The file has ${Math.round(size / 1048576)} MiB; at most 512 MiB and ${MAX_PIXELS / 1e6} ` +
        "megapixels are taken.",
    );
  return readFile(path);
}
