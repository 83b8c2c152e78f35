import { expect, test } from "@playwright/test";
import jpegJs from "jpeg-js";
import { fromBuffer } from "yauzl";
import { jpegPhoto, pngPhoto } from "../tests/support/photos";
import {
  address,
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

const jpeg = (name: string, buffer: Buffer) => ({ name, mimeType: "image/jpeg", buffer });

function unzip(bytes: Buffer): Promise<Record<string, Buffer>> {
  return new Promise((resolve, reject) => {
    fromBuffer(bytes, { lazyEntries: true }, (error, zip) => {
      if (error) return reject(error);
      const files: Record<string, Buffer> = {};
      zip.on("entry", (entry: { fileName: string }) =>
        zip.openReadStream(entry as never, (failed, stream) => {
          if (failed) return reject(failed);
          const pieces: Buffer[] = [];
          stream.on("data", (piece: Buffer) => pieces.push(piece));
          stream.on("end", () => {
            files[entry.fileName] = Buffer.concat(pieces);
            zip.readEntry();
          });
        }),
      );
      zip.on("end", () => resolve(files));
      zip.readEntry();
    });
  });
}

test("a photo in, two chips edited, a file out that meets the rules", async ({ page }) => {
  await openDesk(page);
  await newBatch(page, "First form");
  await dropFiles(page, [jpeg("warden.jpg", await jpegPhoto(1500, 2000, 31))]);
  await expect(row(page, "warden.jpg")).toBeVisible();
  await expect(page.getByRole("button", { name: "Say what is asked first" })).toBeDisabled();
  // From nothing to the form's rules: what was said last time does not stick.
  await editChip(page, "Add format", { JPEG: true });
  await editChip(page, "Add pixels", { "Long side": "at most 900" });
  await editChip(page, "Add file size", { "At most": "1 MB" });
  await editChip(page, "Pixels", { Width: "240", Height: "300px", "Long side": "" });
  await editChip(page, "File size", { "At least": "24 KB", "At most": "60" });
  await expect(page.getByRole("button", { name: "Pixels 240 × 300" })).toBeVisible();
  await expect(page.getByRole("button", { name: "File size 24 to 60 KB" })).toBeVisible();
  await measured(page);
  await expect(row(page, "warden.jpg")).toContainText("240 × 300");
  await expect(row(page, "warden.jpg")).toContainText("Meets");
  await checkAccess(page);
  const { name, bytes } = await makeAndDownload(page);
  expect(name).toBe("warden.jpg");
  const decoded = jpegJs.decode(bytes);
  expect([decoded.width, decoded.height]).toEqual([240, 300]);
  expect(bytes.length).toBeGreaterThanOrEqual(24 * 1024);
  expect(bytes.length).toBeLessThanOrEqual(60_000);
  await expect(row(page, "warden.jpg")).toContainText("Met");
  const proof = page.getByRole("region", { name: "Proof" });
  await expect(proof).toContainText("File size");
  await expect(proof).toContainText("asked: 24 to 60 KB");
  await checkAccess(page);
});

test("a purpose and two figures make a brief where nobody has a wording; by keyboard", async ({ page }) => {
  await openDesk(page);
  await newBatch(page, "Without a wording");
  await dropFiles(page, [jpeg("warden.jpg", await jpegPhoto(1200, 1600, 33))]);
  await expect(row(page, "warden.jpg")).toBeVisible();
  await page.getByRole("button", { name: "Choose a brief" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("menuitem", { name: /^Mail / })).toBeVisible();
  await page.keyboard.type("For");
  await expect(page.getByRole("menuitem", { name: /^Form / })).toBeFocused();
  await page.keyboard.press("Enter");
  const form = page.getByRole("dialog", { name: "A brief for: Form" });
  await expect(form.getByLabel("At least")).toBeFocused();
  await form.getByLabel("At most").fill("a little");
  await page.keyboard.press("Enter");
  await expect(form.getByRole("alert")).toContainText("a little");
  await checkAccess(page);
  await form.getByLabel("At most").fill("60");
  await form.getByLabel("Width").fill("240");
  await form.getByLabel("Height").fill("320");
  await form.getByRole("button", { name: "Use for the batch" }).click();
  await expect(page.getByRole("heading", { name: "Form", exact: true })).toBeVisible();
  await expect(page.getByRole("button", { name: "File size 20 to 60 KB" })).toBeVisible();
  await measured(page);
  await expect(row(page, "warden.jpg")).toContainText("240 × 320");
  await expect(row(page, "warden.jpg")).toContainText("Meets");
});

test("edits of a brief made faster than the server answers are all kept", async ({ page }) => {
  await openDesk(page);
  await newBatch(page, "In a hurry");
  await dropFiles(page, [jpeg("hurried.jpg", await jpegPhoto(900, 1200, 36))]);
  await editChip(page, "Add format", { JPEG: true });
  await expect(page.getByRole("button", { name: "Keep on the shelf" })).toBeVisible();
  // The server takes the first edit, but its answer to "what is the batch now?" comes after the second.
  let release = () => {};
  const released = new Promise<void>((resolve) => {
    release = resolve;
  });
  await page.route(/\/api\/batches\/[^/]+$/, async (route) => {
    await released;
    await route.continue();
  });
  const taken = page.waitForResponse((answer) => /\/batches\/[^/]+\/brief$/.test(answer.url()));
  await editChip(page, "Add pixels", { "Long side": "at most 900" });
  await taken;
  await editChip(page, "Add file size", { "At most": "90 KB" });
  release();
  await expect(page.getByRole("button", { name: "Keep on the shelf" })).toBeVisible();
  await expect(page.getByRole("button", { name: /^Pixels/ })).toContainText("900");
  await expect(page.getByRole("button", { name: /^File size/ })).toContainText("90 KB");
  await measured(page);
  await page.reload();
  await expect(page.getByRole("button", { name: /^Pixels/ })).toContainText("900");
  await expect(page.getByRole("button", { name: /^File size/ })).toContainText("90 KB");
});

test("an edit that is under way when the first photo comes is kept by the next", async ({ page }) => {
  await openDesk(page);
  await newBatch(page, "Before the photo");
  let release = () => {};
  const released = new Promise<void>((resolve) => {
    release = resolve;
  });
  await page.route(/\/api\/batches\/[^/]+\/brief$/, async (route) => {
    await released;
    await route.continue();
  });
  await editChip(page, "Add format", { JPEG: true });
  await dropFiles(page, [jpeg("late.jpg", await jpegPhoto(900, 1200, 37))]);
  await expect(grid(page).getByRole("row", { selected: true })).toContainText("late.jpg");
  // The form is opened while the first edit is still on its way, for a photo that was not there when it was made.
  await editChip(page, "Add file size", { "At most": "90 KB" });
  release();
  await expect(page.getByRole("button", { name: "Keep on the shelf" })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("button", { name: /^Format/ })).toContainText("JPEG");
  await expect(page.getByRole("button", { name: /^File size/ })).toContainText("90 KB");
});

test("several photos: one bad, one wide; undo, redo, leaving out, and a ZIP", async ({ page }) => {
  await openDesk(page);
  await newBatch(page, "Several");
  await chooseBrief(page, "Night-trapping permit: portrait");
  await dropFiles(page, [
    jpeg("letter.jpg", Buffer.from("Dear office, this is no picture")),
    jpeg("upright.jpg", await jpegPhoto(800, 1000, 32)),
    jpeg("wide.jpg", await jpegPhoto(1600, 600, 33)),
    { name: "drawing.png", mimeType: "image/png", buffer: await pngPhoto(480, 600, 34) },
    jpeg("half.jpg", (await jpegPhoto(400, 500, 35)).subarray(0, 9000)),
  ]);
  await expect(page.getByRole("alert").filter({ hasText: "letter.jpg" })).toContainText(
    "This is a text file, not a picture",
  );
  await expect(page.getByRole("alert").filter({ hasText: "half.jpg" })).toContainText("cut short");
  await page.getByRole("button", { name: "Dismiss letter.jpg" }).click();
  await page.getByRole("button", { name: "Dismiss half.jpg" }).click();
  await measured(page);
  await expect(row(page, "wide.jpg")).toContainText("Needs you");

  // The frame by keys, then undone and made again.
  await row(page, "wide.jpg").click();
  const frame = page.getByRole("slider", { name: /Frame on the photo/ });
  const before = await frame.getAttribute("aria-valuenow");
  await frame.focus();
  for (let i = 0; i < 6; i += 1) await page.keyboard.press("Shift+ArrowLeft");
  await expect(row(page, "wide.jpg")).toContainText("Meets");
  await expect(frame).not.toHaveAttribute("aria-valuenow", before!);
  await page.getByRole("button", { name: /^Undo/ }).click();
  await expect(frame).toHaveAttribute("aria-valuenow", before!);
  await expect(row(page, "wide.jpg")).toContainText("Needs you");
  await page.getByRole("button", { name: "It is right so" }).click();
  await expect(row(page, "wide.jpg")).toContainText("Meets");

  // Keyboard only: down the grid, leave one out, and take that back.
  await grid(page).focus();
  await page.keyboard.press("End");
  await expect(grid(page).getByRole("row", { selected: true })).toHaveAttribute("aria-rowindex", "4");
  await page.keyboard.press("Delete");
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "3");
  await page.keyboard.press("Control+z");
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "4");
  await page.keyboard.press("Control+Shift+z");
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "3");
  await page.keyboard.press("Control+z");
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "4");

  await measured(page);
  const { bytes } = await makeAndDownload(page);
  const files = await unzip(bytes);
  expect(Object.keys(files).sort()).toEqual(["drawing-permit.jpg", "upright-permit.jpg", "wide-permit.jpg"]);
  for (const file of Object.values(files))
    expect([jpegJs.decode(file).width, jpegJs.decode(file).height]).toEqual([240, 300]);
});

