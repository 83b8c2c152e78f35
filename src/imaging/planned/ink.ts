/**
 * A photo of ink on paper becomes the clean picture of its ink: a source of its own, which everything after
 * it treats like any photo.
 */

import { createHash } from "node:crypto";
import { LRUCache } from "lru-cache";
import sharp from "sharp";
import { type Brief, type ResolvedBrief, resolveBrief } from "@/core/brief";
import { type Geometry, planGeometry } from "@/core/geometry";
import {
  CENTRED,
  cutsByHand,
  type Frame,
  inkSettingsOf,
  PhotoError,
  type Rect,
  turnedSize,
} from "@/core/photo";
import { inkNotes, overlayInk, renderInk } from "@/core/pixels/ink";
import { destinationOf } from "../headers";
import { readSource, type Source } from "../source";
import { findInkAside } from "../workers";
import { preparePicture } from "./prepare";
import type { Staged, StageRequest } from "./staged";

/** Pixels that are looked at at most: strokes of a sheet that fills the picture are still six wide. */
const MOST_PIXELS = 4_000_000;

/** The part of the photo in which ink is looked for: all of it, or what a person has framed. */
function inkPart(brief: ResolvedBrief, source: Source, frame: Frame): Geometry {
  const seen = turnedSize(source.facts, frame);
  const byHand = cutsByHand(frame)
    ? planGeometry({ ...brief, frame: "fill", stated: new Set() }, source.facts, frame)
    : null;
  const crop: Rect = byHand?.crop ?? { x: 0, y: 0, ...seen };
  const shrink = Math.min(1, Math.sqrt(MOST_PIXELS / (crop.width * crop.height)));
  const size = {
    width: Math.max(1, Math.round(crop.width * shrink)),
    height: Math.max(1, Math.round(crop.height * shrink)),
  };
  return {
    ...size,
    mode: "fill",
    crop,
    turn: frame.turn,
    angle: byHand?.angle,
    place: { x: 0, y: 0, ...size },
    scale: shrink,
    cut: 0,
  };
}

/** Code values in which ink is looked for, 8-bit sRGB. */
export async function inkPixels(brief: ResolvedBrief, source: Source, frame: Frame, most = MOST_PIXELS) {
  const part = inkPart(brief, source, frame);
  const shrink = Math.min(1, Math.sqrt(most / (part.width * part.height)));
  const size = {
    width: Math.max(1, Math.round(part.width * shrink)),
    height: Math.max(1, Math.round(part.height * shrink)),
  };
  const geometry = { ...part, ...size, place: { x: 0, y: 0, ...size }, scale: part.scale * shrink };
  const to = destinationOf(
    { ...resolveBrief({ zumbrelBrief: 1, name: "ink" }), space: "srgb" },
    source,
    frame.takenAs,
  );
  const { data, width, height, channels } = await preparePicture(source, {
    geometry,
    frame: CENTRED,
    to,
    bits: 8,
    background: "#ffffff",
    opaque: true,
    sharpen: null,
    ppi: null,
  });
  return {
    data: channels === 3 ? (data as Uint8Array) : threefold(data as Uint8Array, channels),
    width,
    height,
  };
}

function threefold(data: Uint8Array, channels: number): Uint8Array {
  const out = new Uint8Array((data.length / channels) * 3);
  for (let p = 0, o = 0; p < data.length; p += channels, o += 3) out[o] = out[o + 1] = out[o + 2] = data[p];
  return out;
}

/** The ink found last, by photo, frame and mode: trials, sharing and making ask for the same one again. */
const last = new LRUCache<string, Promise<Staged>>({ max: 4 });

/** The source of the clean picture. Throws a PhotoError where nothing looks like ink. */
export async function inkStaged({ source, brief, frame, sha256 }: StageRequest): Promise<Staged> {
  const name = sha256 ?? createHash("sha256").update(source.bytes).digest("hex");
  const key = JSON.stringify([
    name,
    brief.ink,
    frame,
    cutsByHand(frame)
      ? [brief.width, brief.height, brief.longSide, brief.shortSide, brief.sizes, brief.shape, brief.paper]
      : 0,
  ]);
  const known = last.get(key) ?? cleaned(source, brief, frame);
  last.set(key, known);
  known.catch(() => last.delete(key));
  return known;
}

async function cleaned(source: Source, brief: Brief, frame: Frame): Promise<Staged> {
  const settings = inkSettingsOf(frame);
  const picture = await inkPixels(resolveBrief(brief), source, frame);
  const found = await findInkAside(picture, settings).catch((error: Error) => {
    throw error.name === "InkError" ? new PhotoError(error.message) : error;
  });
  const clean = renderInk(found, brief.ink!, settings.margin);
  const bytes = await sharp(clean.data, { raw: { width: clean.width, height: clean.height, channels: 3 } })
    .png({ compressionLevel: 6 })
    .toBuffer();
  const made = await readSource(bytes);
  const { format, privateData, metadata, date } = source.facts;
  // Beside its picture it is still the photo that was brought in.
  const facts = {
    ...made.facts,
    resolution: null,
    resolutionStep: 0,
    format,
    privateData,
    metadata,
    date,
    bytes: source.facts.bytes,
  };
  const { width, height, bounds, share, stroke, groups, touches, lines } = found;
  return {
    source: { ...made, facts, exif: source.exif },
    frame: { ...CENTRED, ...(frame.kernel && { kernel: frame.kernel }) },
    ink: { width, height, bounds, share, stroke, groups, touches, lines, notes: inkNotes(found) },
  };
}

/** Pixels of the picture that shows what was taken. */
const SHOWN_PIXELS = 700_000;
/** The accent of the interface, sRGB. */
const MARK = [106, 44, 110] as const;

/** What is taken as ink, marked on the paled photo, as a PNG. Throws a PhotoError where nothing is. */
export async function overlayPicture(source: Source, brief: Brief, frame: Frame): Promise<Buffer> {
  const picture = await inkPixels(resolveBrief(brief), source, frame, SHOWN_PIXELS);
  const found = await findInkAside(picture, inkSettingsOf(frame)).catch((error: Error) => {
    throw error.name === "InkError" ? new PhotoError(error.message) : error;
  });
  const { data, width, height } = overlayInk(picture, found, MARK);
  return sharp(data, { raw: { width, height, channels: 3 } })
    .png({ compressionLevel: 6 })
    .toBuffer();
}
