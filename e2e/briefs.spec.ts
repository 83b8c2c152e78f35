import { readFile } from "node:fs/promises";
import { expect, type Page, test } from "@playwright/test";
import jpegJs from "jpeg-js";
import { parseBriefText } from "@/core/brief";
import { jpegPhoto } from "../tests/support/photos";
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

const BADGE =
  "Ranger's badge: your face as JPEG, 330 px wide by 420 px high if possible, weighing 30 to 90 KB, to be printed 28 mm × 35 mm. No hats, please.\n\n" +
  "Consent slip: your mark, 200x90, JPEG, not under 6 KB nor over 16 KB. Label it as the annex says.";

/** Letters of this moment: a second try finds nothing of the first. */
const tag = () =>
  Date.now()
    .toString(36)
    .replace(/\d/g, (digit) => "qrstuvwxyz"[Number(digit)]);

async function openBriefs(page: Page): Promise<void> {
  await page.goto(`${address()}/briefs`);
  await expect(
    page.getByRole("complementary", { name: "Shelf" }).getByRole("listitem").first(),
  ).toBeVisible();
}

async function pasteWording(page: Page, text: string): Promise<void> {
  await page.getByRole("button", { name: "Paste a receiver's wording" }).click();
  await page.getByRole("textbox", { name: "Wording" }).fill(text);
  await page.getByRole("button", { name: "Show what was read" }).click();
}

const brief = (page: Page, name: string) => page.getByRole("region", { name, exact: true });
const shelf = (page: Page) => page.getByRole("complementary", { name: "Shelf" });

test("from a wording to a file that meets it, over a disagreement", async ({ page }) => {
  const name = `Ranger's badge ${tag()}`;
  await openBriefs(page);
  await pasteWording(page, BADGE.replace("Ranger's badge", name));
  const badge = brief(page, name);
  await expect(badge).toContainText("4 clauses, 1 wish");
  await expect(brief(page, "Consent slip")).toContainText("6 to 16 KB");
  await expect(page.getByRole("region", { name: "Only you can check" })).toContainText("No hats");
  await checkAccess(page);

  await expect(badge.getByRole("note")).toContainText("330 × 420 px is 4 : 5.09, 28 × 35 mm is 4 : 5.");
  await badge.getByRole("button", { name: /Follow the paper/ }).click();
  await expect(badge.getByRole("note")).toHaveCount(0);
  // The receiver's own value stays beside the new one.
  await expect(badge.getByRole("button", { name: "Change pixels: 336 × 420" })).toBeVisible();
  await expect(badge).toContainText("the receiver asks 330 × 420");

  await page.getByRole("button", { name: "Keep both briefs" }).click();
  await expect(shelf(page).getByRole("button", { name: new RegExp(`^${name}`) })).toHaveAttribute(
    "aria-current",
    "true",
  );
  await expect(
    shelf(page)
      .getByRole("button", { name: /^Consent slip/ })
      .first(),
  ).toBeVisible();

  await page.getByRole("link", { name: "Desk" }).click();
  await newBatch(page, "Badges");
  await dropFiles(page, [jpeg("ranger.jpg", await jpegPhoto(1500, 2000, 501))]);
  await chooseBrief(page, name);
  await measured(page);
  await expect(row(page, "ranger.jpg")).toContainText("336 × 420");
  await page.getByRole("button", { name: "Checklist" }).click();
  const list = page.getByRole("region", { name: "Checklist" });
  await expect(list.getByRole("listitem").filter({ hasText: "Paper 28 × 35 mm" })).toContainText("met");
  await expect(list).toContainText("No hats");
  await checkAccess(page);
  const { bytes } = await makeAndDownload(page);
  const { width, height } = jpegJs.decode(bytes);
  expect([width, height]).toEqual([336, 420]);
  expect(bytes.length).toBeGreaterThanOrEqual(30 * 1024);
  expect(bytes.length).toBeLessThanOrEqual(90_000);
});

test("words and clauses light each other up, by pointer and by keyboard", async ({ page }) => {
  await openBriefs(page);
  await pasteWording(page, BADGE);
  const words = page.getByLabel("30 to 90 KB, clause 3");
  const clause = brief(page, "Ranger's badge").getByRole("listitem").filter({ hasText: "File size" });
  await expect(words).not.toHaveClass(/bg-plum/);
  await clause.hover();
  await expect(words).toHaveClass(/bg-plum/);
  await page.mouse.move(5, 700);
  await expect(words).not.toHaveClass(/bg-plum/);
  await words.focus();
  await expect(clause).toHaveClass(/bg-wash/);
  await clause.getByRole("button").focus();
  await expect(words).toHaveClass(/bg-plum/);
  // A look at the Desk in between loses nothing.
  await page.getByRole("link", { name: "Desk" }).click();
  await expect(page.getByRole("complementary", { name: "Batches" })).toBeVisible();
  await page.getByRole("link", { name: "Briefs" }).click();
  await shelf(page)
    .getByRole("button", { name: /^From pasted wording/ })
    .click();
  // What was not understood stays marked.
  await expect(page.getByText("Label it as the annex says")).toHaveClass(/border-dotted/);
});

