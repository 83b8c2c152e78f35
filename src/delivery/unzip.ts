/**
 * Pictures out of a ZIP that came from anywhere: bounded in number, size and ratio; what is not safe is
 * refused by entry.
 */
import { pipeline, type Readable, Transform } from "node:stream";
import { type Entry, getFileNameLowLevel, open, validateFileName, type ZipFile } from "yauzl";
import { safeFolder } from "@/core/plan/names";

/** Entries that are looked at in one package. */
export const MOST_ENTRIES = 2000;
/** An entry may unpack to so many times its packed size; above a megabyte that is no picture. */
const MOST_RATIO = 200;
const SMALL = 1024 * 1024;
/** Bytes that a package may unpack to. */
const MOST_BYTES = 32 * 1024 ** 3;

export interface Refused {
  name: string;
  why: string;
}

export interface UnzipTask {
  path: string;
  /** The largest entry, in bytes. */
  entryLimit: number;
  /** Takes one picture; what it throws is the reason why the entry is refused. */
  take: (file: { name: string; folder: string; stream: Readable }) => Promise<void>;
  /** The sentence for an error. */
  words: (error: unknown) => string;
}

/** What file managers put in beside the pictures. */
const JUNK = /(^|\/)(__MACOSX\/|\.(?!\.?\/)|thumbs\.db$|desktop\.ini$)/i;
const SYMLINK = 0o120000;
const KIND = 0o170000;

/** Every picture of the package goes to `take`, one after the other. Throws where it is no ZIP at all. */
export async function unzip(task: UnzipTask): Promise<Refused[]> {
  const zip = await opened(task.path);
  const refused: Refused[] = [];
  let count = 0;
  let bytes = 0;
  try {
    for await (const entry of entries(zip)) {
      const name = nameOf(entry);
      if (name.endsWith("/") || JUNK.test(name)) continue;
      count += 1;
      const why =
        count > MOST_ENTRIES
          ? `A ZIP is taken up to ${MOST_ENTRIES} files; this is one more. Pack it into several.`
          : danger(entry, name, task.entryLimit, bytes);
      if (why) {
        refused.push({ name, why });
        continue;
      }
      bytes += entry.uncompressedSize;
      try {
        const stream = await streamOf(zip, entry);
        const parts = name.split("/");
        await task.take({
          name: parts.pop()!,
          folder: safeFolder(parts.join("/")),
          stream: atMost(stream, entry.uncompressedSize),
        });
      } catch (error) {
        refused.push({ name, why: task.words(error) });
      }
    }
  } catch {
    refused.push({
      name: "the rest of the package",
      why: "Its list of files is damaged from here on. Pack it again.",
    });
  } finally {
    zip.close();
  }
  return refused;
}

function danger(entry: Entry, name: string, limit: number, before: number): string | null {
  if (validateFileName(name) !== null)
    return "Its path leads out of the package. Pack it again without such paths.";
  if (((entry.externalFileAttributes >>> 16) & KIND) === SYMLINK)
    return "It is a link, not a file. Pack the file itself.";
  if (entry.generalPurposeBitFlag & 1) return "It is encrypted. Pack it without a password.";
  if (entry.uncompressedSize > limit)
    return (
      `It unpacks to ${Math.round(entry.uncompressedSize / 1048576)} MiB, at most ` +
      `${Math.round(limit / 1048576)} MiB are taken.`
    );
  if (entry.uncompressedSize > SMALL && entry.uncompressedSize > entry.compressedSize * MOST_RATIO)
    return (
      `It unpacks to ${Math.round(entry.uncompressedSize / Math.max(1, entry.compressedSize))} times ` +
      "its size, which no picture does."
    );
  if (before + entry.uncompressedSize > MOST_BYTES)
    return "The package unpacks to more than 32 GiB. Pack it into several.";
  return null;
}

/** Names are decoded here: the library gives a whole package up at the first one that it does not like. */
function nameOf(entry: Entry): string {
  const raw = entry.fileName as unknown as Buffer;
  return getFileNameLowLevel(entry.generalPurposeBitFlag, raw, entry.extraFields, true);
}

function opened(path: string): Promise<ZipFile> {
  return new Promise((resolve, reject) => {
    // Sizes are held against the bytes here, by entry: the library would give up the whole package at the
    // first that disagree.
    open(
      path,
      { lazyEntries: true, decodeStrings: false, autoClose: false, validateEntrySizes: false },
      (error, zip) =>
        error
          ? reject(
              Object.assign(
                new Error(
                  "This ZIP is damaged, or it is none: its list of files cannot be read. Pack it again.",
                ),
                { name: "PhotoError" },
              ),
            )
          : resolve(zip),
    );
  });
}

async function* entries(zip: ZipFile): AsyncGenerator<Entry> {
  for (;;) {
    const entry = await new Promise<Entry | null>((resolve, reject) => {
      const done = (value: Entry | null, error?: Error) => {
        zip.removeAllListeners("entry").removeAllListeners("end").removeAllListeners("error");
        if (error) reject(error);
        else resolve(value);
      };
      zip.once("entry", (one: Entry) => done(one));
      zip.once("end", () => done(null));
      zip.once("error", (error: Error) => done(null, error));
      zip.readEntry();
    });
    if (!entry) return;
    yield entry;
  }
}

/** Breaks off where an entry unpacks to more than the package said. */
function atMost(stream: Readable, bytes: number): Readable {
  let left = bytes;
  const counted = new Transform({
    transform(piece: Buffer, _encoding, done) {
      left -= piece.length;
      if (left < 0)
        done(
          Object.assign(new Error("It unpacks to more than the package says. Pack it again."), {
            name: "PhotoError",
          }),
        );
      else done(null, piece);
    },
  });
  // An error on either side ends both; whoever reads hears of it.
  pipeline(stream, counted, () => undefined);
  return counted;
}

const streamOf = (zip: ZipFile, entry: Entry): Promise<Readable> =>
  new Promise((resolve, reject) =>
    zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream))),
  );
