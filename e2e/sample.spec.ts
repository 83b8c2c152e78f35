/** Somebody's first file, on the sample that ships with the application. */
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@playwright/test";
import { checkAccess } from "./support/desk";
import { startZumbrel } from "./support/start";

test("an empty Desk leads to a first file in three steps that a person does", async ({ page }) => {
  const data = await mkdtemp(join(tmpdir(), "zumbrel-sample-"));
  const app = await startZumbrel(data, ["--empty"]);
  try {
    await page.goto(app.address);
    await page.getByRole("button", { name: "Try it on a sample" }).click();
    const guide = page.getByRole("region", { name: "Your first file" });
    const now = guide.locator("[aria-current=step]");
    await expect(now).toContainText("What is asked");
    await expect(page.getByRole("grid")).toContainText("portrait.jpg");
    await checkAccess(page);
    await guide.getByRole("button", { name: "Ask for that" }).click();
    await expect(page.getByRole("button", { name: "Pixels 240 × 300" })).toBeVisible();
    await expect(now).toContainText("The file");
    await page.getByRole("button", { name: "Make 1 file" }).click();
    await expect(guide.getByText("Made, and proved")).toBeVisible({ timeout: 120_000 });
    await expect(page.getByRole("region", { name: "Proof" })).toContainText("240 px");
    await checkAccess(page);
    await guide.getByRole("button", { name: "Put the sample away" }).click();
    await expect(page.getByRole("button", { name: "Try it on a sample" })).toBeVisible();
  } finally {
    await app.stop();
    await rm(data, { recursive: true, force: true });
  }
});
