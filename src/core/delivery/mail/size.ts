/**
 * How large files become inside a message: RFC 2045, section 6.8 (base64 in lines of at most 76 characters,
 * ended by CRLF).
 */

const LINE = 76;
/**
 * The last line of a body needs no line break of its own; the one before the next boundary belongs to that
 * (RFC 2046, section 5.1.1).
 */
const BREAK = 2;

/** Bytes of a file of `bytes` bytes once it is encoded, line breaks included. */
export function base64Bytes(bytes: number): number {
  const characters = 4 * Math.ceil(bytes / 3);
  return characters + BREAK * Math.max(0, Math.ceil(characters / LINE) - 1);
}

/** The largest file, in bytes, that takes at most `encoded` bytes in a message. */
export function fileBytesWithin(encoded: number): number {
  let [low, high] = [0, Math.max(0, encoded)];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (base64Bytes(middle) <= encoded) low = middle;
    else high = middle - 1;
  }
  return low;
}

/**
 * Seconds that `bytes` take over a line of `megabits` a second (10^6 bits), without whatever else the line
 * carries.
 */
export const sendSeconds = (bytes: number, megabits: number): number => (bytes * 8) / (megabits * 1e6);

/** "8 s", "3 min", "1 h 20 min": rounded up, since nothing ends earlier than it does. */
export function secondsWords(seconds: number): string {
  if (seconds < 1) return "under a second";
  if (seconds < 90) return `${Math.ceil(seconds)} s`;
  const minutes = Math.ceil(seconds / 60);
  if (minutes < 60) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h${minutes % 60 ? ` ${minutes % 60} min` : ""}`;
}
