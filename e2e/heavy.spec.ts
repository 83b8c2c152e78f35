import { execFile } from "node:child_process";
import { mkdtemp, readFile, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import { expect, test } from "@playwright/test";
import JSZip from "jszip";
import sharp from "sharp";
import { avifColour, avifLight, readAvif } from "@/core/containers";
import { writeProfile } from "@/core/pixels/colour";
import { dng } from "../tests/support/dng";
import { jpegPhoto } from "../tests/support/photos";
import {
  checkAccess,
  chooseBrief,
  dropFiles,
  editChip,
  grid,
  makeAndDownload,
  measured,
  newBatch,
  openDesk,
  row,
} from "./support/desk";

const run = promisify(execFile);

/** A phone's picture, by Debian's heif-enc. */
async function heic(): Promise<Buffer> {
  const folder = await mkdtemp(join(tmpdir(), "zumbrel-"));
  await sharp(await jpegPhoto(1200, 900, 701))
    .png()
    .toFile(join(folder, "in.png"));
  await run("heif-enc", ["-q", "90", join(folder, "in.png"), "-o", join(folder, "out.heic")]);
  return readFile(join(folder, "out.heic"));
}

/** Artwork of two layers, one of them multiplied; 4 : 3. */
async function artwork(width: number): Promise<Buffer> {
  const height = (width * 3) / 4;
  const zip = new JSZip();
  zip.file("mimetype", "image/openraster", { compression: "STORE" });
  zip.file(
    "stack.xml",
    `<image w="${width}" h="${height}"><stack><layer name="shade" src="data/shade.png" composite-op="svg:multiply"/><layer name="moth" src="data/moth.png"/></stack></image>`,
  );
  zip.file(
    "data/moth.png",
    await sharp(await jpegPhoto(800, 600, 702))
      .resize(width, height)
      .png()
      .toBuffer(),
  );
  zip.file(
    "data/shade.png",
    await sharp({ create: { width: width / 2, height, channels: 4, background: "#808080ff" } })
      .png()
      .toBuffer(),
  );
  return zip.generateAsync({ type: "nodebuffer" });
}

/** 16 bits in a space wider than screens. */
async function wideTiff(): Promise<Buffer> {
  const profile = join(await mkdtemp(join(tmpdir(), "zumbrel-")), "romm.icc");
  await writeFile(profile, writeProfile("romm-rgb"));
  return sharp(await jpegPhoto(1120, 840, 704))
    .toColourspace("rgb16")
    .withIccProfile(profile)
    .tiff({ compression: "lzw" })
    .toBuffer();
}

/** A dark sky with the sun in its middle; small, since coding ten bits takes long. */
async function dusk(): Promise<Buffer> {
  const [width, height] = [450, 300];
  const data = new Uint8Array(width * height * 3);
  for (let y = 0, p = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, p += 3) {
      const away = Math.hypot(x - width / 2, y - height / 2);
      const glow = 150 * Math.exp(-away / 80);
      data.set(
        away < 30 ? [255, 255, 255] : [70 + glow + (x % 5), 60 + glow * 0.7 + (y % 4), 80 + glow * 0.3],
        p,
      );
    }
  }
  return sharp(data, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 95 })
    .toBuffer();
}