test("what is wrong in a chip is said in place, and loses nothing", async ({ page }) => {
  await openDesk(page);
  await newBatch(page, "Typing");
  await chooseBrief(page, "Course card");
  const region = page.getByRole("region", { name: "Brief" });
  await region.getByRole("button", { name: /^File size/ }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("At least").fill("9 MB");
  await dialog.getByRole("button", { name: "Use this" }).click();
  await expect(dialog.getByRole("alert")).toContainText("min 9 MB above max 240KB");
  await dialog.getByLabel("At least").fill("a lot");
  await dialog.getByRole("button", { name: "Use this" }).click();
  await expect(dialog.getByRole("alert")).toContainText('found "a lot"');
  await page.keyboard.press("Escape");
  await expect(region.getByRole("button", { name: "File size at most 240 KB" })).toBeVisible();
  // A length is counted with the resolution of the brief, 96 ppi: 2 in are 192 px.
  await editChip(page, "Pixels", { Width: "2in", "Long side": "" });
  await expect(region.getByRole("button", { name: "Pixels width 192 px" })).toBeVisible();
  await region.getByRole("button", { name: /^Resolution/ }).click();
  await dialog.getByRole("button", { name: "Remove this clause" }).click();
  await region.getByRole("button", { name: "Add resolution" }).click();
  await dialog.getByLabel("Resolution").fill("120 px/cm");
  await expect(dialog).toContainText("304.8 ppi");
  await dialog.getByRole("button", { name: "Use this" }).click();
  await expect(region.getByRole("button", { name: /^Resolution 120 px\/cm/ })).toBeVisible();
});

test("closing the page changes nothing: the run goes on", async ({ page, context }) => {
  await openDesk(page);
  await newBatch(page, "Closed");
  await chooseBrief(page, "Course card");
  await dropFiles(
    page,
    await Promise.all(
      [41, 42, 43, 44].map(async (seed) => jpeg(`p${seed}.jpg`, await jpegPhoto(2400, 1800, seed))),
    ),
  );
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "5");
  const url = page.url();
  await page.getByRole("button", { name: "Make 4 files" }).click();
  await expect(
    page
      .getByRole("status")
      .filter({ hasText: /of 4 files made|Making files/ })
      .first(),
  ).toBeVisible();
  await page.close();
  const again = await context.newPage();
  await again.goto(url);
  await expect(again.getByRole("link", { name: "Download 4 files as ZIP" })).toBeVisible({
    timeout: 240_000,
  });
});

