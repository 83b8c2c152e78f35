/** Boxes of the ISO base media file format (ISO/IEC 14496-12, 4.2), read and written. */
import { ascii, concat, latin1, view } from "./bytes";
import { ContainerError } from "./error";

export interface Box {
  type: string;
  start: number;
  /** Where its content begins. */
  body: number;
  end: number;
}

/** The boxes that lie one after the other from `from` to `to`. */
export function boxes(bytes: Uint8Array, from: number, to: number): Box[] {
  const data = view(bytes);
  const out: Box[] = [];
  for (let at = from; at + 8 <= to; ) {
    let size = data.getUint32(at);
    let body = at + 8;
    if (size === 1 && at + 16 <= to) {
      size = Number(data.getBigUint64(at + 8));
      body = at + 16;
    } else if (size === 0) size = to - at;
    if (size < body - at || at + size > to)
      throw new ContainerError(
        "The AVIF is damaged or cut short: one of its boxes reaches beyond its end. Bring in a sound copy.",
      );
    out.push({ type: latin1(bytes.subarray(at + 4, at + 8)), start: at, body, end: at + size });
    at += size;
  }
  return out;
}

export const uint = (value: number, size: 2 | 4): Uint8Array => {
  const out = new Uint8Array(size);
  if (size === 2) view(out).setUint16(0, value);
  else view(out).setUint32(0, value);
  return out;
};

export const box = (type: string, ...parts: Uint8Array[]): Uint8Array => {
  const body = concat(parts);
  return concat([uint(body.length + 8, 4), ascii(type), body]);
};
