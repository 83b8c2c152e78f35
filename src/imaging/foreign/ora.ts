/** OpenRaster packages: what they hold, bounded in number and size. */
import type { Entry, ZipFile } from "yauzl";
import { PhotoError } from "@/core/photo";
import { type Artwork, readStack } from "@/core/pixels/layers";

const MOST_ENTRIES = 2500;
/** Bytes that one layer may unpack to. */
const LARGEST = 512 * 1024 * 1024;

export interface OraPackage {
  artwork: Artwork;
  /** Bytes of each file as it lies in the package. */
  sizes: Map<string, number>;
  /** Throws a {@link PhotoError} where there is no such entry. */
  read(name: string): Promise<Buffer>;
  close(): void;
}

/** Throws a {@link PhotoError} or a container error with one sentence. */
export async function openOra(bytes: Buffer): Promise<OraPackage> {
  const refuse = (why: string) =>
    new PhotoError(`The OpenRaster file ${why}. Save it anew in the program it came from.`);
  const { fromBuffer } = await import("yauzl");
  const zip = await new Promise<ZipFile>((done, failed) =>
    fromBuffer(bytes, { lazyEntries: true, validateEntrySizes: true }, (error, file) =>
      error ? failed(refuse("is damaged: it is no whole package")) : done(file),
    ),
  );
  const entries = await new Promise<Map<string, Entry>>((done, failed) => {
    const found = new Map<string, Entry>();
    zip.on("entry", (entry: Entry) => {
      // Folders hold nothing themselves.
      if (!String(entry.fileName).endsWith("/")) found.set(String(entry.fileName), entry);
      if (found.size > MOST_ENTRIES) return failed(refuse(`holds more than ${MOST_ENTRIES} files`));
      zip.readEntry();
    });
    // Names that lead out of the package are refused by the reader.
    zip.on("error", () => failed(refuse("is damaged, or holds names that lead out of it")));
    zip.on("end", () => done(found));
    zip.readEntry();
  });
  const read = (name: string) => {
    const entry = entries.get(name);
    if (!entry) throw refuse(`lacks the layer "${name.slice(0, 80)}"`);
    if (entry.uncompressedSize > LARGEST)
      throw refuse(`holds a layer of ${Math.round(entry.uncompressedSize / 1e6)} MB`);
    return new Promise<Buffer>((done, failed) => {
      zip.openReadStream(entry, (error, stream) => {
        if (error) return failed(refuse(`is damaged at "${name.slice(0, 80)}"`));
        const pieces: Buffer[] = [];
        stream.on("data", (piece: Buffer) => pieces.push(piece));
        stream.on("error", () => failed(refuse(`is damaged at "${name.slice(0, 80)}"`)));
        stream.on("end", () => done(Buffer.concat(pieces)));
      });
    });
  };
  if (!entries.has("stack.xml")) throw refuse("does not say which layers it has");
  const artwork = readStack((await read("stack.xml")).toString("utf8"));
  return {
    artwork,
    sizes: new Map([...entries].map(([name, entry]) => [name, entry.compressedSize])),
    read,
    close: () => zip.close(),
  };
}
