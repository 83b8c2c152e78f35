import { expect, type Page, test } from "@playwright/test";
import JSZip from "jszip";
import sharp from "sharp";
import { jpegPhoto } from "../tests/support/photos";
import { dropFiles, editChip, makeAndDownload, measured, newBatch, openDesk, row } from "./support/desk";

/** RGBA of a file as the browser's own decoders see it. */
async function inBrowser(
  page: Page,
  bytes: Buffer,
  type: string,
): Promise<{ width: number; height: number; data: number[] }> {
  return page.evaluate(
    async ({ base64, kind }) => {
      const bitmap = await createImageBitmap(
        new Blob([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], { type: kind }),
      );
      const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext("2d")!;
      context.drawImage(bitmap, 0, 0);
      return {
        width: bitmap.width,
        height: bitmap.height,
        data: [...context.getImageData(0, 0, bitmap.width, bitmap.height).data],
      };
    },
    { base64: bytes.toString("base64"), kind: type },
  );
}

// Decoders of another make than the ones that wrote them.
for (const [format, name] of [
  ["webp", "WebP"],
  ["avif", "AVIF"],
  ["gif", "GIF"],
  ["bmp", "BMP"],
] as const) {
  test(`a ${name} from the Desk is what the browser sees`, async ({ page }) => {
    await openDesk(page);
    await newBatch(page, `As ${name}`);
    await dropFiles(page, [
      { name: "moth.jpg", mimeType: "image/jpeg", buffer: await jpegPhoto(400, 300, 77) },
    ]);
    await expect(row(page, "moth.jpg")).toBeVisible();
    await editChip(page, "Add format", { [name]: true });
    await editChip(page, "Add pixels", { "Long side": "120" });
    await measured(page);
    const { name: file, bytes } = await makeAndDownload(page);
    expect(file).toBe(`moth.${format}`);
    const seen = await inBrowser(page, bytes, `image/${format}`);
    expect([seen.width, seen.height]).toEqual([120, 90]);
    const plain = await sharp(await jpegPhoto(400, 300, 77))
      .resize(120, 90, { fit: "fill" })
      .raw()
      .toBuffer();
    let off = 0;
    for (let i = 0; i < 120 * 90; i += 1)
      for (let c = 0; c < 3; c += 1) off += Math.abs(seen.data[i * 4 + c] - plain[i * 3 + c]);
    // 256 colours leave more than the other formats.
    expect(off / (120 * 90 * 3)).toBeLessThan(format === "gif" ? 12 : 4);
  });
}

test("colour, sharpening and metadata are said in the chips and told in the plan, in their order", async ({
  page,
}) => {
  await openDesk(page);
  await newBatch(page, "All of it");
  await dropFiles(page, [
    {
      name: "plate.jpg",
      mimeType: "image/jpeg",
      buffer: await sharp(await jpegPhoto(900, 600, 78))
        .withIccProfile("p3")
        .withExif({ IFD0: { Artist: "Wren Alder" } })
        .jpeg()
        .toBuffer(),
    },
  ]);
  await expect(row(page, "plate.jpg")).toBeVisible();
  await editChip(page, "Add format", { TIFF: true });
  await editChip(page, "Add pixels", { "Long side": "300" });
  await editChip(page, "Add resolution", { Resolution: "300 ppi" });
  const more = async (title: string, fill: (dialog: ReturnType<Page["getByRole"]>) => Promise<unknown>) => {
    await page.getByRole("button", { name: "More clauses" }).click();
    await page.getByRole("menuitem", { name: title, exact: true }).click();
    const dialog = page.getByRole("dialog");
    await fill(dialog);
    await dialog.getByRole("button", { name: "Use this" }).click();
    await expect(dialog).toHaveCount(0);
  };
  await more("Colour", async (dialog) => {
    await dialog.getByLabel("Space").selectOption("srgb");
    await dialog.getByLabel("Bits").selectOption("16");
  });
  await more("Sharpening", async (dialog) => {
    await dialog.getByLabel("print, by the resolution").check();
    await dialog.getByLabel("Amount").fill("140");
    await dialog.getByRole("button", { name: "Use this" }).click();
    await expect(dialog.getByRole("alert")).toContainText("a whole number from 0 to 100");
    await dialog.getByLabel("Amount").fill("55");
  });
  await measured(page);
  const steps = page.getByRole("region", { name: "Plan" }).getByRole("listitem");
  const order = [
    /^Turn colours into sRGB/,
    /^Reduce 3 × to 300 × 200 px/,
    /^Sharpen for print at 300 ppi, 55 of 100/,
    /^Write 16 bits/,
    /^TIFF, packed by Deflate/,
    /^Write 300 ppi/,
    /^Leave out owner/,
  ];
  await expect(steps).toHaveCount(order.length);
  for (const [i, words] of order.entries()) await expect(steps.nth(i)).toHaveText(words);
  const { bytes } = await makeAndDownload(page);
  expect(bytes.includes("Wren Alder")).toBe(false);
  await expect(page.getByRole("region", { name: "Proof" })).toContainText("Left out: owner");
  const { depth, density, width } = await sharp(bytes).metadata();
  expect([depth, density, width]).toEqual(["ushort", 300, 300]);
});

