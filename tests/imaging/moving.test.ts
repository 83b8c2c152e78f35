/** Animations that stay ones, read back by decoders of another make: the colour library's, and omggif's reader. */
import { GifReader } from "omggif";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { parseBrief, resolveBrief } from "@/core/brief";
import { LEVELS, type MovingSetting, searchMoving } from "@/core/coding";
import type { Geometry } from "@/core/geometry";
import { findDisagreements } from "@/core/plan/disagreements";
import { readSource } from "@/imaging/source";
import { fit } from "../support/fit";

const [WIDTH, HEIGHT, FRAMES] = [160, 120, 12];

/** A ball that crosses a shaded ground; `still`: only the ball moves. */
const balls = new Map<string, Promise<Buffer>>();

/** The same bytes in a buffer of its own, since what is known of a photo is kept with its buffer. */
async function ball(format: "gif" | "webp", change: Partial<Ball> = {}): Promise<Buffer> {
  const asked = { still: true, frames: FRAMES, width: WIDTH, height: HEIGHT, ...change };
  const key = JSON.stringify([format, asked]);
  const bytes = balls.get(key) ?? drawBall(format, asked);
  balls.set(key, bytes);
  return Buffer.from(await bytes);
}

interface Ball {
  still: boolean;
  frames: number;
  width: number;
  height: number;
}

async function drawBall(format: "gif" | "webp", { still, frames, width, height }: Ball): Promise<Buffer> {
  const data = new Uint8Array(width * height * frames * 3);
  for (let f = 0, p = 0; f < frames; f += 1)
    for (let y = 0; y < height; y += 1)
      for (let x = 0; x < width; x += 1, p += 3) {
        const inside = Math.hypot(x - 20 - f * 9, y - 60) < 14;
        const ground = still ? 0 : f * 7;
        const noise = ((x * 13 + y * 7 + ground * 31) % 23) * 2;
        data.set(inside ? [220, 40, 30] : [60 + noise, 90 + ((x + ground) >> 1), 120 + (y >> 1) + noise], p);
      }
  const raw = { width, height: height * frames, channels: 3 as const, pageHeight: height };
  const image = sharp(data, { raw, limitInputPixels: false } as never);
  const shown = { delay: Array.from({ length: frames }, (_, i) => 40 + (i % 3) * 20), loop: 3 };
  return (
    format === "gif" ? image.gif({ ...shown, effort: 1 }) : image.webp({ ...shown, lossless: true })
  ).toBuffer();
}

async function looked(file: Uint8Array) {
  const { width, pageHeight, height, pages, delay, loop, format } = await sharp(file, {
    animated: true,
  }).metadata();
  return { format, width, height: pageHeight ?? height, pages: pages ?? 1, delay, loop };
}

