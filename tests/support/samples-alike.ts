/** Samples of pictures are held against each other as bytes: one by one, a megapixel takes seconds. */
import { expect } from "vitest";

const isSamples = (value: unknown): value is Uint8Array =>
  ArrayBuffer.isView(value) && !(value instanceof DataView);
const bytes = ({ buffer, byteOffset, byteLength }: Uint8Array) => Buffer.from(buffer, byteOffset, byteLength);

expect.addEqualityTesters([
  // What differs is left to the usual way, which tells where.
  (a, b) =>
    isSamples(a) && isSamples(b) && a.constructor === b.constructor && bytes(a).equals(bytes(b))
      ? true
      : undefined,
]);
