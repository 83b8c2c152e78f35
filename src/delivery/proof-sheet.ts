/** The proof sheet of a run: a small picture, facts and verdict of every file, on A4 pages. */
import { PDFDocument, type PDFFont, type PDFPage, type RGB, rgb, StandardFonts } from "pdf-lib";

export interface ProofSheetRow {
  /** JPEG; null where there is none any more. */
  thumb: Buffer | null;
  name: string;
  source: string;
  /** One line a fact. */
  facts: string[];
  /** One line a clause. */
  checks: { words: string; ok: boolean | null }[];
  ok: boolean;
}

export interface SheetTask {
  title: string;
  /** Below the title: when, how many, how much. */
  lines: string[];
  rows: ProofSheetRow[];
}

// ISO 216 A4 in points of 1/72 in.
const [WIDTH, HEIGHT] = [595.28, 841.89];
const EDGE = 40;
const ROW_GAP = 10;
const PICTURE = 56;
const LINE = 11;
const INK = rgb(0.11, 0.11, 0.12);
const SECOND = rgb(0.36, 0.36, 0.37);
const MET = rgb(0.06, 0.36, 0.62);
const NOT = rgb(0.72, 0.29, 0.07);
const RULE = rgb(0.82, 0.82, 0.81);

export async function proofSheet({ title, lines, rows }: SheetTask): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  pdf.setTitle(title);
  const [plain, bold] = [
    await pdf.embedFont(StandardFonts.Helvetica),
    await pdf.embedFont(StandardFonts.HelveticaBold),
  ];
  let page = pdf.addPage([WIDTH, HEIGHT]);
  let y = HEIGHT - EDGE;
  const write = (
    text: string,
    { room, ...how }: { x: number; y: number; font: PDFFont; size: number; room: number; color?: RGB },
  ) => page.drawText(fitted(text, how.font, how.size, room), { color: INK, ...how });
  write(title, { x: EDGE, y: y - 14, font: bold, size: 15, room: WIDTH - 2 * EDGE });
  y -= 32;
  for (const line of lines) {
    write(line, { x: EDGE, y, font: plain, size: 9.5, room: WIDTH - 2 * EDGE, color: SECOND });
    y -= 13;
  }
  y -= 4;
  for (const row of rows) {
    const tall = Math.max(PICTURE, LINE * (2 + Math.max(row.facts.length, row.checks.length))) + ROW_GAP;
    if (y - tall < EDGE) {
      page = pdf.addPage([WIDTH, HEIGHT]);
      y = HEIGHT - EDGE;
    }
    page.drawLine({ start: { x: EDGE, y }, end: { x: WIDTH - EDGE, y }, thickness: 0.5, color: RULE });
    if (row.thumb) await drawThumb(pdf, page, row.thumb, y - 6);
    const left = EDGE + PICTURE + 12;
    const middle = left + 190;
    write(row.name, { x: left, y: y - 15, font: bold, size: 10, room: 300 });
    write(row.ok ? "met" : "not met", {
      x: WIDTH - EDGE - 50,
      y: y - 15,
      font: bold,
      size: 10,
      room: 60,
      color: row.ok ? MET : NOT,
    });
    if (row.source !== row.name)
      write(`from ${row.source}`, {
        x: left,
        y: y - 15 - LINE,
        font: plain,
        size: 8,
        room: 180,
        color: SECOND,
      });
    row.facts.forEach((fact, i) =>
      write(fact, {
        x: left,
        y: y - 15 - LINE * (i + (row.source !== row.name ? 2 : 1)),
        font: plain,
        size: 8,
        room: 180,
      }),
    );
    row.checks.forEach((check, i) =>
      write(check.words, {
        x: middle,
        y: y - 15 - LINE * (i + 1),
        font: plain,
        size: 8,
        room: WIDTH - EDGE - middle,
        color: check.ok === false ? NOT : INK,
      }),
    );
    y -= tall;
  }
  pdf.getPages().forEach((one, i, all) =>
    one.drawText(`${i + 1} of ${all.length}`, {
      x: WIDTH - EDGE - 40,
      y: 22,
      size: 8,
      font: plain,
      color: SECOND,
    }),
  );
  return pdf.save();
}

async function drawThumb(pdf: PDFDocument, page: PDFPage, bytes: Buffer, top: number): Promise<void> {
  const image = await pdf.embedJpg(bytes);
  const factor = Math.min(PICTURE / image.width, PICTURE / image.height);
  const [width, height] = [image.width * factor, image.height * factor];
  page.drawImage(image, { x: EDGE + (PICTURE - width) / 2, y: top - height, width, height });
}

/** What the built-in letters can write (WinAnsi), cut to the room that there is. */
function fitted(text: string, font: PDFFont, size: number, room: number): string {
  const known = new Set(font.getCharacterSet());
  let out = [...text.normalize("NFC")].map((sign) => (known.has(sign.codePointAt(0)!) ? sign : "?")).join("");
  if (font.widthOfTextAtSize(out, size) <= room) return out;
  while (out.length > 1 && font.widthOfTextAtSize(`${out}…`, size) > room) out = out.slice(0, -1);
  return `${out}…`;
}
