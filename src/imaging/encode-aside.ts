/**
 * Encodes that take more than a second run in a process of their own: a native encode cannot be broken off from JavaScript,
 * a process can be killed. Shorter ones run here.
 */
import { spawn } from "node:child_process";
import { existsSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import type { Planned } from "@/core/develop";
import { expectedSeconds, type Setting } from "@/core/search";
import { encode } from "./encode";

/** What the child is told before the pixels come. */
export interface Order {
  setting: Setting;
  cmyk: boolean;
  width: number;
  height: number;
  channels: number;
  deep: boolean;
}

const CHILD = [dirname(fileURLToPath(import.meta.url)), join(process.cwd(), ".build")].map((folder) => join(folder, "encode-child.mjs")).find((path) => existsSync(path));
/** From this many seconds on, expected, a process of its own is worth its start (0.2 s). */
const LONG = 1;
/** How often a running encode asks whether it is still wanted. */
const ASK_MS = 300;

/** `wanted` throws when nobody waits for the answer any more; then nothing of the encode is left behind. */
export async function encodeAside(pixels: Planned, setting: Setting, cmyk: boolean, wanted?: () => void | Promise<void>): Promise<Uint8Array> {
  if (!CHILD || expectedSeconds(setting, pixels.width * pixels.height) < LONG) return encode(pixels, setting, cmyk);
  const { data, width, height, channels } = pixels;
  const order: Order = { setting, cmyk, width, height, channels, deep: data instanceof Uint16Array };
  return inChild(CHILD, order, new Uint8Array(data.buffer, data.byteOffset, data.byteLength), wanted);
}

function inChild(path: string, order: Order, bytes: Uint8Array, wanted?: () => void | Promise<void>): Promise<Uint8Array> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [path, JSON.stringify(order)], { stdio: ["pipe", "pipe", "pipe"] });
    const out: Buffer[] = [];
    const words: Buffer[] = [];
    let refused: unknown = null;
    const asking = setInterval(() => {
      void Promise.resolve()
        .then(() => wanted?.())
        .catch((error: unknown) => {
          refused ??= error;
          child.kill("SIGKILL");
        });
    }, ASK_MS);
    const die = () => child.kill("SIGKILL");
    process.once("exit", die);
    child.stdout.on("data", (piece: Buffer) => out.push(piece));
    child.stderr.on("data", (piece: Buffer) => words.push(piece));
    // A child that died has told why on its way out; that its input broke off says nothing more.
    child.stdin.on("error", () => undefined);
    child.stdin.end(bytes);
    child.on("error", (error) => (refused ??= error));
    child.on("close", (code, signal) => {
      clearInterval(asking);
      process.off("exit", die);
      if (refused) reject(refused);
      else if (code === 0) resolve(Buffer.concat(out));
      else reject(new Error(`the encoder ended with ${signal ?? code}: ${Buffer.concat(words).toString().trim().split("\n").pop() ?? ""}`));
    });
  });
}