test("a phone's picture and layered artwork are fitted to a brief like any other photo", async ({ page }) => {
  await openDesk(page);
  await newBatch(page, "Heavy sources");
  await dropFiles(page, [
    { name: "phone.heic", mimeType: "image/heic", buffer: await heic() },
    { name: "plate.ora", mimeType: "image/openraster", buffer: await artwork(1200) },
  ]);
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "3");
  await chooseBrief(page, "Course card");
  await measured(page);
  await expect(row(page, "phone.heic")).toContainText("1100 × 825");
  await expect(row(page, "phone.heic")).toContainText("HEIC");
  await row(page, "plate.ora").click();
  await expect(page.getByRole("region", { name: "Plan" })).toContainText("Flatten its layers");
  await expect
    .poll(
      () =>
        row(page, "plate.ora")
          .locator("img")
          .evaluate((img: HTMLImageElement) => img.naturalWidth),
      { timeout: 60_000 },
    )
    .toBeGreaterThan(10);
  await checkAccess(page);
  await page.getByRole("button", { name: "Make 2 files" }).click();
  const take = page.getByRole("link", { name: /^Download 2 files/ });
  await expect(take).toBeVisible({ timeout: 240_000 });
  const [download] = await Promise.all([page.waitForEvent("download"), take.click()]);
  const zip = await JSZip.loadAsync(await readFile(await download.path()));
  expect(Object.keys(zip.files).sort()).toEqual(["phone.jpg", "plate.jpg"]);
  const { data, info } = await sharp(await zip.file("plate.jpg")!.async("nodebuffer"))
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([1100, 825]);
  // The shaded half is half as light in code values.
  const mean = (from: number, to: number) => {
    let sum = 0;
    for (let y = 0; y < info.height; y += 5)
      for (let x = from; x < to; x += 5) sum += data[(y * info.width + x) * 3 + 1];
    return sum;
  };
  expect(mean(0, 500) / mean(600, 1100)).toBeLessThan(0.75);
});

test("a raw file is developed, or gives its camera's own picture; both ways stand side by side in Weigh", async ({
  page,
}) => {
  await openDesk(page);
  await newBatch(page, "From the camera");
  await dropFiles(page, [
    { name: "night.dng", mimeType: "image/x-raw", buffer: await dng(1200, 800, { seed: 703, light: 0.7 }) },
    { name: "wide.tif", mimeType: "image/tiff", buffer: await wideTiff() },
  ]);
  await chooseBrief(page, "Course card");
  await measured(page);
  await expect(row(page, "night.dng")).toContainText("1100 × 733");
  await expect(row(page, "night.dng")).toContainText("raw");
  await row(page, "night.dng").click();
  const plan = page.getByRole("region", { name: "Plan" });
  await expect(plan).toContainText("Develop the sensor's values, white balance as shot");
  await page.getByRole("radio", { name: "The camera's own picture, 600 × 400 px" }).click();
  await expect(plan).toContainText("Take the camera's own picture, 600 × 400 px");
  await measured(page);
  await expect(plan).toContainText("was enlarged 1.8 times");
  await page.getByRole("button", { name: /^Undo/ }).click();
  await expect(page.getByRole("radio", { name: "Developed here" })).toBeChecked();
  await measured(page);
  await checkAccess(page);
  await row(page, "wide.tif").click();
  await expect(plan).toContainText("the file is in ROMM RGB");
  await row(page, "night.dng").click();
  await page.getByRole("link", { name: /^Weigh/ }).click();
  const pane = (n: number) => page.getByRole("region", { name: new RegExp(`^Pane ${n}:`) });
  await expect(pane(1)).toHaveAttribute("data-shown", "developed", { timeout: 240_000 });
  await expect(pane(2)).toHaveAttribute("data-shown", "camera", { timeout: 240_000 });
  await expect(pane(2)).toContainText("from 600 × 400 px");
  await expect(pane(2)).toContainText(/\d kB/);
  await page.keyboard.press("2");
  await page.keyboard.press("u");
  await expect(page.getByText("It is taken in this way now")).toBeVisible({ timeout: 90_000 });
  await page.keyboard.press("Escape");
  await expect(page.getByRole("radio", { name: "The camera's own picture, 600 × 400 px" })).toBeChecked();
  await measured(page);
  const { bytes } = await makeAndDownload(page);
  expect(Object.keys((await JSZip.loadAsync(bytes)).files).sort()).toEqual(["night.jpg", "wide.jpg"]);
});