test("fields understand units, say what is wrong, and show what the receiver asks", async ({ page }) => {
  await openBriefs(page);
  await pasteWording(page, "Plate: JPEG, at most 500 KB, 1200 px wide.");
  await page.getByRole("button", { name: "Keep this brief" }).click();
  const plate = brief(page, "Plate");
  await expect(plate.getByText("Save as file")).toBeVisible();
  const change = async (clause: RegExp, label: string, text: string) => {
    await plate.getByRole("button", { name: clause }).click();
    await page.getByRole("dialog").getByLabel(label).fill(text);
    await page.keyboard.press("Enter");
  };
  await change(/^Change file size/, "At most", "700 K");
  await expect(plate).toContainText("the receiver asks at most 500 KB");
  await expect(plate.getByRole("button", { name: "Change file size: at most 700 K" })).toBeVisible();
  await change(/^Change pixels/, "Width", "480 px");
  await expect(plate.getByRole("button", { name: "Change pixels: width 480 px" })).toBeVisible();
  await change(/^Change pixels/, "Width", "28 moths");
  await expect(page.getByRole("dialog").getByRole("alert")).toContainText(
    'Wanted whole pixels such as "480px"',
  );
  await page.keyboard.press("Escape");
  for (const [title, label, text, shown] of [
    ["Paper", "Width", "8in", "8 in wide"],
    ["Resolution", "Resolution", "300", "300 ppi"],
    ["Quality", "Quality", "at most 80 %", "at most 80"],
    ["Shape", "Value", "16 : 9", "16:9"],
  ]) {
    await plate.getByRole("button", { name: "Add a clause" }).click();
    await page.getByRole("menuitem", { name: title, exact: true }).click();
    await page.getByRole("dialog").getByLabel(label, { exact: true }).fill(text);
    await page.keyboard.press("Enter");
    await expect(
      plate.getByRole("button", { name: `Change ${title.toLowerCase()}: ${shown}` }),
    ).toBeVisible();
  }
  // 8 in at 300 ppi are 2400 px; 480 px are asked.
  await expect(plate.getByRole("note").filter({ hasText: "480 px on 8 in wide" })).toBeVisible();
  await change(/^Change pixels/, "Width", "28mm");
  await expect(plate.getByRole("button", { name: "Change pixels: width 331 px" })).toBeVisible();
  await plate.getByRole("button", { name: /^Change file size/ }).click();
  await page.getByRole("dialog").getByRole("button", { name: "As asked" }).click();
  await expect(plate.getByRole("button", { name: "Change file size: at most 500 KB" })).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(plate.getByRole("button", { name: "Change file size: at most 700 K" })).toBeVisible();
});

test("the shelf: search, rename, copy, delete and bring back, out to a file and in again", async ({
  page,
}) => {
  const name = `Society banner ${tag()}`;
  await openBriefs(page);
  await pasteWording(page, "Banner: 900 × 300 px, PNG, below 400 KB.");
  await page.getByRole("button", { name: "Keep this brief" }).click();
  await expect(brief(page, "Banner").getByText("Save as file")).toBeVisible();

  await page.getByRole("button", { name: "Rename" }).click();
  await page.getByLabel("Name of the brief").fill(`${name} with a very long name that goes on and on`);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: new RegExp(`^${name} with`) })).toBeVisible();
  await page.getByRole("searchbox", { name: "Search the shelf" }).fill(name.toLowerCase());
  await expect(shelf(page).getByRole("button", { name: new RegExp(`^${name} with`) })).toHaveCount(1);
  await page.getByRole("button", { name: "Duplicate" }).click();
  await expect(shelf(page).getByRole("listitem")).toHaveCount(2);
  await expect(page.getByRole("heading", { name: new RegExp(`^${name}.*, copy$`) })).toBeVisible();
  await page.getByRole("button", { name: "Delete" }).click();
  await expect(shelf(page).getByRole("listitem")).toHaveCount(1);
  await page.keyboard.press("Control+z");
  await expect(shelf(page).getByRole("listitem")).toHaveCount(2);

  await shelf(page)
    .getByRole("button", { name: new RegExp(`^${name} with`) })
    .first()
    .click();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Save as file" }).click(),
  ]);
  expect(download.suggestedFilename()).toMatch(/^Society banner .*\.brief\.json$/);
  const file = await readFile(await download.path());
  const saved = parseBriefText(file.toString("utf8"));
  expect(saved).toMatchObject({
    width: { exact: 900 },
    height: { exact: 300 },
    format: ["png"],
    fileSize: { max: "400KB" },
    wording: "Banner: 900 × 300 px, PNG, below 400 KB.",
  });

  const bring = (name: string, buffer: Buffer) =>
    page.getByLabel("Choose brief files").setInputFiles({ name, mimeType: "application/json", buffer });
  await bring("again.brief.json", Buffer.from(JSON.stringify({ ...saved, name: `${name} again` })));
  await expect(shelf(page).getByRole("listitem")).toHaveCount(3);
  await bring("wrong.brief.json", Buffer.from('{"zumbrelBrief":1,"name":"x","widht":{"exact":5}}'));
  await expect(page.getByText('wrong.brief.json: The brief has an unknown key "widht"')).toBeVisible();
  await bring("twice.brief.json", Buffer.from('{"zumbrelBrief":1,"name":"x","name":"y"}'));
  await expect(page.getByText("twice.brief.json: The brief's name is there twice")).toBeVisible();
  await expect(shelf(page).getByRole("listitem")).toHaveCount(3);
  await page.getByRole("searchbox", { name: "Search the shelf" }).fill("no such thing");
  await expect(shelf(page)).toContainText("Nothing on the shelf has “no such thing” in it.");
});

