/** Animations in AVIF, held against libavif's own decoder and encoder (avifdec, avifenc). */
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { avifSequence, joinAvif, readAvif } from "@/core/containers";
import { readSource } from "@/imaging/source";
import { fit } from "../support/fit";

const [WIDTH, HEIGHT, FRAMES] = [96, 64, 8];
const DELAYS = [40, 60, 80, 40, 60, 80, 40, 60];
let dir = "";

beforeAll(() => {
  dir = mkdtempSync(join(tmpdir(), "moving-avif-"));
});
afterAll(() => rmSync(dir, { recursive: true, force: true }));

/** A red square that goes from left to right, over grey or over nothing. */
const squares = ({ clear = false, loop = 3 } = {}): Promise<Buffer> => {
  const data = new Uint8Array(WIDTH * HEIGHT * FRAMES * 4);
  for (let f = 0, p = 0; f < FRAMES; f += 1)
    for (let y = 0; y < HEIGHT; y += 1)
      for (let x = 0; x < WIDTH; x += 1, p += 4) {
        const left = f * 10;
        const inside = x >= left && x < left + 20 && y >= 20 && y < 40;
        data.set(inside ? [230, 20, 20, 255] : [128, 128, 128, clear ? 0 : 255], p);
      }
  const raw = { width: WIDTH, height: HEIGHT * FRAMES, channels: 4 as const, pageHeight: HEIGHT };
  return sharp(data, { raw } as never)
    .webp({ delay: DELAYS, loop, lossless: true, exact: true })
    .toBuffer();
};

/** What libavif says of a file, and one of its frames. */
function decoded(file: Uint8Array, frame: number) {
  const [from, to] = [join(dir, "in.avif"), join(dir, `frame-${frame}.png`)];
  writeFileSync(from, file);
  const info = execFileSync("avifdec", ["--info", from], { encoding: "utf8" });
  execFileSync("avifdec", ["--index", String(frame), from, to], { stdio: "ignore" });
  const durations = [...info.matchAll(/duration [\d.]+ \((\d+) timescales\)/g)].map(([, ms]) => Number(ms));
  return { info, durations, picture: sharp(to).ensureAlpha().raw().toBuffer({ resolveWithObject: true }) };
}

const KEEP = { format: ["avif" as const], frames: "keep" as const };