test("layered artwork: which layers take part, what weighs how much, and a lighter file that stays layered", async ({
  page,
}) => {
  // The archive takes none below 1500 px.
  const original = await artwork(1600);
  await openDesk(page);
  await newBatch(page, "Artwork");
  await dropFiles(page, [{ name: "plate.ora", mimeType: "image/openraster", buffer: original }]);
  await chooseBrief(page, "Course card");
  await measured(page);
  await page.getByRole("link", { name: "Layers and what they weigh" }).click();
  await expect(page.getByRole("heading", { name: "What weighs how much" })).toBeVisible();
  await expect(page.getByRole("row").filter({ hasText: "moth" })).toContainText("MB");
  await page.getByRole("checkbox", { name: /^shade/ }).click();
  await expect(page.getByRole("button", { name: "As the file says" })).toBeVisible();
  await checkAccess(page);
  // The brief asks for JPEG, which holds no layers.
  await expect(page.getByRole("radio", { name: "It keeps its layers, and weighs less" })).toBeDisabled();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("region", { name: "Plan" })).toContainText(
    "those that you chose are laid on each other",
  );
  await page.getByRole("button", { name: /^Undo/ }).click();
  await expect(page.getByRole("region", { name: "Plan" })).toContainText("those that are visible");

  await chooseBrief(page, "Poster archive");
  await page.getByRole("link", { name: "Layers and what they weigh" }).click();
  await expect(page.getByRole("radio", { name: "It keeps its layers, and weighs less" })).toBeChecked();
  await expect(page.getByRole("status").filter({ hasText: "1600 × 1200 px" })).toBeVisible({
    timeout: 240_000,
  });
  const measures = page.getByRole("region", { name: "Measures" });
  await expect(measures.locator("label").filter({ hasText: "Pack pictures tighter" })).toContainText(
    /−[\d.]+ [kM]?B/,
  );
  await measures.getByRole("checkbox", { name: /^Cut away/ }).click();
  await expect(measures.getByRole("checkbox", { name: /^Cut away/ })).not.toBeChecked();
  await checkAccess(page);
  await page.keyboard.press("Escape");
  await measured(page);
  await expect(page.getByRole("region", { name: "Plan" })).toContainText(
    "Keep its layers, 2 pictures of them",
  );
  const { name, bytes } = await makeAndDownload(page);
  expect(name).toBe("plate.ora");
  expect(bytes.length).toBeLessThan(original.length);
  const packed = await JSZip.loadAsync(bytes);
  expect(Object.keys(packed.files)[0]).toBe("mimetype");
  expect(await packed.file("stack.xml")!.async("string")).toContain('composite-op="svg:multiply"');
});

