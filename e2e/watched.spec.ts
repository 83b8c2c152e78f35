/** A folder that is watched from Runs: photos that come, one that cannot, a kill and a new start, and a stop. */
import { readdirSync, readFileSync } from "node:fs";
import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, type Page, test } from "@playwright/test";
import sharp from "sharp";
import { jpegPhoto } from "../tests/support/photos";
import { checkAccess } from "./support/desk";
import { type Running, startZumbrel } from "./support/start";

const ready = async (out: string) => (await readdir(out)).filter((name) => !name.startsWith(".")).sort();

/** Processes that watch a folder, by their command lines. */
function watching(folder: string): number[] {
  return readdirSync("/proc")
    .filter((name) => /^\d+$/.test(name))
    .map(Number)
    .filter((pid) => {
      try {
        const [, ...words] = readFileSync(`/proc/${pid}/cmdline`, "utf8").split("\0");
        return words.includes("watch") && words.includes(folder);
      } catch {
        // It ended meanwhile.
        return false;
      }
    });
}

async function openWatched(page: Page, { address }: Running): Promise<void> {
  await page.goto(`${address}/runs`);
  await page.getByRole("button", { name: /^Watched folders/ }).click();
}

test("a folder is watched from Runs, through a kill and a new start, and stopped", async ({ page }) => {
  test.setTimeout(720_000);
  const place = await mkdtemp(join(tmpdir(), "zumbrel-watched-"));
  const data = await mkdtemp(join(tmpdir(), "zumbrel-watched-data-"));
  const [watched, out] = ["in", "out"].map((name) => join(place, name));
  await Promise.all([watched, out, join(watched, "form")].map((path) => mkdir(path, { recursive: true })));
  const start = () => startZumbrel(data, ["--empty", "--watch-root", watched, "--out-root", out]);
  try {
    const first = await start();
    await openWatched(page, first);
    const panel = page.getByRole("dialog", { name: "Watched folders" });
    await panel.getByLabel("Photos come to lie in: folder inside it, if any").fill("not there");
    await panel.getByLabel("Brief from the shelf").selectOption({ label: "Web page" });
    await panel.getByRole("button", { name: "Watch it" }).click();
    await expect(page.getByText(/There is no folder ".*not there" to look at/)).toBeVisible();
    await panel.getByLabel("Photos come to lie in: folder inside it, if any").fill("form");
    await panel.getByRole("button", { name: "Watch it" }).click();
    const list = panel.getByRole("list", { name: "Folders that are watched" });
    await expect(list.getByRole("listitem")).toHaveCount(1);
    await expect(list).toContainText(join(watched, "form"));
    await expect(list).toContainText("Waiting for the first photo.");
    await checkAccess(page);

    await writeFile(join(watched, "form", "moth.jpg"), await jpegPhoto(700, 900, 81));
    await writeFile(join(watched, "form", "torn.jpg"), (await jpegPhoto(700, 900, 82)).subarray(0, 4000));
    await expect(list).toContainText("1 ready · 1 in needs-you", { timeout: 120_000 });
    expect(await ready(out)).toEqual(["moth.jpg", "needs-you"]);
    expect(await readFile(join(out, "needs-you", "torn.jpg.txt"), "utf8")).toContain("cut short");
    await expect(page.getByRole("button", { name: /^Watched folders/ })).toContainText("1 need you");

    // The process that watches is killed, and the worker that began it, and all else: nothing is made twice.
    for (const pid of watching(join(watched, "form"))) process.kill(pid, "SIGKILL");
    await writeFile(join(watched, "form", "bark.jpg"), await jpegPhoto(700, 900, 83));
    await expect(list).toContainText("2 ready", { timeout: 120_000 });
    await first.stop();
    const second = await start();
    await openWatched(page, second);
    await expect(list).toContainText("2 ready · 1 in needs-you");
    await writeFile(join(watched, "form", "linen.jpg"), await jpegPhoto(700, 900, 84));
    await expect(list).toContainText("3 ready", { timeout: 120_000 });
    expect(await ready(out)).toEqual(["bark.jpg", "linen.jpg", "moth.jpg", "needs-you"]);
    expect((await sharp(join(out, "linen.jpg")).metadata()).format).toBe("jpeg");

    await list.getByRole("button", { name: "Stop" }).click();
    await expect(list).toHaveCount(0);
    await expect.poll(() => watching(join(watched, "form")).length).toBe(0);
    await second.stop();
  } finally {
    for (const path of [place, data]) await rm(path, { recursive: true, force: true });
  }
});
