/** From a form's list to accepted documents: slots, proposals, the head, and a refusal that is taken. */
import { expect, type Page, test } from "@playwright/test";
import { signaturePhoto } from "../tests/support/ink";
import { jpegPhoto } from "../tests/support/photos";
import { address, checkAccess, dropFiles, grid, measured, newBatch, openDesk } from "./support/desk";

const jpeg = (name: string, buffer: Buffer) => ({ name, mimeType: "image/jpeg", buffer });

const documents = (page: Page) => page.getByRole("region", { name: "Documents" });
const slot = (page: Page, name: string) => documents(page).getByRole("listitem", { name, exact: true });
const answer = (page: Page) => page.getByRole("complementary", { name: "Answer" });

async function pasteWording(page: Page, text: string): Promise<void> {
  await page.getByRole("button", { name: "Paste a wording" }).click();
  await page.getByLabel("What the receiver writes").fill(text);
}

const LIST = `Please upload three documents:
- Portrait – 240 × 300 px, JPG, 24 KB to 60 KB, the head 60 to 70 % of the height of the picture
- Signature – 260 × 110 px, black ink, JPG, 9 KB to 18 KB
- Proof of address – PDF, 210 × 297 mm, not more than 480 KB`;

test("a list of three documents, what is proposed, the head marked, a refusal taken, and accepted", async ({
  page,
}) => {
  test.setTimeout(720_000);
  // The form holds to a ceiling that its page does not tell.
  await page.goto(`${address()}/counter`);
  await page
    .getByRole("complementary", { name: "Receivers" })
    .getByRole("button", { name: /^Upload form/ })
    .click();
  await page.getByRole("button", { name: "Change the rules" }).click();
  await page
    .getByRole("group", { name: "Portrait" })
    .getByLabel(/^In truth/)
    .fill("32");
  await page.getByRole("button", { name: "Publish these rules" }).click();
  await expect(page.getByRole("region", { name: "What it asks" })).toContainText("24 KB to 60 KB");
  await expect(page.getByRole("region", { name: "What it asks" })).not.toContainText("32");

  await openDesk(page);
  await newBatch(page, "Permit documents");
  await pasteWording(page, LIST);
  await page.getByRole("button", { name: "Prepare all 3" }).click();
  await expect(documents(page)).toContainText("Still missing: Portrait, Signature, Proof of address.");
  // A document without a photo shows its brief, which can be changed already.
  await slot(page, "Signature").getByRole("button", { name: "Show Signature" }).click();
  await expect(page.getByRole("heading", { name: "Signature", exact: true })).toBeVisible();
  await checkAccess(page);

  await dropFiles(page, [
    jpeg("IMG_0001.jpg", await signaturePhoto()),
    jpeg("IMG_0002.jpg", await jpegPhoto(1000, 1300, 611)),
  ]);
  await documents(page).getByRole("button", { name: "Take both as proposed" }).click({ timeout: 40_000 });
  await expect(slot(page, "Portrait")).toContainText("IMG_0002.jpg");
  await expect(slot(page, "Signature")).toContainText("IMG_0001.jpg");
  await expect(documents(page)).toContainText("Still missing: Proof of address.");
  await expect(grid(page)).toHaveAttribute("aria-rowcount", "5");

  // One photo may serve two documents; the list beside a document is worked from the keyboard.
  await slot(page, "Proof of address").getByLabel("Photo for Proof of address").selectOption("IMG_0002.jpg");
  await expect(documents(page)).toContainText("All documents are there.");
  await expect(grid(page).getByText("IMG_0002.jpg")).toHaveCount(2);
  await measured(page);
  await expect(slot(page, "Portrait")).toContainText("mark crown and chin");

  // Crown and chin are marked by keyboard, and one of them by hand.
  await slot(page, "Portrait").getByRole("button", { name: "Show Portrait" }).click();
  await page.getByRole("link", { name: /^Frame/ }).click();
  const head = page.getByRole("region", { name: "Head" });
  await expect(head.getByRole("status")).toContainText("not marked yet");
  await page.keyboard.press("m");
  await expect(head.getByRole("status")).toContainText("as marked by you");
  const [crown, chin] = ["Crown", "Chin"].map((name) => page.getByRole("slider", { name, exact: true }));
  const before = Number(await crown.getAttribute("aria-valuenow"));
  await crown.focus();
  for (let n = 0; n < 3; n += 1) await page.keyboard.press("Shift+ArrowDown");
  await expect(crown).toHaveAttribute("aria-valuenow", String(before + 30));
  const box = (await chin.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 - 24, { steps: 4 });
  await page.mouse.up();
  await expect(head.getByRole("status")).toContainText("65 % high, as marked by you");
  await checkAccess(page);
  // A chin above the crown is refused in words, and the marks stay.
  const [from, to] = [(await crown.boundingBox())!, (await chin.boundingBox())!];
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + to.height + 20);
  await page.mouse.up();
  await expect(page.getByText("The chin has to lie below the crown.")).toBeVisible();
  await expect(head.getByRole("status")).toContainText("as marked by you");
  await page.getByRole("button", { name: /^Right so/ }).click();
  await page.keyboard.press("Escape");

  await measured(page);
  await page.getByRole("button", { name: "Make 3 files", exact: true }).click();
  await expect(page.getByRole("link", { name: /^Download/ })).toBeVisible({ timeout: 240_000 });
  await expect(grid(page)).toContainText("made: Portrait.jpg");
  await expect(grid(page)).toContainText("made: Proof of address.pdf");

  await handOver(page);
  await expect(answer(page)).toContainText(/more than the 32 KB that are allowed/, { timeout: 40_000 });
  const refusal = (await answer(page).getByRole("listitem").allInnerTexts()).join("\n");

  // The answer is pasted where the files were made.
  await page.getByRole("link", { name: "Runs" }).click();
  await page.getByRole("button", { name: "Paste an answer" }).click();
  await page.getByLabel("What came back after files were refused").fill(refusal);
  const refused = page.getByRole("region", { name: "Refused" });
  await expect(refused).toContainText("24 to 60 KB");
  await expect(refused).toContainText("24 to 32 KB");
  await checkAccess(page);
  await refused.getByRole("button", { name: /^Take this/ }).click();
  await expect(page.getByText("1 file is made again; 2 files stay as they are.")).toBeVisible();
  await page.getByRole("link", { name: "Desk" }).click();
  await slot(page, "Portrait").getByRole("button", { name: "Show Portrait" }).click();
  await expect(page.getByRole("button", { name: /^File size 24 to 32 KB/ })).toBeVisible();
  await expect(page.getByRole("link", { name: /^Download/ })).toBeVisible({ timeout: 240_000 });
  await handOver(page);
  await expect(answer(page)).toContainText("Accepted.", { timeout: 40_000 });
});

