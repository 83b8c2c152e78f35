/** Layered artwork: which layers take part, what weighs how much, and files that stay layered and become lighter. */
import JSZip from "jszip";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief, resolveBrief } from "@/core/brief";
import { joinTiffs, tiffPages } from "@/core/containers";
import { CENTRED, DEFAULT_LIGHTER, type Lighter } from "@/core/photo";
import { chosen, partsOf, placed, readStack, writeStack } from "@/core/pixels/layers";
import { keepsLayers } from "@/core/plan";
import { fitPhoto } from "@/imaging";
import { trace } from "@/imaging/candidates";
import { lightenLayered } from "@/imaging/foreign";
import { readSource } from "@/imaging/source";
import { fit } from "../support/fit";
import { jpegPhoto, pixels } from "../support/photos";

const STACK = `<image version="0.0.6" w="400" h="300" xres="150" yres="150"><stack name="all" own="kept">
<layer name="Title &amp; co" src="data/title.png" x="-20" y="30" opacity="0.75" edited="yes"/>
<stack name="Group" composite-op="svg:multiply" isolation="isolate"><layer name="Spot" src="data/spot.png" x="0" y="0"/></stack>
<layer name="Hidden" src="data/hidden.png" visibility="hidden"/><layer name="Ground" src="data/ground.png"/></stack></image>`;

const rgba = async (
  width: number,
  height: number,
  seed: number,
  inside: (x: number, y: number) => boolean,
) => {
  const rgb = pixels(width, height, seed);
  const out = Buffer.alloc(width * height * 4);
  for (let i = 0; i < width * height; i += 1) {
    if (!inside(i % width, Math.floor(i / width))) continue;
    out.set(rgb.subarray(i * 3, i * 3 + 3), i * 4);
    out[i * 4 + 3] = 255;
  }
  return sharp(out, { raw: { width, height, channels: 4 } })
    .png({ compressionLevel: 1 })
    .toBuffer();
};

const posters = new Map<number, Promise<Buffer>>();
/** The same bytes in a buffer of its own, since what is known of a photo is kept with its buffer. */
async function poster(seed = 21): Promise<Buffer> {
  const bytes = posters.get(seed) ?? drawPoster(seed);
  posters.set(seed, bytes);
  return Buffer.from(await bytes);
}

async function drawPoster(seed: number): Promise<Buffer> {
  const zip = new JSZip();
  zip.file("mimetype", "image/openraster", { compression: "STORE" });
  zip.file("stack.xml", STACK);
  const ground = await sharp(await jpegPhoto(400, 300, seed))
    .png({ compressionLevel: 0 })
    .toBuffer();
  const files: Record<string, Buffer> = {
    "data/title.png": await sharp({
      create: { width: 200, height: 40, channels: 4, background: "#f4ecd8ff" },
    })
      .png({ compressionLevel: 0 })
      .toBuffer(),
    "data/spot.png": await rgba(400, 300, 22, (x, y) => Math.hypot(x - 250, y - 120) < 50),
    "data/hidden.png": await rgba(400, 300, 23, () => true),
    "data/ground.png": ground,
    "mergedimage.png": ground,
    "Thumbnails/thumbnail.png": await sharp(ground).resize(256).png({ compressionLevel: 0 }).toBuffer(),
    "history/1.bin": Buffer.alloc(40_000, 3),
  };
  for (const [name, bytes] of Object.entries(files)) zip.file(name, bytes, { compression: "STORE" });
  return zip.generateAsync({ type: "nodebuffer" });
}
const lighten = async (lighter: Partial<Lighter>, size?: { width: number; height: number }) =>
  lightenLayered("ora", await poster(), { ...DEFAULT_LIGHTER, ...lighter }, size);
/** The flattened picture as a PNG's raw codes. */
const flattened = async (bytes: Buffer, layers?: { shown: string[]; hidden: string[] }) => {
  const { output } = await fit(bytes, { format: ["png"] }, { ...CENTRED, layers });
  return sharp(output!).ensureAlpha().raw().toBuffer();
};
const entries = async (bytes: Buffer) =>
  Object.keys((await JSZip.loadAsync(bytes)).files)
    .filter((name) => !name.endsWith("/"))
    .sort();

