import { execFile } from "node:child_process";
import { mkdtemp, readFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import { expect, test } from "@playwright/test";
import JSZip from "jszip";
import sharp from "sharp";
import { jpegPhoto } from "../tests/support/photos";
import { checkAccess, chooseBrief, dropFiles, grid, measured, newBatch, openDesk, row } from "./support/desk";

const run = promisify(execFile);

/** A phone's picture, by Debian's heif-enc. */
async function heic(): Promise<Buffer> {
  const folder = await mkdtemp(join(tmpdir(), "zumbrel-"));
  await sharp(await jpegPhoto(1600, 1200, 701)).png().toFile(join(folder, "in.png"));
  await run("heif-enc", ["-q", "90", join(folder, "in.png"), "-o", join(folder, "out.heic")]);
  return readFile(join(folder, "out.heic"));
}

/** Artwork of two layers, one of them multiplied. */
async function artwork(): Promise<Buffer> {
  const zip = new JSZip();
  zip.file("mimetype", "image/openraster", { compression: "STORE" });
  zip.file("stack.xml", '<image w="1600" h="1200"><stack><layer name="shade" src="data/shade.png" composite-op="svg:multiply"/><layer name="moth" src="data/moth.png"/></stack></image>');
  zip.file("data/moth.png", await sharp(await jpegPhoto(1600, 1200, 702)).png().toBuffer());
  zip.file("data/shade.png", await sharp({ create: { width: 800, height: 1200, channels: 4, background: "#808080ff" } }).png().toBuffer());
  return zip.generateAsync({ type: "nodebuffer" });
}

test("a phone's picture and layered artwork are fitted to a brief like any other photo", async ({ page }) => {
  await openDesk(page);
  await newBatch(page, "Heavy sources");
  await dropFiles(page, [{ name: "phone.heic", mimeType: "image/heic", buffer: await heic() }, { name: "plate.ora", mimeType: "image/openraster", buffer: await artwork() }]);
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "3");
  await chooseBrief(page, "Course card");
  await measured(page);
  await expect(row(page, "phone.heic")).toContainText("1100 × 825");
  await expect(row(page, "phone.heic")).toContainText("HEIC");
  await row(page, "plate.ora").click();
  await expect(page.getByRole("region", { name: "Plan" })).toContainText("Flatten its layers");
  await expect.poll(() => row(page, "plate.ora").locator("img").evaluate((img: HTMLImageElement) => img.naturalWidth), { timeout: 20_000 }).toBeGreaterThan(10);
  await checkAccess(page);
  await page.getByRole("button", { name: "Make 2 files" }).click();
  const take = page.getByRole("link", { name: /^Download 2 files/ });
  await expect(take).toBeVisible({ timeout: 60_000 });
  const [download] = await Promise.all([page.waitForEvent("download"), take.click()]);
  const zip = await JSZip.loadAsync(await readFile(await download.path()));
  expect(Object.keys(zip.files).sort()).toEqual(["phone.jpg", "plate.jpg"]);
  const { data, info } = await sharp(await zip.file("plate.jpg")!.async("nodebuffer")).raw().toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([1100, 825]);
  // The shaded half is half as light in code values.
  const mean = (from: number, to: number) => {
    let sum = 0;
    for (let y = 0; y < info.height; y += 5) for (let x = from; x < to; x += 5) sum += data[(y * info.width + x) * 3 + 1];
    return sum;
  };
  expect(mean(0, 500) / mean(600, 1100)).toBeLessThan(0.75);
});
