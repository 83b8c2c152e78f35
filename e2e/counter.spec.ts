import { execFile } from "node:child_process";
import { mkdtemp, readFile, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import { expect, type Page, test } from "@playwright/test";
import nodemailer from "nodemailer";
import sharp from "sharp";
import { signaturePhoto } from "../tests/support/ink";
import { jpegPhoto } from "../tests/support/photos";
import {
  address,
  checkAccess,
  dropFiles,
  editChip,
  grid,
  measured,
  newBatch,
  openDesk,
  row,
} from "./support/desk";

const run = promisify(execFile);
const jpeg = (name: string, buffer: Buffer) => ({ name, mimeType: "image/jpeg", buffer });

const main = (page: Page) => page.getByRole("main");
const answer = (page: Page) => page.getByRole("complementary", { name: "Answer" });

async function openReceiver(page: Page, kind: string): Promise<void> {
  await page.goto(`${address()}/counter`);
  await page
    .getByRole("complementary", { name: "Receivers" })
    .getByRole("button", { name: new RegExp(`^${kind}`) })
    .click();
  await expect(page.getByRole("region", { name: "What it asks" })).toContainText(kind);
}

/** Two documents are enough: each test may be the first that comes here, or come a second time. */
async function twoDocuments(page: Page): Promise<void> {
  const change = page.getByRole("button", { name: "Change the rules" });
  await change.click();
  const publish = page.getByRole("button", { name: "Publish these rules" });
  await expect(publish).toBeVisible();
  await checkAccess(page);
  const address = page
    .getByRole("group", { name: "Proof of address" })
    .getByRole("button", { name: "Ask for it no more" });
  if (await address.isVisible()) {
    await address.click();
    await publish.click();
  } else await page.getByRole("button", { name: "Leave them as they were" }).click();
  // The wording is back on the screen only when the rules have been kept.
  await expect(change).toBeVisible();
  await expect(page.getByRole("region", { name: "What it asks" })).not.toContainText("Proof of address");
}

/** From the Desk to the run that was just made, and on to a receiver, with one press. */
async function handOver(page: Page, receiver: RegExp): Promise<void> {
  await page.getByRole("button", { name: "Other ways to take the files away" }).click();
  await page.getByRole("menuitem", { name: "All about this run" }).click();
  await page.getByRole("button", { name: "Hand over to" }).click();
  await page.getByRole("menuitem", { name: receiver }).click();
  await page.waitForURL(/\/counter\?receiver=/);
}

async function make(page: Page, button: string): Promise<void> {
  await page.getByRole("button", { name: button, exact: true }).click();
  await expect(page.getByRole("link", { name: /^Download/ })).toBeVisible({ timeout: 240_000 });
}

test("the receiver's wording, read, prepared, refused for an ignored floor, put right, and accepted", async ({
  page,
}) => {
  test.setTimeout(720_000);
  await openReceiver(page, "Upload form");
  await checkAccess(page);
  await twoDocuments(page);
  await checkAccess(page);
  const notice = page.getByRole("region", { name: "What it asks" });
  const wording = (await notice.getByRole("paragraph").allInnerTexts())
    .filter((text) => text.trim())
    .join("\n\n");
  expect(wording).toContain("File size: 24 KB to 60 KB");

  await openDesk(page);
  // What a first try left behind is there still.
  const name = test.info().retry ? "Once more for the permit" : "For the permit";
  await newBatch(page, name);
  await dropFiles(page, [
    jpeg("face.jpg", await jpegPhoto(1000, 1250, 601)),
    jpeg("sign.jpg", await signaturePhoto()),
  ]);
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "3");
  await page.getByRole("button", { name: "Paste a wording" }).click();
  await page.getByLabel("What the receiver writes").fill(wording);
  const dialog = page.getByRole("dialog", { name: "A receiver's wording" });
  await dialog
    .getByRole("region", { name: "Portrait" })
    .getByRole("button", { name: "Use for the batch" })
    .click();
  await page.keyboard.press("Escape");
  await row(page, "sign.jpg").click();
  await page.getByRole("button", { name: "Paste a wording" }).click();
  await dialog
    .getByRole("region", { name: "Signature" })
    .getByRole("button", { name: /^Use for this/ })
    .click();
  await page.keyboard.press("Escape");
  await measured(page);
  await expect(row(page, "sign.jpg")).toContainText("260 × 110");

  // What is taken as ink can be looked at.
  await page.getByLabel("Mark what is taken as ink").check();
  await expect(page.getByRole("img", { name: "sign.jpg with what is taken as ink marked" })).toBeVisible();
  await expect
    .poll(
      () =>
        page
          .getByRole("img", { name: /taken as ink marked/ })
          .evaluate((img: HTMLImageElement) => img.naturalWidth),
      { timeout: 60_000 },
    )
    .toBeGreaterThan(100);
  await checkAccess(page);
  // It is set from the keyboard, and taken back like any other edit.
  await page.getByLabel("Strength").press("ArrowRight");
  const undo = page.getByRole("button", { name: /^Undo/ });
  await expect(undo).toHaveAttribute("title", "Undo setting the ink of sign.jpg");
  await expect(page.getByLabel("Strength")).toHaveValue("51");
  await undo.click();
  await expect(page.getByLabel("Strength")).toHaveValue("50");
  await measured(page);

  // The floor is ignored: the form refuses, with its reason.
  await row(page, "face.jpg").click();
  await editChip(page, "File size", { "At least": "", "At most": "15 KB" });
  await measured(page);
  await make(page, "Make 2 files");
  await handOver(page, /^Night-trapping permit/);
  await expect(answer(page)).toContainText(/less than the 24 KB that are asked/, { timeout: 40_000 });
  await expect(answer(page)).toContainText("Refused: 1 of 2 documents");
  await checkAccess(page);

  await page.getByRole("link", { name: "Desk" }).click();
  await page.getByRole("button", { name: new RegExp(`^${name} \\d`) }).click();
  await page.getByRole("button", { name: /^Undo/ }).click();
  await expect(page.getByRole("button", { name: /^File size 24 to 60 KB/ })).toBeVisible();
  await measured(page);
  await make(page, "Make 1 file more");

  // What only a person can check is ticked, and stays with the run.
  await row(page, "sign.jpg").click();
  await page.getByRole("checkbox", { name: "Sign in person" }).click();
  // The list of runs is late: the run that was just made is handed over, not the one that the page knew before.
  let come = () => {};
  const late = new Promise<void>((resolve) => {
    come = resolve;
  });
  await page.route("**/api/runs", async (route) => {
    await late;
    await route.continue();
  });
  await handOver(page, /^Night-trapping permit/);
  come();
  await expect(answer(page)).toContainText("Accepted.", { timeout: 40_000 });
  await expect(answer(page).getByRole("listitem")).toHaveText([/Portrait.*accepted/, /Signature.*accepted/]);
  await page.getByRole("link", { name: "Runs" }).click();
  await page.getByRole("row").filter({ hasText: "sign" }).click();
  await expect(page.getByRole("checkbox", { name: "Sign in person" })).toBeChecked();
});

