/** Files and folders on the command line, in the order given; folders in name order. */
import { lstat, readdir, realpath, stat } from "node:fs/promises";
import { join } from "node:path";
import { namesPhoto } from "@/core/plan/names";

export interface SourcePath {
  /** As it was given, or below the folder that was given. */
  source: string;
  /** Folder below the output folder: "x" for the folder a with a/x/b.jpg. */
  folder: string;
  error: string | null;
}

/**
 * Folders give the files in them whose ending means a picture; files are taken whatever their name.
 * The output folder is no source, also when it lies inside a folder that is given.
 */
export async function listSources(paths: readonly string[], outputFolder: string): Promise<SourcePath[]> {
  const out: SourcePath[] = [];
  const skip = await realpath(outputFolder).catch(() => null);
  for (const path of paths) {
    const found = await stat(path).catch(() => null);
    if (!found)
      out.push({ source: path, folder: "", error: `There is no file or folder "${path}". Check the path.` });
    else if (found.isDirectory()) await walk(path, "", out, skip);
    else if (found.isFile()) out.push({ source: path, folder: "", error: null });
    else out.push({ source: path, folder: "", error: `"${path}" is neither a file nor a folder.` });
  }
  return out;
}

async function walk(folder: string, below: string, out: SourcePath[], skip: string | null): Promise<void> {
  if (below !== "" && (await realpath(folder)) === skip) return;
  const names = (await readdir(folder)).sort((a, b) => (a < b ? -1 : a > b ? 1 : 0));
  for (const name of names) {
    if (name.startsWith(".")) continue;
    const path = join(folder, name);
    // Links could lead in circles or out of the folder.
    const found = await lstat(path).catch(() => null);
    if (found?.isDirectory()) await walk(path, join(below, name), out, skip);
    else if (found?.isFile() && namesPhoto(name)) out.push({ source: path, folder: below, error: null });
  }
}