async function handOver(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Other ways to take the files away" }).click();
  await page.getByRole("menuitem", { name: "All about this run" }).click();
  await page.getByRole("button", { name: "Hand over to" }).click();
  await page.getByRole("menuitem", { name: /^Night-trapping permit/ }).click();
  await page.waitForURL(/\/counter\?receiver=/);
}

test("a photo is dropped on its document, dragged to another, and a refusal on the Desk is told from rules", async ({
  page,
}) => {
  await openDesk(page);
  await newBatch(page, "Two documents");
  await pasteWording(page, "(a) a portrait as JPG, 300 × 400 px; (b) a cover picture as PNG, 200 × 150 px.");
  await page.getByRole("button", { name: "Prepare both" }).click();
  await expect(documents(page)).toContainText("2 documents");
  const names = await documents(page)
    .getByRole("listitem")
    .evaluateAll((items) => items.map((item) => item.getAttribute("aria-label")!));
  const data = await page.evaluateHandle(
    (base64) => {
      const transfer = new DataTransfer();
      transfer.items.add(
        new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], "one.jpg", { type: "image/jpeg" }),
      );
      return transfer;
    },
    (await jpegPhoto(600, 800, 612)).toString("base64"),
  );
  for (const type of ["dragenter", "dragover", "drop"])
    await slot(page, names[1]).dispatchEvent(type, { dataTransfer: data });
  // The list beside each document names the photo too; only the document that holds it can be dragged.
  const holds = (name: string) => expect(slot(page, name)).toHaveAttribute("draggable", "true");
  await holds(names[1]);
  await slot(page, names[1]).dragTo(slot(page, names[0]));
  await holds(names[0]);
  await expect(slot(page, names[1])).toContainText("no photo yet");
  await page.getByRole("button", { name: /^Undo/ }).click();
  await holds(names[1]);
  await slot(page, names[1]).getByRole("button", { name: /^Show/ }).click();

  await pasteWording(page, "Error: your file is 812 KB. It must not be larger than 90 KB.");
  const refused = page.getByRole("region", { name: "Refused" });
  await expect(refused).toContainText("It found 812 KB.");
  await expect(refused).toContainText("at most 90 KB");
  await page.getByRole("button", { name: "It is no refusal: read it as rules" }).click();
  await expect(refused).toHaveCount(0);
  await page
    .getByLabel("What the receiver writes")
    .fill("Error: your file is 812 KB. It must not be larger than 80 KB.");
  await refused.getByRole("button", { name: "Take this", exact: true }).click();
  await expect(page.getByRole("button", { name: /^File size at most 80 KB/ })).toBeVisible();
  await page.getByRole("button", { name: /^Undo/ }).click();
  await expect(page.getByRole("button", { name: /^File size/ })).toHaveCount(0);
});
