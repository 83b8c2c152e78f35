import { expect, test } from "@playwright/test";
import jpegJs from "jpeg-js";
import { jpegPhoto } from "../tests/support/photos";
import {
  address,
  checkAccess,
  chooseBrief,
  dropFiles,
  editChip,
  grid,
  measured,
  newBatch,
  openDesk,
  row,
} from "./support/desk";

const jpeg = (name: string, buffer: Buffer) => ({ name, mimeType: "image/jpeg", buffer });

test("the whole job by keyboard alone", async ({ page }) => {
  await openDesk(page);
  for (let i = 0; i < 12; i += 1) await newBatch(page, `One of many ${i + 1}`);
  /** Tab until the wanted control has the focus, as a person without a mouse does. */
  const tabTo = async (name: RegExp) => {
    for (let i = 0; i < 40; i += 1) {
      await page.keyboard.press("Tab");
      const found = await page.evaluate(() => {
        const el = document.activeElement as HTMLElement | null;
        return el ? (el.getAttribute("aria-label") ?? el.innerText ?? "").replace(/\s+/g, " ").trim() : "";
      });
      if (name.test(found)) {
        // The focus has to be seen.
        const outline = await page.evaluate(() => getComputedStyle(document.activeElement!).outlineStyle);
        expect(outline).not.toBe("none");
        return;
      }
    }
    throw new Error(`no control ${name} within 40 tabs`);
  };
  await tabTo(/^New$/);
  await page.keyboard.press("Enter");
  await page.keyboard.type("By keys");
  await page.keyboard.press("Enter");
  await expect(
    page.getByRole("complementary", { name: "Batches" }).locator("button[aria-current=true]"),
  ).toContainText("By keys");
  await page
    .getByLabel("Choose photos")
    .setInputFiles([
      jpeg("one.jpg", await jpegPhoto(600, 800, 81)),
      jpeg("two.jpg", await jpegPhoto(640, 800, 82)),
    ]);
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "3");
  await tabTo(/^Add pixels$/);
  await page.keyboard.press("Enter");
  await page.keyboard.type("120");
  await page.keyboard.press("Tab");
  await page.keyboard.type("150");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Pixels 120 × 150" })).toBeVisible();
  // The focus stays with the clause that was said.
  await expect(page.getByRole("button", { name: "Pixels 120 × 150" })).toBeFocused();
  await measured(page);
  await expect(page.getByRole("button", { name: "Pixels 120 × 150" })).toBeFocused();
  await tabTo(/^Photos against the brief$/);
  await page.keyboard.press("ArrowDown");
  await expect(grid(page).getByRole("row", { selected: true })).toContainText("two.jpg");
  await tabTo(/^Make 2 files$/);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("link", { name: "Download 2 files as ZIP" })).toBeVisible({ timeout: 240_000 });
  await expect(page.getByRole("region", { name: "Proof" })).toContainText("120 px");
});

test("two windows on one batch see the same", async ({ page, context }) => {
  await openDesk(page);
  await newBatch(page, "Two windows");
  await chooseBrief(page, "Course card");
  const other = await context.newPage();
  await other.goto(page.url());
  await dropFiles(page, [jpeg("shared.jpg", await jpegPhoto(500, 400, 83))]);
  await expect(row(other, "shared.jpg")).toBeVisible();
  await editChip(other, "Pixels", { "Long side": "at most 300" });
  await expect(page.getByRole("button", { name: "Pixels long side at most 300 px" })).toBeVisible();
  await measured(page);
  await expect(row(page, "shared.jpg")).toContainText("300 × 240");
  await page.getByRole("button", { name: "Make 1 file" }).click();
  await expect(other.getByRole("link", { name: "Download the file" })).toBeVisible({ timeout: 240_000 });
});

