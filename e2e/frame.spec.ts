import { expect, type Page, test } from "@playwright/test";
import jpegJs from "jpeg-js";
import { PNG } from "pngjs";
import sharp from "sharp";
import { physOf, readJpeg, readPng } from "@/core/containers";
import { jpegPhoto } from "../tests/support/photos";
import {
  checkAccess,
  dropFiles,
  editChip,
  makeAndDownload,
  measured,
  newBatch,
  openByKey,
  openDesk,
  row,
} from "./support/desk";

const [W, H] = [2400, 1000];
/** A photo whose colours tell where in it they stand: red grows across, green down. */
async function map(): Promise<Buffer> {
  const data = new Uint8Array(W * H * 3);
  for (let y = 0, i = 0; y < H; y += 1)
    for (let x = 0; x < W; x += 1, i += 3) data.set([(x / W) * 255, (y / H) * 255, 120], i);
  return sharp(data, { raw: { width: W, height: H, channels: 3 } })
    .png()
    .toBuffer();
}

const number = (page: Page, label: string) =>
  page.getByRole("region", { name: "Frame in numbers" }).getByLabel(label).inputValue().then(Number);
/** The frame is on the server and its file measured. */
const settled = (page: Page) =>
  expect(page.getByText("not measured yet")).toHaveCount(0, { timeout: 90_000 });

test("a wide photo framed to 615 × 650 by hand and keys, another of three held, a file that proves it", async ({
  page,
}) => {
  await openDesk(page);
  await newBatch(page, "Exact crop");
  await dropFiles(page, [{ name: "wide.png", mimeType: "image/png", buffer: await map() }]);
  await expect(row(page, "wide.png")).toBeVisible();
  await editChip(page, "Add format", { PNG: true });
  await editChip(page, "Add pixels", { Width: "615", Height: "650" });
  await measured(page);
  await expect(row(page, "wide.png")).toContainText("Needs you");
  await row(page, "wide.png").click();
  await openByKey(page, "Frame");
  const stage = page.getByTestId("stage");
  await expect(stage).toBeVisible();
  await settled(page);
  await checkAccess(page);

  const start = await number(page, "Left, px");
  const box = (await stage.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 90, box.y + box.height / 2, { steps: 6 });
  await page.mouse.up();
  await expect.poll(() => number(page, "Left, px")).toBeGreaterThan(start + 100);
  const dragged = await number(page, "Left, px");
  for (const key of ["Shift+ArrowLeft", "Shift+ArrowLeft", "ArrowLeft", "ArrowRight", "ArrowRight"])
    await page.keyboard.press(key);
  await expect.poll(() => number(page, "Left, px")).toBeCloseTo(dragged - 19, 0);
  // Closer about the same middle, by wheel.
  const width = await number(page, "Width, px");
  await page.mouse.wheel(0, -200);
  await expect.poll(() => number(page, "Width, px")).toBeLessThan(width * 0.9);
  await settled(page);
  await expect(page.getByRole("img", { name: "wide.png as it will be" })).toBeVisible();
  const [left, top, part] = [
    await number(page, "Left, px"),
    await number(page, "Top, px"),
    await number(page, "Width, px"),
  ];
  await page.getByRole("button", { name: /^Right so/ }).click();
  await settled(page);
  await page.keyboard.press("Escape");
  await expect(row(page, "wide.png")).toContainText("Meets");

  // Held first: the pixels. Then the paper, which makes new ones; undone.
  await page.getByRole("button", { name: "Paper and pixels" }).click();
  const sum = page.getByRole("dialog");
  await expect(sum.getByRole("status")).toContainText("Keeps the 615 × 650 px");
  await sum.getByRole("radio", { name: "Paper" }).check();
  await sum.getByLabel("Resolution in ppi").fill("100");
  await page.keyboard.press("Enter");
  await expect(sum.getByRole("status")).toContainText("Makes new pixels");
  await checkAccess(page);
  await sum.getByRole("radio", { name: "Pixels" }).check();
  await sum.getByLabel("Resolution in ppi").fill("254");
  await page.keyboard.press("Enter");
  await expect(sum.getByLabel("Width on paper in cm")).toHaveValue("6.15");
  await sum.getByRole("button", { name: "Put it into the brief" }).click();
  await expect(page.getByRole("button", { name: "Resolution 254 ppi" })).toBeVisible();
  await measured(page);
  await expect(row(page, "wide.png")).toContainText("Meets");

  const { bytes } = await makeAndDownload(page);
  const png = PNG.sync.read(bytes);
  expect([png.width, png.height]).toEqual([615, 650]);
  expect(physOf(readPng(bytes))![0]).toBeCloseTo(254, 1);
  const at = (x: number, y: number) => [...png.data.subarray((y * 615 + x) * 4, (y * 615 + x) * 4 + 2)];
  for (const [x, y] of [
    [307, 325],
    [10, 10],
    [604, 639],
  ]) {
    const [red, green] = at(x, y);
    expect(Math.abs(red - ((left + ((x + 0.5) / 615) * part) / W) * 255)).toBeLessThan(1.6);
    expect(Math.abs(green - ((top + ((y + 0.5) / 650) * ((part * 650) / 615)) / H) * 255)).toBeLessThan(1.6);
  }
});

