/**
 * ZIP packages, streamed: pictures are packed already, so they are only stored, and the size is known before
 * the first byte.
 */
import { PassThrough, type Readable } from "node:stream";
import { ZipFile } from "yazl";

export interface ZipEntry {
  /** With folders, parted by "/". */
  name: string;
  from: { path: string } | { bytes: Buffer };
}

export interface ZipStream {
  /** Of the whole package. */
  bytes: number;
  stream: Readable;
}

/** Times in the package are this one, so that the same files give the same package. */
const WHEN = new Date(2026, 0, 1);

/** ZIP64 where sizes or numbers ask for it. Rejects where a file is not there. */
export function zipOf(entries: readonly ZipEntry[]): Promise<ZipStream> {
  return new Promise((resolve, reject) => {
    const zip = new ZipFile();
    const stream = new PassThrough();
    let told = false;
    zip.on("error", (error: Error) => {
      // Before the size is told nobody reads the stream, so nobody would hear of it there.
      if (told) stream.destroy(error);
      else reject(error);
    });
    for (const { name, from } of entries) {
      const options = { compress: false, mtime: WHEN, mode: 0o100644 };
      if ("path" in from) zip.addFile(from.path, name, options);
      else zip.addBuffer(from.bytes, name, options);
    }
    zip.outputStream.pipe(stream);
    // The library hands over the size, which its types leave out.
    const end = zip.end.bind(zip) as (options: object, sized: (bytes: number) => void) => void;
    end({}, (bytes) => {
      told = true;
      resolve({ bytes, stream });
    });
  });
}
