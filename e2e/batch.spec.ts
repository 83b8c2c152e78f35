/** Batches: a folder, a limit on a message, names that stay, runs that hold, and what can be taken away. */
import { execFileSync } from "node:child_process";
import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, type Page, test } from "@playwright/test";
import JSZip from "jszip";
import { extract } from "letterparser";
import { jpegPhoto, pngPhoto } from "../tests/support/photos";
import {
  checkAccess,
  dropFiles,
  editChip,
  grid,
  measured,
  newBatch,
  openDesk,
  type PhotoFile,
  row,
} from "./support/desk";
import { startZumbrel } from "./support/start";

const jpeg = (name: string, buffer: Buffer): PhotoFile => ({ name, mimeType: "image/jpeg", buffer });

async function addClause(
  page: Page,
  title: string,
  values: Record<string, string>,
  picks: Record<string, string> = {},
): Promise<void> {
  await expect(async () => {
    await page.getByRole("button", { name: "More clauses" }).click();
    await page.getByRole("menuitem", { name: title, exact: true }).click();
    await expect(page.getByRole("dialog")).toBeVisible({ timeout: 2_000 });
  }).toPass({ timeout: 60_000 });
  for (const [label, value] of Object.entries(values))
    await page.getByRole("dialog").getByLabel(label).fill(value);
  for (const [label, value] of Object.entries(picks))
    await page.getByRole("dialog").getByLabel(label).selectOption(value);
  await page.getByRole("button", { name: "Use this" }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);
}

async function download(page: Page, press: () => Promise<void>): Promise<{ name: string; bytes: Buffer }> {
  const [file] = await Promise.all([page.waitForEvent("download"), press()]);
  return { name: file.suggestedFilename(), bytes: await readFile(await file.path()) };
}