test("a wording without rules, and a hostile one, stay text", async ({ page }) => {
  await openBriefs(page);
  await pasteWording(page, "Das Bild darf nicht größer als 90 KB sein.");
  await expect(page.getByText("Found no rules here.")).toBeVisible();
  await expect(page.getByText("Das Bild darf nicht größer als 90 KB sein")).toBeVisible();
  await expect(page.getByRole("button", { name: /^Keep/ })).toHaveCount(0);
  await page.getByRole("button", { name: "Change the wording" }).click();
  const hostile = `<img src=x onerror="document.title='taken'"> JPEG, at most 70 KB <script>document.title='taken'</script>`;
  await page.getByRole("textbox", { name: "Wording" }).fill(hostile);
  await page.getByRole("button", { name: "Show what was read" }).click();
  await expect(page.getByText("onerror=")).toBeVisible();
  await expect(page).toHaveTitle("Zumbrel");
  await page.getByRole("button", { name: "Change the wording" }).click();
  await page.getByRole("textbox", { name: "Wording" }).fill("x ".repeat(50_001));
  await expect(page.getByRole("alert").filter({ hasText: "100002 characters" })).toBeVisible();
});

test("two briefs serve one batch, one of them pasted on the spot", async ({ page }) => {
  await openDesk(page);
  await newBatch(page, "Both for the permit");
  await dropFiles(page, [
    jpeg("face.jpg", await jpegPhoto(1000, 1250, 511)),
    jpeg("mark.jpg", await jpegPhoto(800, 400, 512)),
    jpeg("mark2.jpg", await jpegPhoto(800, 380, 513)),
  ]);
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "4");
  await page.getByRole("button", { name: "Paste a wording" }).click();
  await page
    .getByLabel("What the receiver writes")
    .fill("Portrait: 240 × 300 px, JPEG, 20 to 60 KB. Signature: 200 × 90 px, JPEG, 4 to 14 KB.");
  const dialog = page.getByRole("dialog", { name: "A receiver's wording" });
  await dialog
    .getByRole("region", { name: "Portrait" })
    .getByRole("button", { name: "Use for the batch" })
    .click();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("heading", { name: "Portrait" })).toBeVisible();

  await row(page, "mark.jpg").click();
  await row(page, "mark2.jpg").click({ modifiers: ["Shift"] });
  await page.getByRole("button", { name: "Paste a wording" }).click();
  await dialog
    .getByRole("region", { name: "Signature" })
    .getByRole("button", { name: "Use for these 2 photos" })
    .click();
  await page.keyboard.press("Escape");
  await expect(grid(page).getByText("Signature", { exact: true })).toBeVisible();
  await expect(page.getByText("for 2 of 3 photos")).toBeVisible();
  await measured(page);
  await expect(row(page, "face.jpg")).toContainText("240 × 300");
  await expect(row(page, "mark.jpg")).toContainText("200 × 90");
  await checkAccess(page);

  // One chip of the second brief, for its rows alone.
  await editChip(page, "Pixels", { Width: "220" });
  await measured(page);
  await expect(row(page, "mark2.jpg")).toContainText("220 × 90");
  await expect(row(page, "face.jpg")).toContainText("240 × 300");
  await page.getByRole("button", { name: /^Brief for/ }).click();
  await page.getByRole("menuitem", { name: /^As the batch/ }).click();
  await expect(grid(page).getByText("Signature", { exact: true })).toHaveCount(0);
  await expect(row(page, "mark2.jpg")).toContainText("240 × 300");
  await page.keyboard.press("Control+z");
  await expect(row(page, "mark2.jpg")).toContainText("220 × 90");

  await page.getByRole("button", { name: "Keep on the shelf" }).click();
  await expect(page.getByRole("button", { name: "Keep on the shelf" })).toHaveCount(0);
  const { name } = await makeAndDownload(page);
  expect(name).toMatch(/\.zip$/);
});
