/** Puts bytes on disk so that a file is there whole or not at all, and never over another. */
import { randomBytes } from "node:crypto";
import { constants } from "node:fs";
import { copyFile, link, mkdir, open, realpath, unlink } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import { PhotoError } from "@/core/photo";
import { freeName } from "@/core/plan/names";

const temporaryName = (): string => `.zumbrel-${randomBytes(8).toString("hex")}.part`;

/** Whether a file was being written: one that stays so was left behind by a kill. */
export const isTemporary = (name: string): boolean => /^\.zumbrel-[0-9a-f]{16}\.part$/.test(name);

async function writeTemporary(folder: string, bytes: Uint8Array): Promise<string> {
  const temporary = join(folder, temporaryName());
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

/**
 * Fills a temporary file, then gives it the name, or name-2, name-3 … where that is taken. The path that it
 * got; a file is there whole or not at all.
 */
export async function putAs(
  folder: string,
  name: string,
  fill: (temporary: string) => Promise<void>,
): Promise<string> {
  const temporary = join(folder, temporaryName());
  try {
    await fill(temporary);
    const tried = new Set<string>();
    for (;;) {
      const path = join(
        folder,
        freeName(name, (one) => tried.has(one)),
      );
      try {
        // A link fails where the name is taken; renaming would replace.
        await link(temporary, path);
        return path;
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== "EEXIST") throw error;
        tried.add(basename(path));
      }
    }
  } finally {
    await unlink(temporary).catch(() => undefined);
  }
}

/** Copies a file below a folder, and never out of it, whatever links lie there. The path that it got. */
export async function putInto(root: string, path: string, from: string): Promise<string> {
  const parts = path.split("/");
  const name = parts.pop()!;
  let folder = root;
  for (const part of parts) {
    folder = join(folder, part);
    // Looked at before anything is made below it.
    await mkdir(folder).catch((error: NodeJS.ErrnoException) => {
      if (error.code !== "EEXIST") throw error;
    });
    if ((await realpath(folder)) !== folder)
      throw new PhotoError(
        `The folder "${parts.join("/")}" leads out of the one that was allowed. Choose another.`,
      );
  }
  return putAs(folder, name, async (temporary) => {
    await copyFile(from, temporary, constants.COPYFILE_EXCL);
    const file = await open(temporary, "r+");
    await file.sync();
    await file.close();
  });
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

export type Announce = (path: string, bytes: Uint8Array) => Promise<void>;

/**
 * Writes a new file under the first name that is free on disk. `pathFor`: asked again with the names that were refused.
 * `announce`: told of each path before it is tried. The path that it got.
 */
export async function writeFree(
  bytes: Uint8Array,
  pathFor: (refused: ReadonlySet<string>) => string,
  announce?: Announce,
): Promise<string> {
  const refused = new Set<string>();
  for (;;) {
    const path = pathFor(refused);
    try {
      await announce?.(path, bytes);
      await writeNewFile(path, bytes);
      return path;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "EEXIST") throw error;
      refused.add(basename(path));
    }
  }
}

/** The same in one folder: name, or name-2, name-3 … */
export const writeIn = (
  folder: string,
  name: string,
  bytes: Uint8Array,
  announce?: Announce,
): Promise<string> =>
  writeFree(
    bytes,
    (refused) =>
      join(
        folder,
        freeName(name, (one) => refused.has(one)),
      ),
    announce,
  );
