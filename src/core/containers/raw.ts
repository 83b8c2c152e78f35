/**
 * Telling a camera's raw file that is built like a TIFF from a TIFF. Sources: TIFF 6.0, section 2; TIFF/EP
 * (ISO 12234-2); DNG 1.4.
 */
import { view } from "./bytes";

const SUB_IFDS = 330;
const PHOTOMETRIC = 262;
const DNG_VERSION = 50_706;
/** A mosaic of sensor colours, and sensor values that are no mosaic any more. */
const SENSOR = new Set([32_803, 34_892]);
const MOST_DIRECTORIES = 40;
const MOST_ENTRIES = 2000;

/** True where one of the first directories, or of those below them, holds sensor values. Never throws. */
export function isRawTiff(bytes: Uint8Array): boolean {
  if (bytes.length < 16) return false;
  const le = bytes[0] === 0x49;
  const data = view(bytes);
  if (data.getUint16(2, le) !== 42) return false;
  const waiting = [data.getUint32(4, le)];
  const seen = new Set<number>();
  for (let at = waiting.shift(); at !== undefined && seen.size < MOST_DIRECTORIES; at = waiting.shift()) {
    if (at === 0 || seen.has(at) || at + 2 > bytes.length) continue;
    seen.add(at);
    const count = data.getUint16(at, le);
    const end = at + 2 + count * 12;
    if (count > MOST_ENTRIES || end > bytes.length) continue;
    for (let p = at + 2; p < end; p += 12) {
      const [tag, type, number] = [
        data.getUint16(p, le),
        data.getUint16(p + 2, le),
        data.getUint32(p + 4, le),
      ];
      if (tag === DNG_VERSION) return true;
      if (
        tag === PHOTOMETRIC &&
        SENSOR.has(type === 3 ? data.getUint16(p + 8, le) : data.getUint32(p + 8, le))
      )
        return true;
      if (tag === SUB_IFDS && number <= MOST_DIRECTORIES) {
        const from = number === 1 ? p + 8 : data.getUint32(p + 8, le);
        for (let i = 0; i < number && from + i * 4 + 4 <= bytes.length; i += 1)
          waiting.push(data.getUint32(from + i * 4, le));
      }
    }
    if (end + 4 <= bytes.length) waiting.push(data.getUint32(end, le));
  }
  return false;
}
