/** A set from three photos, through the Desk into a page of its own, where the browser chooses. */
import { type Browser, expect, test } from "@playwright/test";
import JSZip from "jszip";
import { type SetFile, takenAt } from "@/core/delivery/picture-set";
import { jpegPhoto } from "../tests/support/photos";
import {
  checkAccess,
  dropFiles,
  grid,
  makeAndDownload,
  measured,
  newBatch,
  openDesk,
  row,
} from "./support/desk";

const WIDTHS = [160, 320, 480, 640];
const NAMES = ["moor, at dusk", "bark", "linen"];
const PLACE = "http://pictures.invalid/";

test("three photos become a set, and a page with its markup loads the right file", async ({
  page,
  browser,
}) => {
  await openDesk(page);
  await newBatch(page, "Page of moths");
  await dropFiles(
    page,
    await Promise.all(
      NAMES.map(async (name, i) => ({
        name: `${name}.jpg`,
        mimeType: "image/jpeg",
        buffer: await jpegPhoto(800, 600, 700 + i),
      })),
    ),
  );
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "4");
  await page.getByRole("button", { name: "More clauses" }).click();
  await page.getByRole("menuitem", { name: "Set", exact: true }).click();
  const form = page.getByRole("dialog");
  await form.getByLabel("Widths, px").fill("640, 160 480px and 320, 5000");
  await form.getByLabel("AVIF").uncheck();
  await form.getByLabel("WebP").check();
  await page.getByRole("button", { name: "Use this" }).click();
  await expect(page.getByRole("button", { name: /^Set 160, 320, 480, 640 and 5000 px wide/ })).toBeVisible();
  await measured(page);
  // What the markup offers follows from the files themselves.
  await expect(grid(page).getByText("Meets", { exact: true })).toHaveCount(NAMES.length);
  await expect(page.getByText("5000 px was left out")).toBeVisible();

  // Folded out by keyboard alone.
  await grid(page).focus();
  await page.keyboard.press("ArrowRight");
  const files = page.getByRole("list", { name: "Files of moor, at dusk.jpg" });
  await expect(files.getByRole("listitem")).toHaveCount(8);
  await expect(files).toContainText("moor, at dusk-640.jpg");
  await checkAccess(page);
  await page.keyboard.press("ArrowLeft");
  await expect(files).toHaveCount(0);

  await page.getByLabel("What it shows, in words").fill('A moor "at dusk"');
  await page.getByRole("button", { name: "What a page with these pictures weighs" }).click();
  const panel = page.getByRole("dialog", { name: "What the page weighs" });
  await expect(panel.getByText("2 of 3 have no words yet")).toBeVisible();
  await expect(panel.getByRole("row").filter({ hasText: "1920 px" }).first()).toContainText("640 px");
  await panel.getByLabel("blurred stand-ins").check();
  const markup = panel.getByLabel("Markup of all pictures");
  await expect(markup).toHaveValue(/url\('data:image\/webp/);
  await checkAccess(page);
  const text = await markup.inputValue();
  expect(text).toContain('alt="A moor &quot;at dusk&quot;"');
  await page.keyboard.press("Escape");

  const { bytes } = await makeAndDownload(page);
  const zip = await JSZip.loadAsync(bytes);
  expect(Object.keys(zip.files)).toHaveLength(25);
  expect(await zip.file("pictures.html")!.async("string")).toContain('alt="A moor &quot;at dusk&quot;"');
  await expect(row(page, "linen.jpg")).toContainText("Met");

  const made = new Map<string, Buffer>();
  for (const [name, file] of Object.entries(zip.files))
    if (name !== "pictures.html") made.set(name, await file.async("nodebuffer"));
  const set = NAMES.map((name) => filesOf(name, made));
  for (const density of [1, 2])
    for (const width of [150, 320, 450, 640]) {
      const taken = await takenBy(browser, { text, made, width, density });
      expect(taken.map(({ name }) => name)).toEqual(set.map((one) => takenAt(one, { width, density }).name));
      // Each is a whole picture of the width that its name says.
      for (const one of taken) expect(one.name).toContain(`-${one.natural}.`);
    }
});

function filesOf(name: string, made: ReadonlyMap<string, Buffer>): SetFile[] {
  return WIDTHS.flatMap((width) =>
    (["jpeg", "webp"] as const).map((format) => {
      const file = `${name}-${width}.${format === "jpeg" ? "jpg" : "webp"}`;
      return { name: file, width, height: width * 0.75, format, bytes: made.get(file)!.length };
    }),
  );
}

/** What a browser loads for the pictures of a page that consists of the markup. */
async function takenBy(
  browser: Browser,
  {
    text,
    made,
    width,
    density,
  }: { text: string; made: ReadonlyMap<string, Buffer>; width: number; density: number },
): Promise<{ name: string; natural: number }[]> {
  const context = await browser.newContext({ viewport: { width, height: 900 }, deviceScaleFactor: density });
  const page = await context.newPage();
  await page.route(`${PLACE}**`, (route) => {
    const name = decodeURIComponent(new URL(route.request().url()).pathname.slice(1));
    const body = made.get(name);
    if (body) return route.fulfill({ body, contentType: `image/${name.endsWith("webp") ? "webp" : "jpeg"}` });
    const html = `<!doctype html><style>body { margin: 0 } img { width: 100%; height: auto }</style>${text}`;
    return route.fulfill({ body: html, contentType: "text/html" });
  });
  await page.goto(PLACE);
  const images = page.locator("picture img");
  await expect(images).toHaveCount(NAMES.length);
  const taken = [];
  for (const image of await images.all()) {
    await image.scrollIntoViewIfNeeded();
    await expect
      .poll(() => image.evaluate((one: HTMLImageElement) => one.complete && one.naturalWidth > 0))
      .toBe(true);
    taken.push(
      await image.evaluate(async (one: HTMLImageElement) => {
        const name = decodeURIComponent(new URL(one.currentSrc).pathname.slice(1));
        // Its own pixels, whatever it is shown at.
        const { width: natural } = await createImageBitmap(await (await fetch(one.currentSrc)).blob());
        return { name, natural };
      }),
    );
  }
  await context.close();
  return taken;
}
