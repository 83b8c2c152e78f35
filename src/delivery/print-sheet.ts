/**
 * Print sheets as PDF at their exact physical size: encoded JPEGs are embedded as they are, their profile
 * goes along.
 */
import { degrees, PDFDocument, type PDFImage, PDFName, type PDFPage, PDFRawStream, rgb } from "pdf-lib";
import { iccProfile, readJpeg, sniff } from "@/core/containers";
import { cutsOf, type Placed, type Sheet, SheetError, type SheetTask } from "@/core/delivery/print-sheet";

const POINT = 72 / 25.4;
/** A hair line that a knife follows. */
const LINE = 0.35;

/** A file on sheets and pages. */
export interface SheetFile {
  id: string;
  name: string;
  read: () => Promise<Buffer>;
}

type Drawable =
  | { kind: "image"; image: PDFImage }
  | { kind: "page"; page: Awaited<ReturnType<PDFDocument["embedPdf"]>>[number] };

export async function printSheets(
  sheets: readonly Sheet[],
  task: SheetTask,
  files: readonly SheetFile[],
): Promise<Uint8Array> {
  const pdf = await empty();
  const known = new Map<string, Promise<Drawable>>();
  for (const sheet of sheets) {
    const page = pdf.addPage([sheet.width * POINT, sheet.height * POINT]);
    for (const placed of sheet.placed) {
      const file = files.find((one) => one.id === placed.id)!;
      if (!known.has(file.id)) known.set(file.id, drawableOf(pdf, file));
      draw(page, sheet, placed, await known.get(file.id)!);
      if (task.mode === "single") boxes(page, sheet, placed, task.bleed);
    }
    for (const cut of cutsOf(sheet, task)) {
      const at = (x: number, y: number) => ({ x: x * POINT, y: (sheet.height - y) * POINT });
      page.drawLine({
        start: at(cut.x1, cut.y1),
        end: at(cut.x2, cut.y2),
        thickness: LINE,
        color: rgb(0.45, 0.45, 0.45),
      });
    }
  }
  return pdf.save();
}

async function empty(): Promise<PDFDocument> {
  const pdf = await PDFDocument.create();
  pdf.setProducer("Zumbrel");
  pdf.setCreator("Zumbrel");
  return pdf;
}

async function drawableOf(pdf: PDFDocument, { name, read }: SheetFile): Promise<Drawable> {
  const bytes = await read();
  const kind = sniff(bytes.subarray(0, 64));
  if (kind === "pdf") return { kind: "page", page: (await pdf.embedPdf(bytes, [0]))[0] };
  if (kind === "png") return { kind: "image", image: await pdf.embedPng(bytes) };
  if (kind === "jpeg") return { kind: "image", image: await embedJpeg(pdf, bytes) };
  throw new SheetError(
    `${name} is a ${(kind ?? "file").toUpperCase()}; JPEG, PNG and PDF can be put on pages. Ask for ` +
      "one of these on the Desk.",
  );
}

/**
 * The JPEG's bytes as they are. The library leaves its colours to the device; its own profile is put beside
 * it.
 */
async function embedJpeg(pdf: PDFDocument, bytes: Buffer): Promise<PDFImage> {
  const image = await pdf.embedJpg(bytes);
  const jpeg = readJpeg(bytes);
  const icc = iccProfile(jpeg);
  await image.embed();
  const stream = pdf.context.lookup(image.ref);
  if (icc && stream instanceof PDFRawStream) {
    const profile = pdf.context.stream(icc, { N: jpeg.frame.components.length });
    stream.dict.set(
      PDFName.of("ColorSpace"),
      pdf.context.obj([PDFName.of("ICCBased"), pdf.context.register(profile)]),
    );
  }
  return image;
}

function draw(page: PDFPage, sheet: Sheet, placed: Placed, what: Drawable): void {
  const { x, y, width, height, turned } = placed;
  const left = x * POINT;
  const bottom = (sheet.height - y - height) * POINT;
  // A quarter turn clockwise about the lower left corner goes below it: begin at the upper left.
  const at = turned
    ? {
        x: left,
        y: bottom + height * POINT,
        width: height * POINT,
        height: width * POINT,
        rotate: degrees(-90),
      }
    : { x: left, y: bottom, width: width * POINT, height: height * POINT };
  if (what.kind === "image") page.drawImage(what.image, at);
  else page.drawPage(what.page, at);
}

/** Where it is cut, and how far the picture goes beyond (ISO 32000-1, 14.11.2). */
function boxes(page: PDFPage, sheet: Sheet, { x, y, width, height }: Placed, bleed: number): void {
  page.setBleedBox(x * POINT, (sheet.height - y - height) * POINT, width * POINT, height * POINT);
  page.setTrimBox(
    (x + bleed) * POINT,
    (sheet.height - y - height + bleed) * POINT,
    (width - 2 * bleed) * POINT,
    (height - 2 * bleed) * POINT,
  );
}

export interface PageFile extends SheetFile {
  /** Millimetres at which it is printed. */
  width: number;
  height: number;
}

/** Files in their order, a page each: PDFs keep their own pages, pictures get one of their size. */
export async function pagesOf(files: readonly PageFile[]): Promise<Uint8Array> {
  const pdf = await empty();
  for (const file of files) {
    const bytes = await file.read();
    if (sniff(bytes.subarray(0, 64)) === "pdf") {
      const from = await PDFDocument.load(bytes, { updateMetadata: false });
      for (const page of await pdf.copyPages(from, from.getPageIndices())) pdf.addPage(page);
      continue;
    }
    const { width, height } = file;
    const what = await drawableOf(pdf, { ...file, read: async () => bytes });
    draw(
      pdf.addPage([width * POINT, height * POINT]),
      { width, height, placed: [] },
      { id: file.id, x: 0, y: 0, width, height, turned: false },
      what,
    );
  }
  return pdf.save();
}