test("a folder, the mailbox's limit, one button, one message to attach: every name is kept", async ({
  page,
}) => {
  test.setTimeout(720_000);
  const folder = await mkdtemp(join(tmpdir(), "zumbrel-visit-"));
  const names = ["IMG_0412.JPG", "IMG_0413.JPG", "Lower pond.jpg", "south/IMG_0412.JPG", "south/gate.jpeg"];
  await mkdir(join(folder, "south"));
  for (const [i, name] of names.entries())
    await writeFile(join(folder, name), await jpegPhoto(1400, 1050, 400 + i, 92));
  await writeFile(join(folder, "Thumbs.db"), "x");
  await openDesk(page);
  await newBatch(page, "Site visit");
  await page.getByLabel("Choose a folder").setInputFiles(folder);
  await expect(grid(page).getByRole("row")).toHaveCount(6, { timeout: 240_000 });
  await expect(page.getByRole("region", { name: "Photos on their way in" })).toHaveCount(0);
  await editChip(page, "Add pixels", { "Long side": "at most 900" });
  await addClause(page, "Total", { "At most": "300KB" }, { Counted: "mail" });
  await expect(page.getByText("Sharing the limit on the whole", { exact: true })).toBeVisible();
  await expect(page.getByText(/^Shared out: all 5 photos end at a visible difference of about/)).toBeVisible({
    timeout: 240_000,
  });
  await measured(page);
  await checkAccess(page);

  // The names before the run, with the folder that they lay in.
  await page.getByRole("button", { name: /^Names of the files/ }).click();
  await expect(page.getByText("All names stay as they are.")).toBeVisible();
  await expect(page.getByRole("region", { name: "Every name" })).toContainText("south/gate.jpeg");
  await page.getByLabel("Each file is called").fill("visit-{n:2}");
  await expect(page.getByRole("region", { name: "Every name" })).toContainText(
    /IMG_0412\.JPG → .*visit-01\.JPG/,
  );
  await checkAccess(page);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: /^What it comes to/ }).click();
  const comes = page.getByRole("dialog", { name: "What it comes to" });
  // 300 kB in base64 with line breaks are 219 kB of files, without what headers take.
  await expect(comes).toContainText(/The limit leaves for files21[0-9] kB of 300 kB/);
  await comes.getByLabel("Mbit/s up").fill("0.1");
  // 300,000 bytes are 2.4 million bits: 24 s at a tenth of a megabit.
  await expect(comes).toContainText(/These files.*2[34] s/);
  await comes.getByLabel("of memory").fill("1 GB");
  await expect(comes).toContainText(/[0-9],[0-9]{3} photos/);
  await checkAccess(page);
  await page.keyboard.press("Escape");

  await page.getByRole("button", { name: "Make 5 files" }).click();
  const take = page.getByRole("link", { name: "Download the message" });
  await expect(take).toBeVisible({ timeout: 240_000 });
  const { name, bytes } = await download(page, () => take.click());
  expect(name).toBe("Site visit.eml");
  expect(bytes.length).toBeLessThanOrEqual(300_000);
  expect(bytes.length).toBeGreaterThan(300_000 * 0.94);
  const message = extract(bytes.toString("latin1"));
  // Attachments lie in no folders: the second of one name gets a number.
  expect(message.attachments!.map((one) => one.filename).sort()).toEqual([
    "IMG_0412-2.JPG",
    "IMG_0412.JPG",
    "IMG_0413.JPG",
    "Lower pond.jpg",
    "gate.jpeg",
  ]);

  const menu = async (item: string | RegExp) => {
    await page.getByRole("button", { name: "Other ways to take the files away" }).click();
    return download(page, () => page.getByRole("menuitem", { name: item }).click());
  };
  const zip = await menu(/with a list of what became of what/);
  const path = join(folder, "out.zip");
  await writeFile(path, zip.bytes);
  expect(execFileSync("unzip", ["-t", path]).toString()).toContain("No errors detected");
  const opened = await JSZip.loadAsync(zip.bytes, { checkCRC32: true });
  const inside = Object.keys(opened.files).filter((entry) => !entry.endsWith("/"));
  expect(inside.sort()).toEqual([...names, "manifest.csv", "manifest.json"].sort());
  expect((await opened.file("manifest.csv")!.async("string")).split("\r\n")).toHaveLength(7);
  const originals = await JSZip.loadAsync((await menu("The originals under the same names, as ZIP")).bytes);
  for (const one of names)
    expect((await originals.file(one)!.async("nodebuffer")).equals(await readFile(join(folder, one)))).toBe(
      true,
    );
  const sheet = await menu("The proof sheet as PDF");
  expect(sheet.bytes.subarray(0, 5).toString()).toBe("%PDF-");

  // The run's own page.
  await page.getByRole("button", { name: "Other ways to take the files away" }).click();
  await page.getByRole("menuitem", { name: "All about this run" }).click();
  const files = page.getByRole("grid", { name: "Files of this run" });
  await expect(files.getByRole("row")).toHaveCount(6);
  await expect(page.getByRole("main")).toContainText(/Total, at most 300 kB as one message/);
  await page.getByLabel("Most visible difference first").check();
  await files.focus();
  await page.keyboard.press("End");
  await expect(files.getByRole("row").last()).toHaveAttribute("aria-selected", "true");
  await checkAccess(page);
  await page.getByRole("button", { name: "Storage" }).click();
  await page.getByRole("button", { name: "Check that all is there" }).click();
  await expect(page.getByText(/All \d+ files are there, and nothing else\.|0 missing/)).toBeVisible();
  await checkAccess(page);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Give the files up" }).click();
  await expect(page.getByText("Its files were given up; this is the record.")).toBeVisible();
  await page.getByRole("button", { name: "Keep them" }).click();
  await expect(page.getByRole("link", { name: "Download the message" })).toBeVisible();
  await rm(folder, { recursive: true, force: true });
});

