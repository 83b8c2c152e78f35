/** What the tests do on the Desk, in its own words. */
import { readFile } from "node:fs/promises";
import AxeBuilder from "@axe-core/playwright";
import { expect, type Locator, type Page } from "@playwright/test";

/** The application of this worker. */
export const address = (): string => process.env[`ZUMBREL_ADDRESS_${process.env.TEST_PARALLEL_INDEX}`]!;

export async function openDesk(page: Page): Promise<void> {
  await page.goto(address());
  await expect(page.getByRole("heading", { name: "Zumbrel" })).toBeVisible();
}

export async function newBatch(page: Page, name: string): Promise<void> {
  await page.getByRole("button", { name: "New", exact: true }).click();
  await page.getByLabel("Name of the new batch").fill(name);
  await page.keyboard.press("Enter");
  await expect(
    page.getByRole("complementary", { name: "Batches" }).locator("button[aria-current=true]"),
  ).toContainText(name);
}

export interface PhotoFile {
  name: string;
  mimeType: string;
  buffer: Buffer;
}

/** Drops files on the page as a person does, from a file manager. */
export async function dropFiles(page: Page, files: PhotoFile[]): Promise<void> {
  const data = await page.evaluateHandle(
    (list) => {
      const transfer = new DataTransfer();
      for (const { name, type, base64 } of list) {
        const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
        transfer.items.add(new File([bytes], name, { type }));
      }
      return transfer;
    },
    files.map((f) => ({ name: f.name, type: f.mimeType, base64: f.buffer.toString("base64") })),
  );
  const target = page.getByRole("main");
  for (const type of ["dragenter", "dragover", "drop"])
    await target.dispatchEvent(type, { dataTransfer: data });
}

export const grid = (page: Page): Locator => page.getByRole("grid");
export const row = (page: Page, name: string): Locator =>
  grid(page).getByRole("row").filter({ hasText: name });

/** Opens a chip, fills its fields by label, and takes the new values. */
export async function editChip(
  page: Page,
  title: string,
  values: Record<string, string | boolean>,
): Promise<void> {
  await expect(async () => {
    await page
      .getByRole("region", { name: "Brief" })
      .getByRole("button", { name: new RegExp(`^${title}`) })
      .click();
    await expect(page.getByRole("dialog")).toBeVisible({ timeout: 2_000 });
  }).toPass({ timeout: 60_000 });
  for (const [label, value] of Object.entries(values)) {
    const field = page.getByRole("dialog").getByLabel(label);
    if (typeof value === "boolean") await field.setChecked(value);
    else await field.fill(value);
  }
  await page.getByRole("button", { name: "Use this" }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);
}

export async function chooseBrief(page: Page, name: string): Promise<void> {
  await page.getByRole("button", { name: /^(Another|Choose a) brief$/ }).click();
  await page.getByRole("menuitem", { name, exact: true }).click();
  await expect(page.getByRole("heading", { name, exact: true })).toBeVisible();
}

/** Waits until photos are there, and nothing in the batch is an estimate any more. */
export async function measured(page: Page): Promise<void> {
  // The first row is that of the headings.
  await expect(grid(page).getByRole("row").nth(1)).toBeVisible({ timeout: 240_000 });
  await expect(grid(page).getByText(/^about |^measuring$/)).toHaveCount(0, { timeout: 300_000 });
}

/** Opens Frame or Weigh by its key, once the photo has a brief: before that there is nothing to open. */
export async function openByKey(page: Page, screen: "Frame" | "Weigh"): Promise<void> {
  const pane = page.getByRole("complementary", { name: "Selected photo" });
  await expect(pane.getByRole("link", { name: screen })).toBeVisible({ timeout: 240_000 });
  await page.keyboard.press(screen === "Frame" ? "f" : "e");
}

/** Presses the main button, waits for the proofs, and gives back what the download holds. */
export async function makeAndDownload(page: Page): Promise<{ name: string; bytes: Buffer }> {
  await page.getByRole("button", { name: /^Make \d+ files?$/ }).click();
  const take = page.getByRole("link", { name: /^Download/ });
  await expect(take).toBeVisible({ timeout: 240_000 });
  const [download] = await Promise.all([page.waitForEvent("download"), take.click()]);
  return { name: download.suggestedFilename(), bytes: await readFile(await download.path()) };
}

/** WCAG 2.2 AA, by axe. */
export async function checkAccess(page: Page): Promise<void> {
  // What is just coming or going is half transparent, and its contrast is that of neither state.
  await page.waitForFunction(() => document.getAnimations().every((one) => one.playState !== "running"));
  const { violations } = await new AxeBuilder({ page })
    // What is well is not written out: in a grid of many rows that takes seconds.
    .options({ resultTypes: ["violations"] })
    .withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"])
    .analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join("; ")}`)).toEqual([]);
}