describe("an animation that is kept moving", () => {
  it("is handed over as it is where it obeys", async () => {
    const photo = await ball("gif");
    const { output, proof } = await fit(photo, { frames: "keep" });
    expect(Buffer.from(output!).equals(photo)).toBe(true);
    expect(proof!.checks.find(({ clause }) => clause === "frames")).toMatchObject({
      ok: true,
      found: "12 frames",
    });
  });

  it.each([
    ["gif", "gif"],
    ["gif", "webp"],
    ["webp", "gif"],
    ["webp", "webp"],
  ] as const)("%s becomes a smaller %s with all of its frames, times and rounds", async (from, to) => {
    const { output, proof, steps, difference, error } = await fit(await ball(from), {
      format: [to],
      frames: "keep",
      width: { exact: 80 },
    });
    expect(error).toBeNull();
    expect(proof!.ok).toBe(true);
    const seen = await looked(output!);
    expect(seen).toMatchObject({ format: to, width: 80, height: 60, pages: FRAMES, loop: 3 });
    expect(seen.delay!.slice(0, 3)).toEqual([40, 60, 80]);
    expect(steps[0].do).toBe("Keep 12 frames moving");
    expect(difference!).toBeLessThan(6);
    // The ball is red where it should be in the seventh frame, and nowhere else.
    const { data, info } = await sharp(output!, { page: 6 })
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const red = (x: number, y: number) => data[(y * info.width + x) * 3] - data[(y * info.width + x) * 3 + 1];
    expect(red((20 + 6 * 9) / 2, 30)).toBeGreaterThan(120);
    expect(red(12, 30)).toBeLessThan(40);
  });

  it("is cut and padded frame by frame", async () => {
    const square = {
      width: { exact: 90 },
      height: { exact: 90 },
      format: ["gif" as const],
      frames: "keep" as const,
    };
    for (const frame of ["fill", "pad"] as const) {
      const { output, proof } = await fit(await ball("gif"), { ...square, frame });
      expect(proof!.ok).toBe(true);
      expect(await looked(output!)).toMatchObject({ width: 90, height: 90, pages: FRAMES });
    }
  });

  it("gives up colours, then pixels, then frames, told in that order", async () => {
    const photo = await ball("gif", { still: false });
    const at = (max: number) => fit(photo, { frames: "keep", fileSize: { max } });
    const told: string[] = [];
    for (const share of [0.8, 0.35, 0.09]) {
      const max = Math.round(photo.length * share);
      const { output, proof, steps, error } = await at(max);
      expect(error).toBeNull();
      expect(output!.length).toBeLessThanOrEqual(max);
      expect(proof!.ok).toBe(true);
      told.push(steps.map((step) => step.do).join("; "));
    }
    expect(told[0]).toMatch(/Fewer colours/);
    expect(told[0]).not.toMatch(/Fewer pixels|Only every/);
    expect(told[1]).toMatch(/Fewer colours.*Fewer pixels/);
    expect(told[1]).not.toContain("Only every");
    expect(told[2]).toMatch(/Fewer colours.*Fewer pixels.*Only every (second|third|fourth) frame/);
  });

  it("lends the time of frames that went to those before them", async () => {
    const photo = await ball("gif", { still: false });
    const { output } = await fit(photo, {
      frames: "keep",
      fileSize: { max: Math.round(photo.length * 0.09) },
    });
    const [before, after] = [await looked(photo), await looked(output!)];
    expect(after.pages).toBeLessThan(before.pages);
    const sum = (delays: number[] | undefined) => delays!.reduce((a, b) => a + b, 0);
    expect(sum(after.delay)).toBe(sum(before.delay));
  });

  it("says when nothing that may be looked at fits", async () => {
    const { error, output } = await fit(await ball("gif", { still: false }), {
      frames: "keep",
      fileSize: { max: 900 },
    });
    expect(output).toBeNull();
    expect(error).toMatch(
      /^Cannot: the smallest animated GIF of it .* the ceiling is 900 B\. .* first frame/,
    );
  });

  it("does not flicker: what stays is not written again, and an independent reader sees it whole", async () => {
    const photo = await ball("webp");
    const { output } = await fit(photo, { format: ["gif"], frames: "keep" });
    // 12 whole frames of noise would take many times one.
    const { output: one } = await fit(photo, { format: ["gif"], frames: "first" });
    expect(output!.length).toBeLessThan(one!.length * 3);
    const reader = new GifReader(output!);
    const pixels = new Uint8Array(WIDTH * HEIGHT * 4);
    let corner: number[] = [];
    for (let f = 0; f < FRAMES; f += 1) {
      reader.decodeAndBlitFrameRGBA(f, pixels);
      const now = [...pixels.subarray(4 * (WIDTH * 110 + 150), 4 * (WIDTH * 110 + 150) + 4)];
      if (f) expect(now).toEqual(corner);
      corner = now;
      expect(pixels[4 * (WIDTH * 60 + 20 + f * 9)]).toBeGreaterThan(180);
    }
  });

  it("becomes one picture where its first frame is asked, and where the format holds no more", async () => {
    const photo = await ball("gif");
    expect((await looked((await fit(photo, { frames: "first" })).output!)).pages).toBe(1);
    const still = await fit(photo, { format: ["jpeg"], frames: "keep" });
    expect(still.notes.join()).toContain("Frames gave way: JPEG");
    expect(still.proof!.ok).toBe(true);
    const brief = parseBrief({ zumbrelBrief: 1, name: "m", format: ["jpeg"], frames: "keep" });
    expect(
      findDisagreements(brief)
        .map(({ clauses }) => clauses.join())
        .join(";"),
    ).toContain("frames");
    expect(resolveBrief(brief).frames).toBe("keep");
  });

  it("of too many pixels in all is refused with its numbers; of many small frames it is made", async () => {
    const large = await ball("gif", { still: false, frames: 150, width: 40, height: 30 });
    const { output, error } = await fit(large, { frames: "keep", width: { exact: 20 } });
    expect(error).toBeNull();
    expect((await looked(output!)).pages).toBe(150);
    const { facts } = await readSource(large);
    expect(facts.pages).toBe(150);
    // The size of the screen that its frames lie on: GIF89a, 18.
    const wide = Buffer.from(large);
    wide.writeUInt16LE(1000, 6);
    wide.writeUInt16LE(640, 8);
    await expect(fit(wide, { frames: "keep", width: { exact: 100 } })).rejects.toThrow(
      /150 frames of 1000 × 640 px, 96 megapixels in all; up to 80 are kept moving\. Cut it shorter/,
    );
  });

  it("is damaged when its end is missing, which is said", async () => {
    const photo = await ball("gif", { still: false });
    await expect(
      fit(photo.subarray(0, photo.length >> 1), { frames: "keep", width: { exact: 80 } }),
    ).rejects.toThrow(/damaged|cut short/);
  });
});

describe("the search for animations", () => {
  const geometry = { width: 400, height: 300, scale: 1 } as Geometry;
  const smaller = (share: number) =>
    ({ width: Math.round(400 * share), height: Math.round(300 * share), scale: share }) as Geometry;
  const bytesOf = ({ format, level, geometry: { width, height }, every }: MovingSetting) =>
    Math.round(((Math.log2(level) / 8) * (format === "gif" ? 1 : 0.4) * 12 * width * height) / every / 2) +
    500;

  it.each(["gif", "webp", "avif"] as const)("fits whatever can fit, in few encodes: %s", async (format) => {
    const [full] = [bytesOf({ format, level: LEVELS[format][0], geometry, every: 1 })];
    for (let max = Math.round(full * 1.1); max > full * 0.05; max = Math.round(max * 0.8)) {
      let made = 0;
      const encode = async (setting: MovingSetting) => {
        made += 1;
        return bytesOf(setting);
      };
      const found = await searchMoving({ format, max, geometry, smaller, frames: 12, flat: false, encode });
      expect(found.fits).toBe(true);
      expect(found.bytes).toBeLessThanOrEqual(max);
      expect(found.encodes).toBe(made);
      expect(made).toBeLessThanOrEqual(18);
      // Frames are the last to go: by then nearly the fewest pixels are taken.
      if (found.setting.every > 1) expect(found.setting.geometry.width).toBeLessThanOrEqual(280);
    }
  });

  it("keeps pixels that the brief fixes, and gives up frames instead", async () => {
    const fixed = { format: "gif", geometry, smaller: () => null, frames: 12, flat: false } as const;
    const found = await searchMoving({ ...fixed, max: 200_000, encode: async (s) => bytesOf(s) });
    expect(found.fits).toBe(true);
    expect(found.setting.geometry.width).toBe(400);
    expect(found.setting.every).toBeGreaterThan(1);
  });
});