test("a total that cannot be met says by how much; several messages are a way out, and undo leads back", async ({
  page,
}) => {
  test.setTimeout(720_000);
  await openDesk(page);
  await newBatch(page, "Too much");
  await dropFiles(
    page,
    await Promise.all(
      [1, 2, 3, 4].map(async (n) => jpeg(`p${n}.jpg`, await jpegPhoto(900, 700, 440 + n, 92))),
    ),
  );
  await editChip(page, "Add pixels", { Width: "640" });
  await addClause(page, "Total", { "At most": "75KB" }, { Counted: "mail" });
  const note = page.getByRole("note", { name: "The whole is too large" });
  await expect(note).toContainText(/Cannot: together the photos take [0-9.]+ kB as one message/, {
    timeout: 240_000,
  });
  await expect(page.getByRole("button", { name: "Too large together" })).toBeDisabled();
  await expect(row(page, "p1.jpg")).toContainText("Cannot");
  await checkAccess(page);
  await note.getByRole("button", { name: /messages/ }).click();
  await expect(page.getByText(/^Shared out: all 4 photos/)).toBeVisible({ timeout: 240_000 });
  await measured(page);
  await page.getByRole("button", { name: "Make 4 files" }).click();
  await expect(page.getByRole("link", { name: /^Download 4 files/ })).toBeVisible({ timeout: 240_000 });
  await page.getByRole("button", { name: "Other ways to take the files away" }).click();
  await expect(page.getByRole("menuitem", { name: /^Message 2 of \d, each file attached/ })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: /^Undo/ }).click();
  await expect(note).toBeVisible({ timeout: 240_000 });
});

test("a ZIP gives its pictures with their folders; what is not safe is refused by entry", async ({
  page,
}) => {
  await openDesk(page);
  await newBatch(page, "Package");
  const zip = new JSZip();
  const photo = await jpegPhoto(300, 200, 460);
  zip
    .file("one.jpg", photo)
    .file("day 2/two.png", await pngPhoto(120, 90, 461))
    .file("again.jpg", photo)
    .file("notes.txt", "no picture")
    .file("__MACOSX/._one.jpg", "x");
  // It is there for some seconds only: it is waited for from the beginning.
  const told = page
    .getByText("One of these photos was here already; it is not taken twice.")
    .waitFor({ timeout: 240_000 });
  await dropFiles(page, [
    {
      name: "night.zip",
      mimeType: "application/zip",
      buffer: await zip.generateAsync({ type: "nodebuffer" }),
    },
  ]);
  await expect(grid(page).getByRole("row")).toHaveCount(3, { timeout: 240_000 });
  await expect(row(page, "two.png")).toBeVisible();
  await expect(page.getByRole("alert").filter({ hasText: "notes.txt" })).toContainText(
    "This is a text file, not a picture",
  );
  await told;
  await checkAccess(page);
  await page.getByRole("button", { name: "Dismiss notes.txt" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "notes.txt" })).toHaveCount(0);
});

test("a batch is renamed, removed and brought back; two windows show the same", async ({ page, context }) => {
  await openDesk(page);
  await newBatch(page, "Short-lived");
  await dropFiles(page, [jpeg("a.jpg", await jpegPhoto(300, 200, 470))]);
  await expect(row(page, "a.jpg")).toBeVisible();
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(row(other, "a.jpg")).toBeVisible();
  await page.getByRole("button", { name: "What to do with Short-lived" }).click();
  await page.getByRole("menuitem", { name: "Rename" }).click();
  await page.getByLabel("New name of Short-lived").fill("Longer-lived");
  await page.keyboard.press("Enter");
  await expect(other.getByRole("button", { name: /^Longer-lived 1 photo/ })).toBeVisible();
  await dropFiles(other, [jpeg("b.jpg", await jpegPhoto(300, 200, 471))]);
  await expect(row(page, "b.jpg")).toBeVisible();
  await page.getByRole("button", { name: "What to do with Longer-lived" }).click();
  await page.getByRole("menuitem", { name: "Remove the batch" }).click();
  await expect(other.getByRole("button", { name: /^Longer-lived/ })).toHaveCount(0);
  await page.getByRole("button", { name: "Bring it back" }).click();
  await expect(other.getByRole("button", { name: /^Longer-lived 2 photos/ })).toBeVisible();
});

/** Processes of an application on a data folder. */
function workersOf(dataDir: string): number[] {
  const out = execFileSync(
    "bash",
    [
      "-c",
      `for p in /proc/[0-9]*; do grep -qa -- "worker.mjs" $p/cmdline 2>/dev/null && grep -qa -- "${dataDir}" $p/environ 2>/dev/null && echo \${p#/proc/}; done || true`,
    ],
    { encoding: "utf8" },
  );
  return out.trim().split(/\s+/).filter(Boolean).map(Number);
}

