/** What people are told of an error: one sentence, without internals. */

import { isDiskFull, troubleOf } from "@/core/photo";

/** Errors whose message is a sentence for people already; by name, since bundles have classes of their own. */
const OURS = new Set([
  "PhotoError",
  "ContainerError",
  "GeometryError",
  "SheetError",
  "CallError",
  "MachineError",
]);

/** The sentence for any error that a photo can cause; what is not ours is told without internals. */
export function sentence(error: unknown): string {
  if (error instanceof Error && OURS.has(error.name)) return error.message;
  const code = (error as NodeJS.ErrnoException | null)?.code;
  if (isDiskFull(error)) return "The disk is full, so nothing was written. Free some space and try again.";
  if (troubleOf(error) === "database")
    return "The database did not answer; nothing is wrong with the photo. Try again.";
  if (code === "EACCES" || code === "EPERM")
    return "This may not be read or written here. Check the permissions of the file and its folder.";
  if (code === "ENOENT") return "There is no such file. Check the path.";
  if (code === "EISDIR") return "This is a folder, a file was expected.";
  if (error instanceof Error) return `The picture could not be processed: ${error.message.split("\n")[0]}.`;
  return "The picture could not be processed.";
}