describe("the tree of layers", () => {
  it("has a place for every layer and group, and is written as it was read, unknown attributes included", () => {
    const artwork = readStack(STACK);
    expect([...placed(artwork.root)].map(({ place, node, seen }) => [place, node.name, seen])).toEqual([
      ["0", "Title & co", true],
      ["1", "Group", true],
      ["1.0", "Spot", true],
      ["2", "Hidden", false],
      ["3", "Ground", true],
    ]);
    const again = readStack(writeStack(artwork));
    expect(again).toEqual({ ...artwork, root: { ...artwork.root, children: again.root.children } });
    expect([...placed(again.root)].map(({ node }) => node.attributes.edited ?? null)).toContain("yes");
    expect(again.root.attributes.own).toBe("kept");
  });

  it("takes other choices of what is shown, groups with all that is in them", async () => {
    const bytes = await poster();
    const [all, less, more] = await Promise.all([
      flattened(bytes),
      flattened(bytes, { shown: [], hidden: ["1", "0"] }),
      flattened(bytes, { shown: ["2"], hidden: [] }),
    ]);
    const at = (data: Buffer, x: number, y: number) => [
      ...data.subarray((y * 400 + x) * 4, (y * 400 + x) * 4 + 3),
    ];
    const ground = pixelsOf(
      await sharp(await jpegPhoto(400, 300, 21))
        .raw()
        .toBuffer(),
      250,
      120,
    );
    expect(at(less, 250, 120)).toEqual(ground);
    expect(at(all, 250, 120)).not.toEqual(ground);
    expect(at(more, 380, 280)).not.toEqual(at(all, 380, 280));
    expect(
      [...placed(chosen(readStack(STACK), { shown: ["2"], hidden: ["1"] }).root)].map(({ seen }) => seen),
    ).toEqual([true, false, false, true, true]);
  });
});
const pixelsOf = (data: Buffer, x: number, y: number) => [
  ...data.subarray((y * 400 + x) * 3, (y * 400 + x) * 3 + 3),
];

describe("what weighs how much", () => {
  it("names layers, the stored picture, the thumbnail and what lies beside, the heaviest first", async () => {
    const zip = await JSZip.loadAsync(await poster());
    const sizes = new Map(
      await Promise.all(
        Object.keys(zip.files)
          .filter((name) => !zip.files[name].dir)
          .map(async (name) => [name, (await zip.file(name)!.async("nodebuffer")).length] as const),
      ),
    );
    const parts = partsOf(readStack(STACK), sizes);
    expect(parts.map(({ bytes }) => bytes)).toEqual(
      [...parts.map(({ bytes }) => bytes)].sort((a, b) => b - a),
    );
    expect(
      Object.fromEntries(parts.map(({ path, kind, hidden }) => [path, hidden ? `hidden ${kind}` : kind])),
    ).toMatchObject({
      "mergedimage.png": "preview",
      "Thumbnails/thumbnail.png": "thumbnail",
      "history/1.bin": "extra",
      "data/hidden.png": "hidden layer",
      "data/spot.png": "layer",
      "stack.xml": "frame",
    });
  });
});