test("dusk becomes an HDR AVIF: lights are set, read in multiples of white, shown above it, and signalled in the file", async ({
  page,
}) => {
  // Ten-bit AVIF takes half a minute a file beside other work, on a slow machine more.
  test.setTimeout(720_000);
  await openDesk(page);
  await newBatch(page, "Dusk");
  await dropFiles(page, [{ name: "dusk.jpg", mimeType: "image/jpeg", buffer: await dusk() }]);
  await chooseBrief(page, "Hut screen, light above white");
  await measured(page);
  const plan = page.getByRole("region", { name: "Plan" });
  await expect(plan).toContainText("Take lights above white, up to 4.9 times");
  await expect(page.getByRole("complementary", { name: "Selected photo" })).toContainText(
    /Light: at most \d+ cd\/m² \(4\.\d × white/,
  );
  const peak = page.getByRole("region", { name: "Light above white" }).getByRole("slider", { name: "Peak" });
  await peak.focus();
  for (let i = 0; i < 9; i += 1) await page.keyboard.press("ArrowLeft");
  await expect(plan).toContainText("up to 4 times", { timeout: 90_000 });
  await measured(page);
  await checkAccess(page);
  await page.getByRole("link", { name: /^Weigh/ }).click();
  const reference = page.getByRole("region", { name: "Pane 1: Before encoding" });
  await expect(reference).toHaveAttribute("data-shown", "reference", { timeout: 240_000 });
  // The sun stands in the middle of the picture.
  await expect(reference).toContainText(/255 255 255.*[34]\.\d\d × white, \+[12]\.\d stops/);
  await page.getByRole("button", { name: /^Light above white: ordinary/ }).click();
  await page.keyboard.press("l");
  await expect(page.getByRole("button", { name: "Light above white: above white" })).toBeVisible();
  await expect(reference.getByText("above white by")).toBeVisible();
  await checkAccess(page);
  await page.keyboard.press("Escape");
  const { name, bytes } = await makeAndDownload(page);
  expect(name).toBe("dusk.avif");
  // ITU-T H.273: 12 is Display P3, 16 is PQ.
  expect(avifColour(readAvif(bytes))).toMatchObject({ primaries: 12, transfer: 16 });
  expect(avifLight(readAvif(bytes))!.peak / 203).toBeGreaterThan(3.4);
  const folder = await mkdtemp(join(tmpdir(), "zumbrel-"));
  await writeFile(join(folder, "dusk.avif"), bytes);
  const { stdout } = await run("avifdec", ["--info", join(folder, "dusk.avif")]);
  expect(stdout).toMatch(/Bit Depth\s*: 10/);
  expect(stdout).toMatch(/Transfer Char\.\s*: 16/);
});

test("dusk as a JPEG with light: ordinary to any program, above white on Weigh when it comes back", async ({
  page,
}) => {
  test.setTimeout(720_000);
  await openDesk(page);
  await newBatch(page, "Dusk for the page");
  await dropFiles(page, [{ name: "dusk.jpg", mimeType: "image/jpeg", buffer: await dusk() }]);
  await chooseBrief(page, "Hut screen, light above white");
  await editChip(page, "Format", { AVIF: false, JPEG: true });
  await editChip(page, "File size", { "At most": "30 KB" });
  await measured(page);
  await expect(page.getByRole("region", { name: "Plan" })).toContainText("Take lights above white");
  const { name, bytes } = await makeAndDownload(page);
  expect(name).toBe("dusk.jpg");
  expect(bytes.length).toBeLessThanOrEqual(30_720);
  // Debian's djpeg knows nothing of gain maps, and has no warning for what follows the picture.
  const folder = await mkdtemp(join(tmpdir(), "zumbrel-"));
  await writeFile(join(folder, "dusk.jpg"), bytes);
  const { stdout, stderr } = await run("djpeg", ["-ppm", join(folder, "dusk.jpg")], {
    encoding: "buffer",
    maxBuffer: 1e8,
  });
  expect(stderr.length).toBe(0);
  expect(stdout.subarray(0, 2).toString()).toBe("P6");
  // The browser, too, shows an ordinary picture of its size.
  const size = await page.evaluate(async (base64) => {
    const image = new Image();
    image.src = `data:image/jpeg;base64,${base64}`;
    await image.decode();
    return [image.naturalWidth, image.naturalHeight];
  }, bytes.toString("base64"));
  expect(size).toEqual([450, 300]);
  expect((await sharp(bytes).metadata()).gainMap!.image.length).toBeGreaterThan(100);

  // Brought in again, its light is there: what it is fitted to is seen above white.
  await newBatch(page, "Dusk come back");
  await dropFiles(page, [{ name: "back.jpg", mimeType: "image/jpeg", buffer: bytes }]);
  await chooseBrief(page, "Hut screen, light above white");
  await expect(page.getByRole("region", { name: "Plan" })).toContainText("Keep the light above white");
  await page.getByRole("link", { name: /^Weigh/ }).click();
  const reference = page.getByRole("region", { name: "Pane 1: Before encoding" });
  await expect(reference).toHaveAttribute("data-shown", "reference", { timeout: 240_000 });
  await expect(reference).toContainText(/255 255 255.*[345]\.\d\d × white, \+[12]\.\d stops/);
  await page.getByRole("button", { name: /^Light above white: ordinary/ }).click();
  await page.keyboard.press("l");
  await expect(reference.getByText("above white by")).toBeVisible();
});