test("a photo that cannot meet the brief says why and what would help, and the others are made", async ({
  page,
}) => {
  await openDesk(page);
  await newBatch(page, "Cannot");
  await chooseBrief(page, "Course card");
  await dropFiles(page, [
    jpeg("small.jpg", await jpegPhoto(90, 60, 84)),
    jpeg("large.jpg", await jpegPhoto(1600, 1200, 85)),
  ]);
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "3");
  await editChip(page, "Pixels", { Width: "1000", Height: "750", "Long side": "" });
  await editChip(page, "File size", { "At most": "1 KB" });
  await measured(page);
  await row(page, "large.jpg").click();
  await expect(page.getByRole("complementary", { name: "Selected photo" }).getByRole("alert")).toContainText(
    /Cannot: the smallest 1000 × 750 JPEG of this photo is .* Raise the ceiling or allow fewer pixels/,
  );
  await expect(row(page, "large.jpg")).toContainText("Cannot");
  await checkAccess(page);
  await editChip(page, "File size", { "At most": "400 KB" });
  await measured(page);
  await expect(row(page, "small.jpg")).toContainText("Needs you");
  await expect(page.getByRole("button", { name: "Make 2 files" })).toBeEnabled();
});

test("a file that obeys is handed over byte for byte", async ({ page }) => {
  const photo = await jpegPhoto(800, 600, 86);
  await openDesk(page);
  await newBatch(page, "As it is");
  await dropFiles(page, [jpeg("fine.jpg", photo)]);
  await editChip(page, "Add pixels", { "Long side": "at most 1200" });
  await measured(page);
  await expect(row(page, "fine.jpg")).toContainText("as it is");
  await page.getByRole("button", { name: "Make 1 file" }).click();
  const take = page.getByRole("link", { name: "Take it" });
  await expect(take).toBeVisible({ timeout: 240_000 });
  const body = await page.request.get(`${address()}${await take.getAttribute("href")}`);
  expect((await body.body()).equals(photo)).toBe(true);
});

test("the frame follows the pointer, and the cut follows the frame", async ({ page }) => {
  await openDesk(page);
  await newBatch(page, "Pointer");
  await chooseBrief(page, "Night-trapping permit: portrait");
  // Dark on the left half, light on the right.
  const wide = await (await import("sharp"))
    .default({ create: { width: 1600, height: 500, channels: 3, background: "#202020" } })
    .composite([
      {
        input: { create: { width: 800, height: 500, channels: 3, background: "#e0e0e0" } },
        left: 800,
        top: 0,
      },
    ])
    .jpeg()
    .toBuffer();
  await dropFiles(page, [jpeg("halves.jpg", wide)]);
  await measured(page);
  const map = page.getByRole("slider", { name: /Frame on the photo/ });
  const box = (await map.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 1, box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect(row(page, "halves.jpg")).toContainText("Meets");
  await measured(page);
  await page.getByRole("button", { name: "Make 1 file" }).click();
  const take = page.getByRole("link", { name: "Take it" });
  await expect(take).toBeVisible({ timeout: 240_000 });
  const { data } = jpegJs.decode(
    await (await page.request.get(`${address()}${await take.getAttribute("href")}`)).body(),
  );
  const mean = data.reduce((sum, v, i) => (i % 4 === 0 ? sum + v : sum), 0) / (data.length / 4);
  expect(mean).toBeGreaterThan(180);
});

test("a question mark opens the keys of each screen and the words, and closes again", async ({ page }) => {
  await openDesk(page);
  const sheet = page.getByRole("dialog", { name: "Keys and words" });
  const says = async (key: string, does: string) => {
    // The page may be seen a moment before it listens.
    await expect(async () => {
      if ((await sheet.count()) === 0) await page.keyboard.press("?");
      await expect(sheet.getByText(does)).toBeVisible({ timeout: 2_000 });
    }).toPass();
    await expect(sheet.getByText(key, { exact: true }).first()).toBeVisible();
    for (const word of ["gauge", "floor, ceiling", "view size", "clean", "gain map"])
      await expect(sheet.getByText(word, { exact: true })).toBeVisible();
  };
  await says("Del", "leave the marked photos out");
  await checkAccess(page);
  await page.keyboard.press("Escape");
  await expect(sheet).toHaveCount(0);
  // In a field it is a sign like any other.
  await page.getByRole("button", { name: "New", exact: true }).click();
  await page.getByLabel("Name of the new batch").pressSequentially("Why?");
  await expect(page.getByLabel("Name of the new batch")).toHaveValue("Why?");
  await expect(sheet).toHaveCount(0);
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Runs" }).click();
  await expect(page).toHaveURL(/runs/);
  await page.getByRole("button", { name: "Keys and words" }).click();
  await expect(sheet.getByText("eight photos further")).toBeVisible();
  await sheet.getByRole("button", { name: "Close" }).click();
  await expect(sheet).toHaveCount(0);
});
