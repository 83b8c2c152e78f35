/** Whose fault an error is: what the photo itself brings about stays with it, all else passes. */

/** Trouble of the machine, said in a sentence: a process that was ended from outside, no process to be had. */
export class MachineError extends Error {
  override name = "MachineError";
}

export type Trouble = "photo" | "disk" | "database" | "machine";

/** Errors that say what is wrong with the photo, or with what is asked of it; by name, since bundles have classes of their own. */
const OF_PHOTO: ReadonlySet<string> = new Set([
  "PhotoError",
  "ContainerError",
  "GeometryError",
  "InkError",
  "BriefError",
  "UnitError",
]);
const DISK: ReadonlySet<string> = new Set(["ENOSPC", "EDQUOT", "53100"]);
/** PostgreSQL's classes: connection, resources, somebody's intervention, transactions (appendix A of its manual). */
const DATABASE = /^(08|40|53|55|57|58)\d{3}$|^(40P01|57P0\d)$/;
const LINE: ReadonlySet<string> = new Set(["ECONNREFUSED", "ECONNRESET", "EPIPE", "ETIMEDOUT"]);

/** An error and what it came from. */
function* chain(error: unknown): Generator<Error & { code?: unknown }> {
  let current = error;
  for (let n = 0; n < 8 && current instanceof Error; n += 1) {
    yield current;
    current = current.cause;
  }
}

export function troubleOf(error: unknown): Trouble {
  let ofDatabase = false;
  for (const one of chain(error)) {
    if (OF_PHOTO.has(one.name)) return "photo";
    const code = typeof one.code === "string" ? one.code : "";
    // Bytes that are gone do not come back by waiting.
    if (code === "ENOENT") return "photo";
    if (DISK.has(code)) return "disk";
    ofDatabase ||=
      one.name === "DrizzleQueryError" ||
      DATABASE.test(code) ||
      LINE.has(code) ||
      /^Connection terminated|timeout exceeded when trying to connect/.test(one.message);
  }
  return ofDatabase ? "database" : "machine";
}

/** No space is left where it was to be written. */
export const isDiskFull = (error: unknown): boolean => troubleOf(error) === "disk";
