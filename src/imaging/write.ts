/** Puts bytes on disk so that a file is there whole or not at all, and never over another. */
import { randomBytes } from "node:crypto";
import { link, mkdir, open, unlink } from "node:fs/promises";
import { dirname, join } from "node:path";

async function writeTemporary(folder: string, bytes: Uint8Array): Promise<string> {
  const temporary = join(folder, `.zumbrel-${randomBytes(8).toString("hex")}.part`);
  const file = await open(temporary, "wx", 0o644);
  try {
    await file.writeFile(bytes);
    await file.sync();
  } catch (error) {
    await file.close();
    await unlink(temporary).catch(() => undefined);
    throw error;
  }
  await file.close();
  return temporary;
}

/** Writes a new file; throws EEXIST where one is there already. A full disk leaves nothing behind. */
export async function writeNewFile(path: string, bytes: Uint8Array): Promise<void> {
  const folder = dirname(path);
  await mkdir(folder, { recursive: true });
  const temporary = await writeTemporary(folder, bytes);
  try {
    // A link fails where the name is taken; renaming would replace.
    await link(temporary, path);
  } finally {
    await unlink(temporary).catch(() => undefined);
  }
}