describe("an animation in AVIF", () => {
  it("has all frames, times and colours by libavif's decoder, and is proved", async () => {
    const { output, proof, steps, error } = await fit(await squares(), KEEP);
    expect(error).toBeNull();
    expect(proof!.ok).toBe(true);
    expect(proof!.checks.find(({ clause }) => clause === "frames")!.found).toBe("8 frames");
    expect(steps.map((step) => step.do).join()).toContain("Write an animated AVIF, quality 80");
    const { info, durations, picture } = decoded(output!, 5);
    expect(durations).toEqual(DELAYS);
    expect(info).toMatch(/Resolution +: 96x64/);
    const { data } = await picture;
    const at = (x: number, y: number) => [...data.subarray((y * WIDTH + x) * 4, (y * WIDTH + x) * 4 + 3)];
    expect(at(60, 30)[0]).toBeGreaterThan(200);
    expect(at(60, 30)[1]).toBeLessThan(60);
    for (const value of at(20, 30)) expect(Math.abs(value - 128)).toBeLessThan(6);
    expect(avifSequence(readAvif(output!))!.loop).toBe(3);
  });

  it("holds the bytes of a frame once where the next is the same", async () => {
    const still = (red: number) =>
      sharp({
        create: { width: 32, height: 24, channels: 4, background: { r: red, g: 9, b: 9, alpha: 0.5 } },
      })
        .avif({ quality: 60, effort: 0 })
        .toBuffer();
    const [a, b] = [await still(20), await still(200)];
    const file = joinAvif(a, [a, b, b], { delays: [10, 20, 30, 40], loop: 1 });
    const { colour, alpha, delays, loop } = avifSequence(readAvif(file))!;
    expect(colour[1]).toEqual(colour[0]);
    expect(colour[3]).toEqual(colour[2]);
    expect(alpha![3]).toEqual(alpha![2]);
    expect(colour[2]).not.toEqual(colour[1]);
    expect({ delays, loop }).toEqual({ delays: [10, 20, 30, 40], loop: 1 });
    const red = async (i: number) => (await decoded(file, i).picture).data[0];
    for (const [i, value] of [20, 20, 200, 200].entries())
      expect(Math.abs((await red(i)) - value)).toBeLessThan(6);
  });

  it("is seen through where the animation is, and its first frame is a still for readers of stills", async () => {
    const { output } = await fit(await squares({ clear: true, loop: 0 }), KEEP);
    const { info, picture } = decoded(output!, 2);
    expect(info).toMatch(/Alpha +: Not premultiplied/);
    const { data } = await picture;
    const alpha = (x: number, y: number) => data[(y * WIDTH + x) * 4 + 3];
    expect(alpha(30, 30)).toBeGreaterThan(245);
    expect(alpha(80, 50)).toBeLessThan(10);
    expect(avifSequence(readAvif(output!))!.loop).toBe(0);
    const still = Buffer.from(output!);
    still.write("avif", 8, "latin1");
    expect(await sharp(still).metadata()).toMatchObject({ format: "heif", width: WIDTH, hasAlpha: true });
  });

  it("becomes a GIF, a WebP or a smaller AVIF again, frame by frame", async () => {
    const { output } = await fit(await squares(), KEEP);
    const photo = Buffer.from(output!);
    expect((await readSource(photo)).facts).toMatchObject({ format: "avif", pages: FRAMES });
    for (const format of ["gif", "webp"] as const) {
      const back = await fit(photo, { ...KEEP, format: [format] });
      expect(back.proof!.ok).toBe(true);
      const { pages, delay } = await sharp(back.output!, { animated: true }).metadata();
      expect({ pages, delay }).toEqual({ pages: FRAMES, delay: DELAYS });
    }
    const half = await fit(photo, { ...KEEP, width: { exact: 48 } });
    expect(half.proof!.ok).toBe(true);
    expect(decoded(half.output!, 7).durations).toEqual(DELAYS);
    // As it is where it obeys; one frame where one is asked.
    expect(Buffer.from((await fit(photo, KEEP)).output!).equals(photo)).toBe(true);
    const one = await fit(photo, { format: ["avif"], frames: "first" });
    expect(one.proof!.ok).toBe(true);
    expect((await readSource(Buffer.from(one.output!))).facts.pages).toBe(1);
  });

  it("of another program, whose frames build on each other, gives its first and says so of the rest", async () => {
    const names = await Promise.all(
      Array.from({ length: 4 }, async (_, i) => {
        const to = join(dir, `own-${i}.png`);
        await sharp({
          create: { width: 64, height: 48, channels: 3, background: { r: 40 * i, g: 90, b: 90 } },
        })
          .png()
          .toFile(to);
        return to;
      }),
    );
    const to = join(dir, "own.avif");
    execFileSync("avifenc", ["--speed", "8", ...names, to], { stdio: "ignore" });
    const photo = readFileSync(to);
    expect((await readSource(photo)).facts.pages).toBe(4);
    const first = await fit(photo, { format: ["png"], frames: "first" });
    expect(first.proof!.ok).toBe(true);
    await expect(fit(photo, { ...KEEP, width: { exact: 32 } })).rejects.toThrow(
      /coded as changes of each other.*first frame/,
    );
  });

  it("that is cut short is refused with a sentence", async () => {
    const { output } = await fit(await squares(), KEEP);
    for (const share of [0.3, 0.6, 0.95]) {
      const torn = Buffer.from(output!.subarray(0, Math.round(output!.length * share)));
      await expect(fit(torn, { ...KEEP, width: { exact: 48 } })).rejects.toThrow(/damaged|cut short/);
    }
  });

  it("of ten bits or of light above white is not promised", async () => {
    const deep = await fit(await squares(), { ...KEEP, colour: { bits: 10 } });
    expect(deep.notes.join()).toContain("Frames gave way: AVIF is not written moving here");
    expect(deep.proof!.ok).toBe(true);
  });
});
