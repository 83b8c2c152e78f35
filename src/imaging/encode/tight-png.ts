/**
 * A PNG packed as tightly as it can be without loss: every way of filtering is tried, and the best is packed by an
 * exhaustive search of deflate streams (Zopfli).
 */

import { promisify } from "node:util";
import { deflate as deflateBack, inflate as inflateBack } from "node:zlib";
import { FILTER_WAYS, filtered, unfiltered } from "@/core/coding";
import { chunk, chunkBody, concat, readPng, view } from "@/core/containers";

const [deflate, inflate] = [promisify(deflateBack), promisify(inflateBack)];
/** Passes of the search: the first few find nearly all. */
const PASSES = 8;
const SAMPLES: Record<number, number> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };

/** `usual`: a PNG that is not interlaced. */
export async function tightPng(usual: Uint8Array): Promise<Uint8Array> {
  const file = readPng(usual);
  const bodies = (type: string) =>
    file.chunks.filter((one) => one.type === type).map((one) => chunkBody(file, one));
  const head = bodies("IHDR")[0];
  const [width, depth, kind] = [view(head).getUint32(0), head[8], head[9]];
  const bits = SAMPLES[kind] * depth;
  const [stride, pixel] = [Math.ceil((width * bits) / 8), Math.max(1, bits >> 3)];
  const usualRows = await inflate(concat(bodies("IDAT")));
  const samples = unfiltered({ data: usualRows, stride, pixel });
  let [best, least] = [usualRows as Uint8Array, Infinity];
  // Filters of palettes and of less than a byte seldom help (PNG, 12.7), but are tried like the others.
  for (const way of FILTER_WAYS) {
    const rows = filtered(samples, stride, pixel, way);
    const { length } = await deflate(rows, { level: 9, memLevel: 9 });
    if (length < least) [best, least] = [rows, length];
  }
  // A hundred kilobytes that only this needs.
  const { default: zopfli } = await import("@gfx/zopfli");
  const packed = chunk("IDAT", await zopfli.zlibAsync(best, { numiterations: PASSES }));
  const data = file.chunks.filter(({ type }) => type === "IDAT");
  return concat([usual.subarray(0, data[0].start), packed, usual.subarray(data.at(-1)!.end)]);
}
