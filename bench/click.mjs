// From a click on Weigh's chart to the pane that shows the trial, a busy JPEG of 1.5 megapixels: with nothing
// else running, and while a batch of photographs is measured: node bench/click.mjs FOLDER OF PHOTOGRAPHS
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { chromium } from "@playwright/test";
import sharp from "sharp";
import { begin } from "./app.mjs";
import { originals } from "./pictures.mjs";

const folder = process.argv[2];
const CLICKS = Number(process.env.CLICKS ?? 20);
const BEHIND = Number(process.env.BEHIND ?? 30);
const data = mkdtempSync(join(tmpdir(), "zumbrel-click-"));
const app = await begin(data);
const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--headless", "--no-sandbox", "--disable-gpu", "--disable-background-networking"],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });

async function batch(name, files, brief) {
  const { id } = (await app.call("POST", "batches", { name })).body;
  for (const [i, bytes] of files.entries())
    await app.call("POST", `batches/${id}/photos?name=photo-${i}.jpg&at=${i}`, bytes);
  await app.call("PUT", `batches/${id}/brief`, {
    fresh: { zumbrelBrief: 1, name, ...brief },
    words: "bench",
  });
  return id;
}
const measured = async (id) =>
  (await app.call("GET", `batches/${id}`)).body.rows.filter((row) => row.figure === "measured").length;

/** In ms, of the clicks whose trial is a JPEG. */
async function clicks() {
  const pane = page.getByRole("region", { name: /^Pane 2:/ });
  const field = await page.getByRole("slider", { name: "Size to try" }).boundingBox();
  const times = [];
  for (let i = 0; i < CLICKS; i += 1) {
    const shown = await pane.getAttribute("data-shown");
    await pane.evaluate((node) => {
      Object.assign(window, { shownAt: null, pressedAt: null });
      addEventListener("pointerup", () => (window.pressedAt = performance.now()), {
        once: true,
        capture: true,
      });
      const observer = new MutationObserver(() => {
        window.shownAt = performance.now();
        observer.disconnect();
      });
      observer.observe(node, { attributes: true, attributeFilter: ["data-shown"] });
    });
    // Near the line, at sizes that were not tried yet.
    await page.mouse.click(
      field.x + field.width * (0.3 + ((i * 0.618) % 1) / 2),
      field.y + field.height * 0.5,
    );
    const changed = await page
      .waitForFunction(() => window.shownAt !== null, null, { timeout: 20_000 })
      .catch(() => null);
    const now = await pane.getAttribute("data-shown");
    if (changed && now !== shown && now.startsWith("jpeg"))
      times.push(await page.evaluate(() => window.shownAt - window.pressedAt));
    await page.waitForFunction(
      () =>
        document.querySelectorAll('[role=main] [data-state="ready"], main [data-state="ready"]').length > 1,
      null,
      { timeout: 60_000 },
    );
    await pause(400);
  }
  return times.sort((a, b) => a - b);
}
const told = (what, times) =>
  console.log(
    `${what}: ${Math.round(times[times.length >> 1])} ms in the median of ${times.length} clicks ` +
      `(${Math.round(times[0])} to ${Math.round(times.at(-1))})`,
  );

const busy = readdirSync(folder)
  .filter((name) => /\.jpg$/.test(name))
  .sort((a, b) => Number(/stream/.test(b)) - Number(/stream/.test(a)))[0];
/** Weigh with its chart, of a photo that nobody has clicked on yet. */
async function open(name, turned) {
  const photo = await sharp(readFileSync(join(folder, busy)))
    .resize(1500, 1000, { fit: "cover" })
    .flop(turned)
    .jpeg({ quality: 97 })
    .toBuffer();
  const id = await batch(name, [photo], { format: ["jpeg"], fileSize: { max: "900kB" } });
  while ((await measured(id)) < 1) await pause(500);
  await page.goto(`${app.address}/?batch=${id}`);
  await page.getByRole("grid").getByText("photo-0.jpg", { exact: true }).click();
  await page
    .getByRole("complementary", { name: "Selected photo" })
    .getByRole("link", { name: "Weigh" })
    .click();
  await page.getByRole("slider", { name: "Size to try" }).waitFor();
  await page.waitForFunction(() => !/Measuring: |Planning/.test(document.body.innerText), null, {
    timeout: 240_000,
  });
}
await open("Alone", false);
await pause(12_000);
told(`${busy}, nothing else running`, await clicks());

await open("Beside", true);
const many = await originals(join(tmpdir(), "zumbrel-bench-12mp-photos"), BEHIND, 4000, 3000, folder);
const behind = await batch(
  "Behind",
  many.map((path) => readFileSync(path)),
  { longSide: { exact: 2400 } },
);
while ((await measured(behind)) < 1) await pause(500);
const before = await measured(behind);
const times = await clicks();
const after = await measured(behind);
told(`${busy}, ${after - before} photos of 12 megapixels measured meanwhile, ${BEHIND - after} left`, times);
await browser.close();
await app.stop();
rmSync(data, { recursive: true, force: true });
