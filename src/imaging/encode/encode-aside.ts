/**
 * Encodes that take more than a second run in a process of their own: a native encode cannot be broken off
 * from JavaScript,
 * a process can be killed. Shorter ones run here.
 */
import { expectedSeconds, type Setting } from "@/core/coding";
import { MachineError } from "@/core/photo";
import type { PqName } from "@/core/pixels/colour";
import type { Planned } from "@/core/pixels/develop";
import { bundleBeside, pipeThrough } from "../workers";
import { encode, ownCoder } from "./encode";

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
/** From this many seconds on, expected, a process of its own is worth its start (0.2 s). */
const LONG = 1;

/** Where `signal` is aborted, nothing of the encode is left behind. */
export async function encodeAside(
  pixels: Planned,
  setting: Setting,
  cmyk: boolean,
  signal?: AbortSignal,
): Promise<Uint8Array> {
  const jpeg = (setting.format === "jpeg" || setting.format === "pdf") && ownCoder(setting, pixels, cmyk);
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
