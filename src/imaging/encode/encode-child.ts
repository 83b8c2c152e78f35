/**
 * The process that encodes one picture: the order as its argument, raw pixels on standard input, the
 * encoding on standard output.
 */

import { oneThreadEach } from "../workers";
import { encode } from "./encode";
import type { Order } from "./encode-aside";

oneThreadEach();
const order = JSON.parse(process.argv[2]) as Order;
const bytes = new Uint8Array(order.width * order.height * order.channels * (order.deep ? 2 : 1));
let at = 0;
for await (const piece of process.stdin as AsyncIterable<Buffer>) {
  bytes.set(piece, at);
  at += piece.length;
}
const encoded = await encode(
  { ...order, data: order.deep ? new Uint16Array(bytes.buffer) : bytes },
  order.setting,
  order.cmyk,
);
process.stdout.write(encoded, () => process.exit(0));