describe("lighter, and still layered", () => {
  it("packs and cuts without changing a pixel of the picture, and every measure saves what it says", async () => {
    const bytes = await poster();
    const { file, report } = await lighten({});
    expect(file.length).toBeLessThan(bytes.length * 0.6);
    expect((await flattened(file)).equals(await flattened(bytes))).toBe(true);
    expect(await entries(file)).toEqual(await entries(bytes));
    const spot = [
      ...placed(readStack(await (await JSZip.loadAsync(file)).file("stack.xml")!.async("string")).root),
    ].find(({ node }) => node.name === "Spot")!.node;
    expect(spot).toMatchObject({ x: 201, y: 71 });
    // Measured: turning a measure off gives back about what it said (the rest are headers of the package).
    for (const [change, key] of [
      [{ crop: false }, "crop"],
      [{ hidden: true }, "hidden"],
      [{ extras: true }, "extras"],
      [{ preview: "drop" }, "previewDrop"],
      [{ thumbnail: "smaller" }, "thumbnailSmaller"],
    ] as const) {
      const other = await lighten(change);
      expect(Math.abs(Math.abs(other.file.length - file.length) - report.savings[key]), key).toBeLessThan(
        700,
      );
    }
    expect(report.savings.repack).toBeGreaterThan(300_000);
  });

  it("leaves its type first and not packed, as the format asks, and tells where it departs from it", async () => {
    const { file, report } = await lighten({ preview: "drop", thumbnail: "drop" });
    expect(file.subarray(30, 54).toString("latin1")).toBe("mimetypeimage/openraster");
    expect(report.told).toHaveLength(2);
    expect(report.told.join(" ")).toMatch(/which the format asks for/);
    expect(await entries(file)).not.toContain("mergedimage.png");
  });

  it("takes fewer pixels for all layers at once, their places too; what fills the canvas still does", async () => {
    const { file, report } = await lighten({}, { width: 150, height: 113 });
    expect([report.width, report.height]).toEqual([150, 113]);
    const small = await flattened(file);
    const like = await sharp(
      await sharp(await flattened(await poster()), { raw: { width: 400, height: 300, channels: 4 } })
        .removeAlpha()
        .resize(150, 113, { fit: "fill" })
        .raw()
        .toBuffer(),
      { raw: { width: 150, height: 113, channels: 3 } },
    )
      .raw()
      .toBuffer();
    let sum = 0;
    let covered = 255;
    for (let i = 0; i < 150 * 113; i += 1) {
      covered = Math.min(covered, small[i * 4 + 3]);
      for (let c = 0; c < 3; c += 1) sum += Math.abs(small[i * 4 + c] - like[i * 3 + c]);
    }
    // No seam of half-covered pixels at the edge.
    expect(covered).toBe(255);
    expect(sum / (150 * 113 * 3)).toBeLessThan(4);
  });

  it("goes through a brief: under its ceiling, never under its floor of pixels, its own kind of file", async () => {
    const bytes = await poster();
    const keep = (more: Partial<Brief>) => fit(bytes, { layers: "keep", ...more });
    const free = await keep({});
    expect(free).toMatchObject({ error: null, format: "ora", difference: 0, passedThrough: false });
    expect(free.proof!.checks).toEqual([
      { clause: "layers", asked: "kept", found: "layers", ok: true, gaveWay: false },
    ]);
    expect(free.proof!.facts).toMatchObject({ format: "ora", width: 400, height: 300 });
    const tight = await keep({ fileSize: { max: "350kB" }, width: { min: 200 } });
    expect(tight.error).toBeNull();
    expect(tight.output!.length).toBeLessThanOrEqual(350_000);
    expect(tight.geometry!.width).toBeGreaterThanOrEqual(200);
    expect(tight.geometry!.width).toBeLessThan(400);
    expect(tight.steps.map((step) => step.do).join()).toMatch(/Reduce all layers/);
    const impossible = await keep({ fileSize: { max: "60kB" }, width: { min: 390 } });
    expect(impossible.error).toMatch(
      /ceiling is 60\.0? ?kB\. This would save more: leaving out hidden layers/,
    );
    const square = await keep({ width: { exact: 200 }, height: { exact: 200 } });
    expect(square.error).toMatch(/^Layers can only become fewer pixels together/);
    const obeys = await keep({ fileSize: { max: "2MB" } });
    expect(obeys.passedThrough).toBe(true);
    expect(obeys.output!.equals(bytes)).toBe(true);
  });

  it("gives way where a format is asked that holds one picture, and says so", async () => {
    const { format, notes, proof } = await fit(await poster(), { layers: "keep", format: ["jpeg"] });
    expect(format).toBe("jpeg");
    expect(notes).toContain("Layers gave way: JPEG holds one picture.");
    expect(proof!.ok).toBe(true);
    expect(proof!.checks.find((check) => check.clause === "layers")).toMatchObject({
      found: "one picture",
      ok: null,
      gaveWay: true,
    });
    expect(
      (await fit(await poster(), { layers: "flatten", format: ["png"] })).proof!.checks.find(
        (check) => check.clause === "layers",
      ),
    ).toMatchObject({ ok: true });
    expect((await fit(await jpegPhoto(80, 60, 5), { layers: "keep" })).proof!.checks).toEqual([]);
  });

  it("is judged against itself, also after another artwork of the same width", async () => {
    const lighter: Lighter = { ...DEFAULT_LIGHTER, scale: 60 };
    const seen = async (seed: number) =>
      (await fit(await poster(seed), { layers: "keep" }, { ...CENTRED, lighter })).difference!;
    const [first, second] = [await seen(21), await seen(77)];
    // Against the other picture the difference is far beyond what is plain to see.
    expect(first).toBeLessThan(2);
    expect(second).toBeLessThan(2);
    expect(second).toBeGreaterThan(0);
  });

  it("takes no part in sharing a limit on the whole", async () => {
    const brief = parseBrief({ zumbrelBrief: 1, name: "b", layers: "keep", total: { max: "1MB" } });
    await expect(
      trace({ source: await readSource(await poster()), brief }, { side: null, trials: null }, null),
    ).rejects.toThrow(/cannot be shared with a file that stays in layers/);
  });

  it("is refused where parts are of kinds that cannot be written, and can still be flattened", async () => {
    const zip = await JSZip.loadAsync(await poster());
    zip.file("stack.xml", STACK.replace('<layer name="Hidden"', '<text name="words"/><layer name="Hidden"'));
    const bytes = await zip.generateAsync({ type: "nodebuffer" });
    await expect(
      fitPhoto({
        source: await readSource(bytes),
        brief: parseBrief({ zumbrelBrief: 1, name: "b", layers: "keep" }),
      }),
    ).rejects.toThrow(/parts of other kinds than layers and groups \(text\)/);
    expect((await fit(bytes, { format: ["jpeg"] })).error).toBeNull();
  });
});

