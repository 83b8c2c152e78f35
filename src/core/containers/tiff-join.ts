/** Several TIFFs of one page put together into one of several. Source: TIFF 6.0, section 2. */
import { concat, copyOf, view } from "./bytes";
import { directory, type ExifEntry } from "./exif";
import { readTiff } from "./tiff";

/** Where strips and tiles lie. */
const PLACES = new Set([273, 324]);

/** Each file as a page, in order. All have to be little-endian, as the colour library writes them. */
export function joinTiffs(files: readonly Uint8Array[]): Uint8Array {
  const head = new Uint8Array([0x49, 0x49, 42, 0, 0, 0, 0, 0]);
  const parts: Uint8Array[] = [head];
  let at = head.length;
  const nexts: { part: Uint8Array; at: number }[] = [{ part: head, at: 4 }];
  for (const file of files) {
    const { ifd0, littleEndian } = readTiff(file);
    if (!littleEndian) throw new RangeError("pages have to be little-endian");
    const base = at;
    const data = concat([file, new Uint8Array(file.length & 1)]);
    const entries = ifd0.map((entry) => (PLACES.has(entry.tag) ? moved(entry, base) : entry));
    at += data.length;
    const page = directory(entries, at, true);
    const before = nexts[nexts.length - 1];
    view(before.part).setUint32(before.at, at, true);
    nexts.push({ part: page, at: 2 + entries.length * 12 });
    parts.push(data, page);
    at += page.length;
    if (page.length & 1) {
      parts.push(new Uint8Array(1));
      at += 1;
    }
  }
  return concat(parts);
}

/** Places of 4 bytes each, moved by so many. */
function moved(entry: ExifEntry, by: number): ExifEntry {
  const wide = entry.type === 3;
  const count = entry.count;
  const value = new Uint8Array(count * 4);
  const from = view(copyOf(entry.value));
  for (let i = 0; i < count; i += 1)
    view(value).setUint32(
      i * 4,
      (wide ? from.getUint16(i * 2, true) : from.getUint32(i * 4, true)) + by,
      true,
    );
  return { ...entry, type: 4, value };
}