test("the documents of a form as one package: what is missing, a line that closes, once more, and never twice", async ({
  page,
}) => {
  test.setTimeout(720_000);
  await openReceiver(page, "Upload form");
  await twoDocuments(page);
  await page.getByRole("button", { name: /^Begin (the \d documents|the documents anew|anew)$/ }).click();
  const documents = page.getByRole("region", { name: "Your documents" });
  await expect(documents).toContainText("Still missing: Portrait, Signature.");
  const button = documents.getByRole("button", { name: "Make and hand over 2 documents" });
  await expect(button).toBeDisabled();
  await documents
    .getByLabel("Photo for Portrait")
    .setInputFiles(jpeg("me.jpg", await jpegPhoto(1000, 1300, 611)));
  await expect(documents).toContainText("Still missing: Signature.");
  await documents
    .getByLabel("Photo for Signature")
    .setInputFiles(jpeg("hand.jpg", await signaturePhoto(907)));
  await expect(documents).toContainText("All documents are there.");
  await expect(documents.getByText("as asked")).toHaveCount(2, { timeout: 40_000 });
  await checkAccess(page);

  const before = await main(page)
    .getByRole("region", { name: "What was handed over" })
    .getByRole("listitem")
    .count();
  await page.getByLabel("Today it").selectOption("closes");
  await expect(page.getByLabel("Today it")).toHaveValue("closes");
  await button.click();
  await expect(page.getByText(/closed the line in the middle/)).toBeVisible({ timeout: 240_000 });
  await page.getByLabel("Today it").selectOption("slow");
  await page.getByRole("button", { name: "Try again" }).click();
  await expect(page.getByText("On its way")).toBeVisible();
  await expect(answer(page)).toContainText("Accepted.", { timeout: 40_000 });
  await page.getByLabel("Today it").selectOption("ready");
  await expect(
    main(page).getByRole("region", { name: "What was handed over" }).getByRole("listitem"),
  ).toHaveCount(before + 1);
  await expect(main(page).getByRole("alert")).toHaveCount(0);
});