/** A ball on its way, as a small animation. */
async function loop(): Promise<Buffer> {
  const [width, height, frames] = [120, 90, 8];
  const data = new Uint8Array(width * height * frames * 3);
  for (let f = 0, p = 0; f < frames; f += 1)
    for (let y = 0; y < height; y += 1)
      for (let x = 0; x < width; x += 1, p += 3)
        data.set(Math.hypot(x - 20 - f * 10, y - 45) < 12 ? [220, 40, 30] : [90 + x, 120 + (y >> 1), 150], p);
  const raw = { width, height: height * frames, channels: 3 as const, pageHeight: height };
  return sharp(data, { raw })
    .gif({ effort: 1, delay: Array<number>(frames).fill(70), loop: 0 })
    .toBuffer();
}

for (const [name, kind] of [
  ["WebP", "webp"],
  ["AVIF", "avif"],
])
  test(`an animation stays one in ${name} and a drawing is drawn anew, as the browser sees both`, async ({
    page,
  }) => {
    await openDesk(page);
    await newBatch(page, "For the course page");
    const drawing =
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 18"><rect width="12" height="18" fill="#c80000"/></svg>';
    await dropFiles(page, [
      { name: "loop.gif", mimeType: "image/gif", buffer: await loop() },
      { name: "logo.svg", mimeType: "image/svg+xml", buffer: Buffer.from(drawing) },
    ]);
    await expect(row(page, "logo.svg")).toBeVisible();
    await editChip(page, "Add format", { [name]: true });
    await editChip(page, "Add pixels", { "Long side": "60" });
    await page.getByRole("button", { name: "More clauses" }).click();
    await page.getByRole("menuitem", { name: "Frames", exact: true }).click();
    await page.getByRole("dialog").getByLabel("Keeps moving, in GIF, WebP or AVIF").check();
    await page.getByRole("button", { name: "Use this" }).click();
    await expect(page.getByRole("button", { name: /^Frames kept moving/ })).toBeVisible();
    await measured(page);
    await row(page, "loop.gif").click();
    const plan = page.getByRole("region", { name: "Plan" });
    await expect(plan).toContainText("Keep 8 frames moving");
    await expect(page.getByRole("link", { name: /^Weigh/ })).toHaveCount(0);
    await row(page, "logo.svg").click();
    await expect(plan).toContainText("Draw it at 60 × 45 px");
    await expect(page.getByRole("link", { name: /^Weigh/ })).toBeVisible();
    const { bytes } = await makeAndDownload(page);
    const zip = await JSZip.loadAsync(bytes);
    const moved = await zip.file(`loop.${kind}`)!.async("base64");
    const seen = await page.evaluate(
      async ({ base64, type }) => {
        const data = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
        const decoder = new ImageDecoder({ data, type });
        await decoder.completed;
        const { image } = await decoder.decode({ frameIndex: 5 });
        const context = new OffscreenCanvas(60, 45).getContext("2d")!;
        context.drawImage(image, 0, 0);
        const { frameCount: frames, repetitionCount: rounds } = decoder.tracks.selectedTrack!;
        return {
          frames,
          rounds,
          ms: image.duration! / 1000,
          ball: [...context.getImageData(35, 22, 1, 1).data],
        };
      },
      { base64: moved, type: `image/${kind}` },
    );
    expect(seen).toMatchObject({ frames: 8, rounds: Infinity, ms: 70 });
    expect(seen.ball[0]).toBeGreaterThan(seen.ball[1] + 100);
    const logo = await inBrowser(page, await zip.file(`logo.${kind}`)!.async("nodebuffer"), `image/${kind}`);
    expect([logo.width, logo.height]).toEqual([60, 45]);
    const at = (x: number, y: number) => logo.data.slice((y * 60 + x) * 4, (y * 60 + x) * 4 + 4);
    // Red to the very middle, nothing beyond it.
    expect(at(29, 20)[0]).toBeGreaterThan(190);
    expect(at(29, 20)[3]).toBe(255);
    expect(at(30, 20)[3]).toBe(0);
  });
