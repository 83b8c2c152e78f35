/** Decoding files of foreign kinds in a process of their own, which may die without taking anything with it. */
import { existsSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { formatName } from "@/core/brief";
import { pipeThrough } from "./child";
import { PhotoError } from "./error";
import type { Foreign, ForeignPixels } from "./foreign-kinds";

const CHILD = [dirname(fileURLToPath(import.meta.url)), join(process.cwd(), ".build")].map((folder) => join(folder, "foreign-child.mjs")).find((path) => existsSync(path));
/** The most pixels that are decoded: the process takes ten to thirty bytes a pixel. */
export const MOST_FOREIGN_PIXELS: Record<Foreign, number> = { heif: 120_000_000, ora: 40_000_000 };
/** A picture that takes longer is given up, in milliseconds. */
const PATIENCE_MS = 120_000;

/** Pictures decoded already, as long as their bytes are held: one photo is worked on in several steps. */
const known = new WeakMap<Buffer, Promise<ForeignPixels>>();

/** Throws a {@link PhotoError} where it cannot be decoded. */
export function decodeForeign(kind: Foreign, bytes: Buffer): Promise<ForeignPixels> {
  let pixels = known.get(bytes);
  if (!pixels) known.set(bytes, (pixels = decoded(kind, bytes)));
  pixels.catch(() => known.delete(bytes));
  return pixels;
}

async function decoded(kind: Foreign, bytes: Buffer): Promise<ForeignPixels> {
  const refuse = (why: string) => new PhotoError(`The ${formatName(kind)} cannot be decoded: ${why.replace(/[.]$/, "")}. Bring in a sound copy, or save it as JPEG or PNG where it came from.`);
  if (!CHILD) {
    const { DECODERS } = await import("./foreign-decoders");
    return DECODERS[kind](bytes).catch((error: Error) => {
      throw refuse(error.message);
    });
  }
  const start = Date.now();
  const ended = await pipeThrough(process.execPath, ["--max-old-space-size=2048", CHILD, kind], bytes, () => {
    if (Date.now() - start > PATIENCE_MS) throw refuse("it takes too long");
  });
  if (ended?.code !== 0) throw refuse(ended?.code === 1 && ended.words ? ended.words : "the decoder did not end well");
  const [width, height, channels] = [0, 4, 8].map((at) => ended.out.readUInt32LE(at));
  return { data: new Uint8Array(ended.out.buffer, ended.out.byteOffset + 12, width * height * channels), width, height, channels: channels as 3 | 4 };
}
