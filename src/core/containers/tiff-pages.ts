/**
 * The pages of a TIFF: a chain of directories. Sources: TIFF 6.0, section 2; the variant with 64-bit offsets
 * as libtiff describes it.
 */
import { view } from "./bytes";
import { ContainerError } from "./error";

export interface TiffPage {
  width: number;
  height: number;
  /** Bytes of its strips or tiles. */
  bytes: number;
  /** 1 for none; 5 LZW, 8 and 32946 Deflate, 7 JPEG … */
  compression: number;
  /** A smaller copy of another page (NewSubfileType, bit 0). */
  reduced: boolean;
}

const MOST_PAGES = 10_000;
/** Equal strips may be stored once; more than this no writer saves in that way. */
const MOST_SHARED = 4;
const SIZES = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8, 4, 0, 0, 8, 8, 8];
const [SUBFILE, WIDTH, HEIGHT, COMPRESSION, STRIP_BYTES, TILE_BYTES] = [254, 256, 257, 259, 279, 325];

const damaged = (why: string) => new ContainerError(`The TIFF is damaged: ${why}. Bring in a sound copy.`);

/**
 * Throws {@link ContainerError} where the chain leads out of the file, goes round in a circle or does not
 * end.
 */
export function tiffPages(bytes: Uint8Array): TiffPage[] {
  const le = bytes[0] === 0x49;
  const data = view(bytes);
  if (bytes.length < 16) throw damaged("it is cut short");
  const big = data.getUint16(2, le) === 43;
  const offset = (at: number) => (big ? Number(data.getBigUint64(at, le)) : data.getUint32(at, le));
  const pages: TiffPage[] = [];
  const seen = new Set<number>();
  let at = offset(big ? 8 : 4);
  while (at !== 0) {
    if (seen.has(at)) throw damaged("its pages go round in a circle");
    if (pages.length >= MOST_PAGES) throw damaged(`it has more than ${MOST_PAGES} pages`);
    seen.add(at);
    const [head, row] = big ? [8, 20] : [2, 12];
    if (at + head > bytes.length) throw damaged("one of its pages lies outside of the file");
    const count = big ? Number(data.getBigUint64(at, le)) : data.getUint16(at, le);
    const end = at + head + count * row;
    if (end + (big ? 8 : 4) > bytes.length) throw damaged("one of its pages lies outside of the file");
    const page: TiffPage = { width: 0, height: 0, bytes: 0, compression: 1, reduced: false };
    for (let p = at + head; p < end; p += row) {
      const values = () => valuesAt(data, p, big, le);
      const tag = data.getUint16(p, le);
      if (tag === SUBFILE) page.reduced = ((values()[0] ?? 0) & 1) === 1;
      else if (tag === WIDTH) page.width = values()[0] ?? 0;
      else if (tag === HEIGHT) page.height = values()[0] ?? 0;
      else if (tag === COMPRESSION) page.compression = values()[0] ?? 1;
      else if (tag === STRIP_BYTES || tag === TILE_BYTES)
        page.bytes = values().reduce((sum, v) => sum + v, 0);
    }
    if (page.bytes > bytes.length * MOST_SHARED) throw damaged("its strips lie over each other");
    pages.push(page);
    at = offset(end);
  }
  return pages;
}

/** The whole numbers of an entry; empty where they lie outside of the file. */
function valuesAt(data: DataView, p: number, big: boolean, le: boolean): number[] {
  const type = data.getUint16(p + 2, le);
  const count = big ? Number(data.getBigUint64(p + 4, le)) : data.getUint32(p + 4, le);
  const size = SIZES[type] ?? 0;
  const [place, room] = big ? [p + 12, 8] : [p + 8, 4];
  const from =
    count * size <= room ? place : big ? Number(data.getBigUint64(place, le)) : data.getUint32(place, le);
  if (size === 0 || from + count * size > data.byteLength) return [];
  const read = (at: number) =>
    size === 2
      ? data.getUint16(at, le)
      : size === 4
        ? data.getUint32(at, le)
        : size === 8
          ? Number(data.getBigUint64(at, le))
          : data.getUint8(at);
  return Array.from({ length: count }, (_, i) => read(from + i * size));
}