test("500 rows: the grid draws only what is in sight and stays quick", async ({ page }) => {
  test.setTimeout(720_000);
  await openDesk(page);
  await newBatch(page, "Many with a rather long name that has to wrap");
  await chooseBrief(page, "Course card");
  const id = new URL(page.url()).searchParams.get("batch")!;
  const base = await jpegPhoto(64, 48, 50);
  // Comments make each file another photo without encoding 500 pictures.
  const comment = (i: number) => Buffer.from([0xff, 0xfe, 0, 4, i >> 8, i & 255]);
  for (let from = 0; from < 500; from += 25) {
    await Promise.all(
      Array.from({ length: 25 }, (_, k) => from + k).map(async (i) => {
        const body = Buffer.concat([base.subarray(0, 2), comment(i), base.subarray(2)]);
        const name =
          i === 0 ? `${"a very long name ".repeat(12)}.jpg` : `moth-${String(i).padStart(3, "0")}.jpg`;
        const response = await page.request.post(
          `${address()}/api/batches/${id}/photos?name=${encodeURIComponent(name)}`,
          { data: body, headers: { "content-type": "application/octet-stream" } },
        );
        expect(response.ok()).toBe(true);
      }),
    );
  }
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "501");
  expect(await grid(page).getByRole("row").count()).toBeLessThan(40);
  await grid(page).focus();
  await page.keyboard.press("End");
  await expect(grid(page).getByRole("row", { selected: true })).toHaveAttribute("aria-rowindex", "501");
  await page.setViewportSize({ width: 1024, height: 768 });
  const wide = await page.evaluate(() => document.documentElement.scrollWidth);
  expect(wide).toBeLessThanOrEqual(1024);
  await checkAccess(page);
});
