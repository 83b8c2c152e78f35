/** The demo. Last among the files, since its pictures go on being measured behind it. */
import { expect, test } from "@playwright/test";
import { checkAccess, measured, openDesk, row } from "./support/desk";

test("the demo is put back from the interface", async ({ page }) => {
  // Its generator yields to whatever else is tested at this time.
  test.setTimeout(720_000);
  await openDesk(page);
  await page.getByRole("button", { name: "Put the demo back" }).click();
  await expect(page.getByRole("button", { name: /^Permit portraits/ })).toBeVisible({ timeout: 300_000 });
  await expect(page.getByRole("button", { name: /^Trap night, 14 May 11 photos/ })).toBeVisible({
    timeout: 300_000,
  });
  await expect(page.getByRole("button", { name: /^Permit signature 1 photo/ })).toBeVisible({
    timeout: 240_000,
  });
  await page.getByRole("button", { name: /^Permit portraits/ }).click();
  await measured(page);
  await expect(row(page, "warden-portrait.jpg")).toContainText("Meets");
  await expect(row(page, "recorder-small.jpg")).toContainText("Needs you");
  await row(page, "recorder-small.jpg").click();
  await expect(page.getByRole("region", { name: "Plan" })).toContainText("the pixels between are made up");
  await checkAccess(page);
});
