/**
 * Encodes that take more than a second run in a process of their own: a native encode cannot be broken off
 * from JavaScript,
 * a process can be killed. Shorter ones run here.
 */
import { expectedSeconds, type Setting, TIGHT_SECONDS, TIGHTEST } from "@/core/coding";
import { MachineError } from "@/core/photo";
import type { PqName } from "@/core/pixels/colour";
import type { Planned } from "@/core/pixels/develop";
import { bundleBeside, pipeThrough } from "../workers";
import { encode, ownCoder } from "./encode";
import { tightPng } from "./tight-png";

/** What the child is told before the pixels come. */
export interface Order {
  setting: Setting;
  cmyk: boolean;
  width: number;
  height: number;
  channels: number;
  deep: boolean;
  light?: PqName;
}

const CHILD = bundleBeside("encode-child");
const TIGHT_CHILD = bundleBeside("tight-child");
/** A PNG that was packed tighter is kept where it has at most this share of the usual bytes. */
const TIGHTER = 0.98;
/** From this many seconds on, expected, a process of its own is worth its start (0.2 s). */
const LONG = 1;

/** Where `signal` is aborted, nothing of the encode is left behind. */
export async function encodeAside(
  pixels: Planned,
  setting: Setting,
  cmyk: boolean,
  signal?: AbortSignal,
): Promise<Uint8Array> {
  if (setting.format === "png" && setting.level === TIGHTEST) {
    const usual = await encodeAside(pixels, { ...setting, level: TIGHTEST - 1 }, cmyk, signal);
    return tighter(usual, signal);
  }
  const jpeg = "chroma" in setting && setting.format !== "avif" && ownCoder(setting, pixels, cmyk);
  if (!CHILD || jpeg || expectedSeconds(setting, pixels.width * pixels.height) < LONG)
    return encode(pixels, setting, cmyk);
  const { data, width, height, channels, light } = pixels;
  const order: Order = { setting, cmyk, width, height, channels, deep: data instanceof Uint16Array, light };
  const ended = await pipeThrough(
    process.execPath,
    [CHILD, JSON.stringify(order)],
    new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
    signal,
  );
  if (ended?.code === 0) return ended.out;
  throw new MachineError(
    `The process that encoded the picture ended (${ended?.code ?? "it did not start"}); nothing is wrong with the ` +
      "photo. Try again.",
  );
}

/** The same PNG packed as tightly as the time allows, where that is worth it; else the usual one. */
async function tighter(usual: Uint8Array, signal?: AbortSignal): Promise<Uint8Array> {
  const packed = TIGHT_CHILD ? await within(TIGHT_CHILD, usual, signal) : await tightPng(usual);
  return packed && packed.length <= usual.length * TIGHTER ? packed : usual;
}

/** Null where time was up. */
async function within(child: string, usual: Uint8Array, signal?: AbortSignal): Promise<Uint8Array | null> {
  const time = AbortSignal.timeout(TIGHT_SECONDS * 1000);
  const either = signal ? AbortSignal.any([time, signal]) : time;
  const ended = await pipeThrough(process.execPath, [child], usual, either).catch((error: unknown) => {
    if (signal?.aborted || !time.aborted) throw error;
    return null;
  });
  return ended?.code === 0 ? ended.out : null;
}