const page = async (width: number, height: number, seed: number, deep = false) => {
  const image = sharp(await jpegPhoto(width, height, seed));
  return (deep ? image.toColourspace("rgb16") : image).tiff({ compression: "none" }).toBuffer();
};

describe("TIFFs of several pages", () => {
  const book = async () =>
    Buffer.from(joinTiffs([await page(300, 200, 31), await page(200, 320, 32), await page(120, 80, 33)]));
  it("are read page by page, also by the colour library; the chosen page is the photo", async () => {
    const bytes = await book();
    expect(tiffPages(bytes).map(({ width, height, bytes: size }) => [width, height, size])).toEqual([
      [300, 200, 180_000],
      [200, 320, 192_000],
      [120, 80, 28_800],
    ]);
    expect(await sharp(bytes).metadata()).toMatchObject({ pages: 3, width: 300 });
    const first = await fit(bytes, { format: ["png"] });
    expect(first.steps[0]).toEqual({ do: "Use the first page", why: "the file holds 3 pictures" });
    const second = await fit(bytes, { format: ["png"] }, { ...CENTRED, page: 2 });
    expect(second.steps[0].do).toBe("Use page 2");
    const alike = await sharp(await jpegPhoto(200, 320, 32))
      .raw()
      .toBuffer();
    expect((await sharp(second.output!).raw().toBuffer()).equals(alike)).toBe(true);
    // A TIFF is asked and is there, but it is not that page alone.
    const alone = await fit(bytes, { format: ["tiff"] }, { ...CENTRED, page: 2 });
    expect(alone.passedThrough).toBe(false);
    expect(tiffPages(alone.output!)).toMatchObject([{ width: 200, height: 320 }]);
    expect((await fit(bytes, { layers: "flatten" })).proof).toMatchObject({
      ok: true,
      facts: { format: "tiff", pages: 1, width: 300 },
    });
    await expect(fit(bytes, { format: ["png"] }, { ...CENTRED, page: 4 })).rejects.toThrow(
      /Page 4 is asked for, and the file has 3/,
    );
  });

  it("stay of several pages and become lighter, every pixel the same", async () => {
    const bytes = await book();
    const { output, error, format, difference } = await fit(bytes, { layers: "keep" });
    expect(error).toBeNull();
    expect([format, difference]).toEqual(["tiff", 0]);
    expect(output!.length).toBeLessThan(bytes.length * 0.8);
    for (const number of [0, 1, 2])
      expect(
        (await sharp(output!, { page: number }).raw().toBuffer()).equals(
          await sharp(bytes, { page: number }).raw().toBuffer(),
        ),
      ).toBe(true);
    const small = await fit(bytes, { layers: "keep", longSide: { max: 150 } });
    expect(tiffPages(small.output!).map(({ width, height }) => [width, height])).toEqual([
      [150, 100],
      [100, 160],
      [60, 40],
    ]);
  });

  it("that go round in a circle, lead out of the file or do not end are refused", async () => {
    const bytes = await book();
    const first = bytes.readUInt32LE(4);
    const loop = Buffer.from(bytes);
    loop.writeUInt32LE(first, first + 2 + bytes.readUInt16LE(first) * 12);
    await expect(readSource(loop)).rejects.toThrow("its pages go round in a circle");
    const out = Buffer.from(bytes);
    out.writeUInt32LE(0x7fff_fff0, first + 2 + bytes.readUInt16LE(first) * 12);
    await expect(readSource(out)).rejects.toThrow("lies outside of the file");
    // 64-bit offsets: the same chain, wider.
    const big = await sharp(await jpegPhoto(90, 60, 34))
      .tiff({ bigtiff: true })
      .toBuffer();
    expect(tiffPages(big)).toMatchObject([{ width: 90, height: 60 }]);
    expect((await fit(big, { format: ["jpeg"] })).proof!.ok).toBe(true);
  });

  it("keep pages only where the brief asks, the file has them, and no other format is asked", async () => {
    const { facts } = await readSource(await book());
    const keeps = (clauses: object) =>
      keepsLayers(resolveBrief(parseBrief({ zumbrelBrief: 1, name: "b", ...clauses })), facts);
    expect([
      keeps({}),
      keeps({ layers: "keep" }),
      keeps({ layers: "keep", format: ["tiff"] }),
      keeps({ layers: "keep", format: ["jpeg"] }),
    ]).toEqual([false, true, true, false]);
  });
});
