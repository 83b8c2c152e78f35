/** The process that packs one PNG tighter: a file on standard input, a file on standard output. */
import { tightPng } from "./tight-png";

const pieces: Buffer[] = [];
for await (const piece of process.stdin as AsyncIterable<Buffer>) pieces.push(piece);
const packed = await tightPng(Buffer.concat(pieces));
process.stdout.write(packed, () => process.exit(0));