test("two workers share a run; killed in the middle, and started again, every file is there once and right", async ({
  page,
}) => {
  test.setTimeout(720_000);
  const dataDir = await mkdtemp(join(tmpdir(), "zumbrel-workers-"));
  const out = await mkdtemp(join(tmpdir(), "zumbrel-out-"));
  try {
    const first = await startZumbrel(dataDir, ["--empty", "--workers", "2", "--out-root", out]);
    const api = (path: string) => `${first.address}/api/${path}`;
    const { id } = (await (await page.request.post(api("batches"), { data: { name: "Many" } })).json()) as {
      id: string;
    };
    const count = 14;
    for (let i = 0; i < count; i += 1)
      expect(
        (
          await page.request.post(api(`batches/${id}/photos?name=p${i}.jpg&folder=day`), {
            data: await jpegPhoto(700, 560, 500 + i),
            headers: { "content-type": "application/octet-stream" },
          })
        ).ok(),
      ).toBe(true);
    const brief = {
      zumbrelBrief: 1,
      name: "many",
      format: ["jpeg"],
      longSide: { exact: 520 },
      fileSize: { max: "40KB" },
    };
    expect(
      (await page.request.put(api(`batches/${id}/brief`), { data: { fresh: brief, words: "test" } })).ok(),
    ).toBe(true);
    expect((await page.request.post(api(`batches/${id}/runs`), { data: {} })).ok()).toBe(true);
    const run = async (at = first.address) =>
      (
        (await (await page.request.get(`${at}/api/batches/${id}`)).json()) as {
          run: { id: string; done: number; failed: number; finished: boolean; total: number };
        }
      ).run;
    await expect
      .poll(async () => (await run()).done, { timeout: 240_000, intervals: [50] })
      .toBeGreaterThan(2);
    const pids = workersOf(dataDir);
    expect(pids).toHaveLength(2);
    for (const pid of pids) process.kill(pid, "SIGKILL");
    // Others take their place by themselves; then all is stopped in the middle, and started again.
    await expect
      .poll(() => workersOf(dataDir).filter((pid) => !pids.includes(pid)).length, { timeout: 90_000 })
      .toBe(2);
    await first.stop();

    const second = await startZumbrel(dataDir, ["--empty", "--out-root", out]);
    await expect
      .poll(() => run(second.address), { timeout: 240_000 })
      .toMatchObject({ done: count, failed: 0, finished: true, total: count });
    const { id: runId } = await run(second.address);
    const zip = await JSZip.loadAsync(
      await (await page.request.get(`${second.address}/api/runs/${runId}/zip`)).body(),
      { checkCRC32: true },
    );
    const names = Object.keys(zip.files).filter((name) => !name.endsWith("/"));
    expect(names.sort()).toEqual(Array.from({ length: count }, (_, i) => `day/p${i}.jpg`).sort());
    for (const name of names)
      expect((await zip.file(name)!.async("nodebuffer")).length).toBeLessThanOrEqual(40_000);
    expect(
      await (await page.request.post(`${second.address}/api/storage`, { data: { do: "check" } })).json(),
    ).toMatchObject({ missing: 0 });

    // Into a folder that was allowed, through the interface; never over a file that is there.
    await page.goto(`${second.address}/runs?run=${runId}`);
    for (const said of [`${count} files are in`, "got a number behind the name"]) {
      await page.getByRole("button", { name: "Into a folder" }).click();
      await page.getByLabel("Folder inside it, if any").fill("../visit");
      await page.getByRole("button", { name: "Put the files there" }).click();
      await expect(page.getByText(said)).toBeVisible({ timeout: 90_000 });
    }
    expect((await readdir(join(out, "visit/day"))).length).toBe(count * 2);
    await second.stop();
  } finally {
    await rm(dataDir, { recursive: true, force: true });
    await rm(out, { recursive: true, force: true });
  }
});
