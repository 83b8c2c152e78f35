/**
 * Decoding files of foreign kinds in a process of their own, which may die without taking anything with it.
 */

import { createHash } from "node:crypto";
import { LRUCache } from "lru-cache";
import { formatName } from "@/core/brief";
import type { Lighter } from "@/core/photo";
import { MachineError, PhotoError } from "@/core/photo";
import { bundleBeside, FileProcesses, type Framed } from "../workers";
import type { Layered } from "./decoders";
import type { Foreign, ForeignPixels, Wish } from "./kinds";
import type { Lightened } from "./ora-lighter";
import type { RawFacts } from "./raw-pixels";

type Asked = "pixels" | "facts" | "lighter";

/** What the process is asked, with the file's bytes. */
export interface Question extends Framed {
  kind: Foreign | Layered;
  what: Asked;
  wish: Wish;
}

const BUNDLE = bundleBeside("foreign-child");
const PROCESSES = BUNDLE ? new FileProcesses({ bundle: BUNDLE, heap: 2048 }) : null;
/** The most pixels that are decoded: the process takes ten to thirty bytes a pixel. */
export const MOST_FOREIGN_PIXELS: Record<Foreign, number> = {
  heif: 120_000_000,
  ora: 40_000_000,
  raw: 120_000_000,
  svg: 120_000_000,
};
/**
 * A picture that takes longer is given up, in milliseconds of the processor; so is what needs no developing: a broken
 * one has been seen to make its reader go round for ever.
 */
const PATIENCE_MS = 120_000;
const QUICK_MS = 6_000;
/** Parts that are used inside each other can multiply without end. */
const DRAWING_MS = 30_000;

/** Pictures decoded already, as long as their bytes are held: one photo is worked on in several steps. */
const known = new WeakMap<Buffer, LRUCache<string, Promise<ForeignPixels>>>();
/** Ways of decoding one photo that are held at a time. */
const KEPT_WAYS = 2;

/** Throws a {@link PhotoError} where it cannot be decoded. */
export function decodeForeign(kind: Foreign, bytes: Buffer, wish: Wish = {}): Promise<ForeignPixels> {
  const ways = known.get(bytes) ?? new LRUCache<string, Promise<ForeignPixels>>({ max: KEPT_WAYS });
  known.set(bytes, ways);
  const key = JSON.stringify(wish);
  // All of a picture serves where half would do.
  const held =
    ways.get(key) ?? (wish.half ? ways.get(JSON.stringify({ ...wish, half: undefined })) : undefined);
  if (held) return held;
  const pixels = decoded(kind, bytes, wish);
  ways.set(key, pixels);
  pixels.catch(() => ways.delete(key));
  return pixels;
}

/**
 * Facts of raw files by their bytes: asked for each time a photo is opened, and each time they take a
 * process.
 */
const factsKnown = new LRUCache<string, Promise<RawFacts>>({ max: 300 });

/** Throws a {@link PhotoError} where it is no raw file of a camera that is known. */
export function readRawFacts(bytes: Buffer): Promise<RawFacts> {
  const key = createHash("sha256").update(bytes).digest("hex");
  const facts = factsKnown.get(key) ?? rawFactsOf(bytes);
  factsKnown.set(key, facts);
  facts.catch(() => factsKnown.delete(key));
  return facts;
}

const refusal = (kind: Foreign | Layered, why: string, what: Asked = "pixels") =>
  new PhotoError(
    what === "lighter"
      ? `The ${formatName(kind)} cannot be made lighter: ${why.replace(/[.]$/, "")}. It can still be ` +
          "flattened."
      : `The ${formatName(kind)} cannot be ${kind === "raw" ? "developed" : kind === "svg" ? "drawn" : "decoded"}: ` +
          `${why.replace(/[.]$/, "")}. Bring in a sound copy, or save it as JPEG or PNG where it came ` +
          "from.",
  );

async function rawFactsOf(bytes: Buffer): Promise<RawFacts> {
  if (!PROCESSES) {
    const { READERS } = await import("./decoders");
    return READERS.raw(bytes).catch((error: Error) => {
      throw refusal("raw", error.message);
    });
  }
  return (await asked<RawFacts>({ kind: "raw", what: "facts", wish: {} }, bytes)).words;
}

async function decoded(kind: Foreign, bytes: Buffer, wish: Wish): Promise<ForeignPixels> {
  if (!PROCESSES) {
    const { DECODERS } = await import("./decoders");
    return DECODERS[kind](bytes, wish).catch((error: Error) => {
      throw refusal(kind, error.message);
    });
  }
  const { words, bytes: made } = await asked<Omit<ForeignPixels, "data"> & { deep: boolean }>(
    { kind, what: "pixels", wish },
    bytes,
  );
  const { width, height, channels, light, deep } = words;
  const data = deep
    ? new Uint16Array(made.buffer, made.byteOffset, width * height * channels)
    : new Uint8Array(made.buffer, made.byteOffset, made.length);
  return { width, height, channels, light, data };
}

/** A file of layers or pages made lighter. Throws a {@link PhotoError} where it cannot be. */
export async function lightenLayered(
  kind: Layered,
  bytes: Buffer,
  lighter: Lighter,
  size?: { width: number; height: number },
): Promise<{ file: Buffer; report: Lightened }> {
  if (!PROCESSES) {
    const { LIGHTENERS } = await import("./decoders");
    return LIGHTENERS[kind](bytes, lighter, size).catch((error: Error) => {
      throw refusal(kind, error.message, "lighter");
    });
  }
  const { words, bytes: file } = await asked<Lightened>(
    { kind, what: "lighter", wish: { lighter, size } },
    bytes,
  );
  return { file, report: words };
}

/** `W`: what comes back beside bytes. */
async function asked<W>(
  { kind, what, wish }: Omit<Question, "length">,
  bytes: Buffer,
): Promise<{ words: W; bytes: Buffer }> {
  const camera = wish.raw?.way === "camera";
  const patience = camera || what === "facts" ? QUICK_MS : kind === "svg" ? DRAWING_MS : PATIENCE_MS;
  const late = camera
    ? "the camera's own picture in it is damaged, choose the developed one"
    : "it takes too long";
  const done = await PROCESSES!.ask<W>({ kind, what, wish }, bytes, {
    ms: patience,
    late: () => refusal(kind, late, what),
  });
  if (done && "words" in done) {
    if (done.words.refused !== undefined) throw refusal(kind, done.words.refused, what);
    return done;
  }
  // What ends by itself ran out of the memory that it is given, or says why; all else came from outside.
  if (!done || (typeof done.code === "string" && done.code !== "SIGABRT"))
    throw new MachineError(
      `The process that decoded the ${formatName(kind)} was ended from outside (${done?.code ?? "it did not start"}); ` +
        "nothing is wrong with the photo. Try again.",
    );
  throw refusal(
    kind,
    done.code === 1 && done.said ? done.said : "it takes more memory than a photo is given",
    what,
  );
}