test("mailbox, print room and wall screen answer a run; a real client sends too, and a message too large is returned", async ({
  page,
}) => {
  test.setTimeout(720_000);
  await openDesk(page);
  await newBatch(page, "For all receivers");
  await dropFiles(page, [
    jpeg("one.jpg", await jpegPhoto(1500, 1000, 621)),
    jpeg("two.jpg", await jpegPhoto(1500, 1000, 622)),
  ]);
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "3");
  await editChip(page, "Add pixels", { "Long side": "900" });
  await measured(page);
  await make(page, "Make 2 files");
  await handOver(page, /^County moth recorder/);
  await expect(answer(page)).toContainText("Delivered:", { timeout: 90_000 });
  await expect(answer(page)).toContainText("one.jpg");

  const [, port] = /127\.0\.0\.1:(\d+)/.exec(await main(page).innerText())!;
  const transport = nodemailer.createTransport({
    host: "127.0.0.1",
    port: Number(port),
    secure: false,
    ignoreTLS: true,
  });
  await transport.sendMail({
    from: "someone@quillmoor.example",
    to: "records@moths.example",
    subject: "By hand",
    text: "One picture.",
    attachments: [{ filename: "a.jpg", content: await jpegPhoto(200, 100, 623) }],
  });
  await expect(answer(page)).toContainText("By hand");
  await page.getByRole("button", { name: "Change the rules" }).click();
  await page.getByLabel("Takes at most").fill("0.05");
  await page.getByRole("button", { name: "Publish these rules" }).click();
  await expect(page.getByRole("region", { name: "What it asks" })).toContainText("50 KB");
  await page.getByRole("link", { name: "Desk" }).click();
  await page.getByRole("button", { name: /^For all receivers/ }).click();
  await handOver(page, /^County moth recorder/);
  await expect(answer(page)).toContainText(/Returned to the sender: message too large/, { timeout: 90_000 });
  await page.getByRole("button", { name: "Change the rules" }).click();
  await page.getByLabel("Takes at most").fill("a lot");
  await page.getByRole("button", { name: "Publish these rules" }).click();
  await expect(main(page).getByRole("alert")).toContainText('found "a lot"');
  await page.getByLabel("Takes at most").fill("6.8");
  await page.getByRole("button", { name: "Publish these rules" }).click();
  await expect(page.getByRole("button", { name: "Change the rules" })).toBeVisible();

  await page.getByRole("link", { name: "Desk" }).click();
  await page.getByRole("button", { name: /^For all receivers/ }).click();
  await handOver(page, /^Heather/);
  // 900 × 600 px on 120 × 90 mm: 900 / (120 / 25.4) is 190.5 ppi.
  await expect(answer(page)).toContainText(/19[01] ppi on 120 × 90 mm, less than the 240/, {
    timeout: 90_000,
  });
  await expect(page.getByRole("img", { name: /as printed and seen close to the eye/ })).toBeVisible();
  await checkAccess(page);
  await page.getByRole("link", { name: "Desk" }).click();
  await page.getByRole("button", { name: /^For all receivers/ }).click();
  await handOver(page, /^Wall screen/);
  await expect(answer(page)).toContainText(/shown enlarged to 133 %/, { timeout: 90_000 });
  await expect(page.getByRole("img", { name: /on the wall screen/ })).toBeVisible();
  await checkAccess(page);
});