test("another resolution changes no byte of the picture", async ({ page }) => {
  await openDesk(page);
  await newBatch(page, "Only denser");
  const photo = await jpegPhoto(900, 600, 21);
  await dropFiles(page, [{ name: "print.jpg", mimeType: "image/jpeg", buffer: photo }]);
  await expect(row(page, "print.jpg")).toBeVisible();
  await page.getByRole("button", { name: "Paper and pixels" }).click();
  const sum = page.getByRole("dialog");
  await sum.getByLabel("Width on paper in cm").fill("7,5");
  await page.keyboard.press("Enter");
  await expect(sum.getByLabel("Resolution in ppi")).toHaveValue("304.8");
  await expect(sum.getByRole("status")).toContainText("byte for byte");
  await sum.getByLabel("Width on paper in cm").fill("0");
  await page.keyboard.press("Enter");
  await expect(sum.getByRole("alert")).toHaveText(
    "Paper goes from above 0 to 100 m; found 0 m. Check the unit.",
  );
  await sum.getByLabel("Width on paper in cm").fill("7.5");
  await page.keyboard.press("Enter");
  // The same value as before is no change, so the sentence goes only with one that is.
  await sum.getByLabel("Width on paper in cm").fill("7.6");
  await page.keyboard.press("Enter");
  await expect(sum.getByRole("alert")).toHaveCount(0);
  await sum.getByRole("button", { name: "Put it into the brief" }).click();
  await measured(page);
  const { bytes } = await makeAndDownload(page);
  await expect(page.getByRole("region", { name: "Proof" })).toContainText("the picture data, byte for byte");
  const [a, b] = [readJpeg(photo), readJpeg(bytes)];
  expect(bytes.subarray(b.scan, b.end!).equals(photo.subarray(a.scan, a.end!))).toBe(true);
  expect(Buffer.from(jpegJs.decode(bytes).data).equals(Buffer.from(jpegJs.decode(photo).data))).toBe(true);
});

test("from photo to photo with one key, the frame taken along, all of it undone", async ({ page }) => {
  await page.setViewportSize({ width: 1024, height: 768 });
  await openDesk(page);
  await newBatch(page, "Along");
  const long = "a-very-long-name-of-a-photo-that-was-taken-on-the-moor-at-night-and-never-renamed.jpg";
  await dropFiles(page, [
    { name: "one.jpg", mimeType: "image/jpeg", buffer: await jpegPhoto(1200, 800, 41) },
    { name: long, mimeType: "image/jpeg", buffer: await jpegPhoto(1200, 800, 42) },
  ]);
  await expect(row(page, "one.jpg")).toBeVisible();
  await editChip(page, "Add pixels", { Width: "300", Height: "300" });
  await measured(page);
  await row(page, "one.jpg").click();
  await page.getByRole("link", { name: /^Frame/ }).click();
  await expect(page.getByTestId("stage")).toBeVisible();
  // A choice on a frame that nobody has moved is kept as well.
  await page.getByLabel("Pixels made by").selectOption("catmull-rom");
  await settled(page);
  await page.reload();
  await expect(page.getByLabel("Pixels made by")).toHaveValue("catmull-rom");
  await page.keyboard.press("r");
  for (let k = 0; k < 6; k += 1) await page.keyboard.press(".");
  await page.keyboard.press("+");
  await expect(page.getByLabel("Degrees")).toHaveValue("0.6");
  await page.getByLabel("Take this frame along").check();
  await settled(page);
  await checkAccess(page);
  await page.getByTestId("stage").click({ position: { x: 4, y: 4 } });
  await page.keyboard.press("Enter");
  await expect(page.getByRole("status").filter({ hasText: "2 of 2" })).toBeVisible();
  await expect(page.getByLabel("Degrees")).toHaveValue("0.6");
  await expect(
    page.getByRole("navigation", { name: "Photos of the batch" }).getByRole("button").nth(1),
  ).toContainText("set by hand");
  await expect(page.getByLabel("Degrees")).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1024);
  await page.keyboard.press("Control+z");
  await expect(page.getByLabel("Degrees")).toHaveValue("0");
  await page.keyboard.press("p");
  await expect(page.getByLabel("Degrees")).toHaveValue("0.6");
  // A frame that no photo can take is refused where it comes in.
  const url = new URL(page.url());
  const answer = await page.request.put(`${url.origin}/api/batches/${url.searchParams.get("batch")}/frame`, {
    data: { rowId: url.searchParams.get("row"), frame: { x: 0.5, y: 0.5, angle: 1e9 }, accepted: true },
    headers: { origin: url.origin },
  });
  expect(answer.status()).toBe(400);
  expect(((await answer.json()) as { error: string }).error).toContain("frame.angle");
});
