/** The last station: facts read back from the written bytes by a fresh decoder, and held against the brief. */
import { type Brief, resolveBrief } from "@/core/brief";
import type { Pixels, Seen } from "@/core/difference";
import { CENTRED, type Frame, PhotoError } from "@/core/photo";
import { lightWords, meterLight } from "@/core/pixels/light";
import {
  asksSurround,
  type Check,
  checkFacts,
  checkPixels,
  dropped,
  type Facts,
  meets,
  surroundOf,
  surroundWords,
  unchanged,
} from "@/core/proof";
import { asItIs, type Prepared } from "../planned";
import { readSource, readWritten, type Source } from "../source";
import { samePicture } from "./picture-bytes";

export interface Proof {
  ok: boolean;
  facts: Facts;
  checks: Check[];
  unchanged: string[];
  /** What of the photo's metadata is not in the file. */
  dropped: string[];
  /** Figures that judge nothing. */
  notes: string[];
  /** Visible difference from the planned picture; null where nobody asked for it. */
  difference: number | null;
  /** It is told from parts of a large picture. */
  differenceAbout: boolean;
}

export interface Made {
  /** Facts of the photo that the file was made from. */
  before: Facts;
  frame?: Frame;
  /** The photo's bytes, to see whether the picture data stayed the same. */
  original?: Buffer;
  /** What is seen of the written pixels. */
  judge?: ((pixels: Pixels) => Promise<Seen>) | null;
}

/** The bytes are decoded once, for the proof and for the difference. Throws where they do not decode. */
export async function prove(brief: Brief, written: Buffer, made: Made | null): Promise<Proof> {
  const source = await readWritten(written);
  const { facts } = source;
  const pixels = await asItIs(source);
  if (pixels.width !== facts.width || pixels.height !== facts.height)
    throw new PhotoError("The written file decodes to another size than it says.");
  // Ink is cut out of its photo, whose own size then says nothing.
  const before = brief.ink ? null : (made?.before ?? null);
  const resolved = resolveBrief(brief);
  const seen = (await made?.judge?.(pixels)) ?? null;
  const checks = [
    ...checkFacts({ brief, resolved, facts, before, frame: made?.frame ?? CENTRED }),
    ...checkPixels(brief, pixels),
  ];
  return {
    ok: meets(checks),
    facts,
    checks,
    unchanged: made ? await whatStayed(brief, source, made) : [],
    dropped: made ? dropped(made.before, facts) : [],
    notes: notesOn(brief, pixels),
    difference: seen?.difference ?? null,
    differenceAbout: seen?.about ?? false,
  };
}

async function whatStayed(brief: Brief, source: Source, { before, original }: Made): Promise<string[]> {
  const left = unchanged(brief, before, source.facts);
  if (!original || before.format !== source.facts.format) return left;
  if (source.bytes.equals(original)) return ["every byte of the file", ...left];
  const same = samePicture(await readSource(original), source);
  return same ? ["the picture data, byte for byte", ...left] : left;
}

function notesOn(brief: Brief, pixels: Prepared): string[] {
  if (pixels.light)
    return [lightWords(meterLight({ data: pixels.data as Uint16Array, channels: pixels.channels }))];
  return asksSurround(brief) ? [surroundWords(surroundOf(pixels, brief.border?.px))] : [];
}