test("a print sheet: portraits to fill the paper, cut marks, and a PDF that an independent reader measures", async ({
  page,
}) => {
  test.setTimeout(720_000);
  await openDesk(page);
  await newBatch(page, "Portraits to print");
  await dropFiles(page, [
    jpeg("a.jpg", await jpegPhoto(1000, 1300, 631)),
    jpeg("b.jpg", await jpegPhoto(1000, 1300, 632)),
  ]);
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "3");
  await page.getByRole("button", { name: "Paste a wording" }).click();
  await page.getByLabel("What the receiver writes").fill("Portraits: JPEG, printed 35 × 45 mm at 300 ppi.");
  await page
    .getByRole("dialog", { name: "A receiver's wording" })
    .getByRole("button", { name: "Use for the batch" })
    .click();
  await page.keyboard.press("Escape");
  await measured(page);
  await make(page, "Make 2 files");
  await page.getByRole("button", { name: "Other ways to take the files away" }).click();
  await page.getByRole("menuitem", { name: "On print sheets, to be cut" }).click();
  await expect(page.getByRole("img", { name: /The sheet with \d+ pictures/ })).toBeVisible();
  await page.getByLabel("Margin").fill("0");
  await expect(page.getByRole("img", { name: "The sheet with 8 pictures" })).toBeVisible();
  await checkAccess(page);

  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "The sheet as PDF" }).click(),
  ]);
  const path = join(await mkdtemp(join(tmpdir(), "zumbrel-")), "sheet.pdf");
  await writeFile(path, await readFile(await download.path()));
  const { stdout } = await run("pdfimages", ["-list", path]);
  const rows = stdout
    .trim()
    .split("\n")
    .slice(2)
    .map((line) => line.trim().split(/\s+/));
  expect(rows).toHaveLength(8);
  // 35 mm at 300 ppi are 413 px, 45 mm 531 px.
  for (const cells of rows) {
    expect([cells[3], cells[4], cells[8]]).toEqual(["413", "531", "jpeg"]);
    expect(Math.abs(Number(cells[12]) - 300)).toBeLessThanOrEqual(1);
  }
  const size = /Page size:\s+([\d.]+) x ([\d.]+)/.exec((await run("pdfinfo", [path])).stdout)!;
  expect(
    [Number(size[1]), Number(size[2])].sort((a, b) => a - b).map((pt) => Math.round((pt / 72) * 254) / 10),
  ).toEqual([100, 150]);

  // What does not fit says so, in place, and nothing is lost.
  await page.getByLabel("Gap between them").fill("160");
  await expect(page.getByRole("region", { name: "The sheet" }).getByRole("alert")).toContainText(
    "larger than the sheet",
  );
  await page.getByLabel("Gap between them").fill("2");
  await page.getByLabel("Each alone, with bleed and crop marks").check();
  await expect(page.getByText("sheet 1 of 2")).toBeAttached();
  await page.getByLabel("So many copies of each").check();
  await page.getByLabel("Copies of a.jpg").fill("9");
  // Nine of one and one of the other, eight to a sheet.
  await expect(page.getByText("sheet 1 of 2")).toBeAttached();
  const [picture] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "TIFF" }).click(),
  ]);
  const meta = await sharp(await readFile(await picture.path())).metadata();
  expect([meta.width, meta.height].sort((a, b) => a - b)).toEqual([1181, 1772]);
  await checkAccess(page);
});
