/**
 * The upload form: decodes each file by itself, with decoders of its own, and refuses as forms do. Nothing
 * here is shared
 * with what prepares or proves files.
 */
import jpegJs from "jpeg-js";
import { PDFDocument } from "pdf-lib";
import { PNG } from "pngjs";
import type { Answer, Line, Received } from "./answer";
import { type FormRules, type Slot, TYPE_NAMES, typeWords } from "./rules";

const KB = 1000;
/** A form looks no further into files that are far beyond its ceiling. */
const LOOKED_AT = 24_000_000;
const MM = 25.4 / 72;

interface Picture {
  kind: "jpeg" | "png" | "pdf";
  width: number;
  height: number;
  /** RGBA; null for a PDF. */
  data: Uint8Array | null;
}

/** By the first bytes: names say nothing. */
function kindOf(bytes: Buffer): Picture["kind"] | null {
  if (bytes.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff]))) return "jpeg";
  if (bytes.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])))
    return "png";
  return bytes.subarray(0, 5).toString("latin1") === "%PDF-" ? "pdf" : null;
}

async function open(bytes: Buffer): Promise<Picture | string> {
  const kind = kindOf(bytes);
  if (!kind) return "the file is of no type that this form knows";
  try {
    if (kind === "jpeg")
      return {
        kind,
        ...jpegJs.decode(bytes, { useTArray: true, maxResolutionInMP: 30, maxMemoryUsageInMB: 400 }),
      };
    if (kind === "png") {
      const { width, height, data } = PNG.sync.read(bytes);
      return { kind, width, height, data };
    }
    const file = await PDFDocument.load(bytes, { updateMetadata: false });
    if (file.getPageCount() !== 1) return `the PDF has ${file.getPageCount()} pages, and one is asked`;
    const { width, height } = file.getPage(0).getSize();
    return { kind, width: width * MM, height: height * MM, data: null };
  } catch {
    return `the ${TYPE_NAMES[kind]} cannot be opened: it is damaged`;
  }
}

/** Every reason to refuse a file, in the order in which the form looks. */
async function reasons(slot: Slot, { bytes }: Received): Promise<string[]> {
  const found: string[] = [];
  const kb = bytes.length / KB;
  const words = `${kb.toFixed(1)} KB`;
  if (slot.floor !== null && kb < slot.floor)
    found.push(`the file has ${words}, less than the ${slot.floor} KB that are asked`);
  const ceiling = slot.untold ?? slot.ceiling;
  if (ceiling !== null && kb > ceiling)
    found.push(`the file has ${words}, more than the ${ceiling} KB that are allowed`);
  if (bytes.length > LOOKED_AT) return [`the file is far too large (${Math.round(kb)} KB)`];
  const picture = await open(bytes);
  if (typeof picture === "string") return [...found, picture];
  if (!slot.formats.includes(picture.kind))
    return [...found, `the file is a ${TYPE_NAMES[picture.kind]}, and ${typeWords(slot.formats)} is asked`];
  const { width, height } = picture;
  if (
    slot.pixels &&
    picture.kind !== "pdf" &&
    (width !== slot.pixels.width || height !== slot.pixels.height)
  ) {
    found.push(
      `the picture has ${width} × ${height} pixels, and ${slot.pixels.width} × ${slot.pixels.height} ` +
        "are asked",
    );
  }
  if (slot.page && picture.kind === "pdf" && !isPage(slot.page, picture))
    found.push(
      `the page measures ${width.toFixed(0)} × ${height.toFixed(0)} mm, and ${slot.page.width} × ` +
        `${slot.page.height} mm are asked`,
    );
  const ink = slot.ink && picture.data ? inkFault(picture.data) : null;
  if (ink) found.push(ink);
  return found;
}

/** Either way up, to within a millimetre: forms measure no finer. */
function isPage(page: { width: number; height: number }, { width, height }: Picture): boolean {
  const near = (w: number, h: number) => Math.abs(width - w) <= 1 && Math.abs(height - h) <= 1;
  return near(page.width, page.height) || near(page.height, page.width);
}

/** Black ink on white paper: most pixels nearly white, some dark, and the dark ones without colour. */
function inkFault(data: Uint8Array): string | null {
  const pixels = data.length / 4;
  let [white, dark, colour] = [0, 0, 0];
  for (let p = 0; p < data.length; p += 4) {
    const brightest = Math.max(data[p], data[p + 1], data[p + 2]);
    const faintest = Math.min(data[p], data[p + 1], data[p + 2]);
    if (faintest >= 225) white += 1;
    else if (faintest < 120) {
      dark += 1;
      if (brightest - faintest > 40) colour += 1;
    }
  }
  if (dark < pixels * 0.001) return "there is no ink on it";
  if (white < pixels * 0.5) return "the paper is not white";
  return colour > dark * 0.2 ? "the ink is not black" : null;
}

/** The form's answer to all of its documents at once. */
export async function judgeForm(
  rules: FormRules,
  files: readonly Received[],
  receipt: string,
): Promise<Answer> {
  const lines: Line[] = [];
  for (const slot of rules.slots) {
    const given = files.filter((file) => file.slot === slot.key);
    if (given.length !== 1) {
      lines.push({
        about: slot.title,
        ok: false,
        words: given.length ? `${given.length} files came for it, and one is asked` : "is missing",
      });
      continue;
    }
    const faults = await reasons(slot, given[0]);
    lines.push({
      about: slot.title,
      ok: faults.length === 0,
      words: faults.length ? `refused: ${faults.join("; ")}` : "accepted",
    });
  }
  const refused = lines.filter((line) => !line.ok).length;
  const stray = files.filter((file) => !rules.slots.some((slot) => slot.key === file.slot)).length;
  if (stray)
    lines.push({
      about: "Other files",
      ok: true,
      words: `${stray} belong to no document of this form and were left out`,
    });
  if (refused)
    return {
      accepted: false,
      words:
        `Refused: ${refused} of ${rules.slots.length} documents ${refused === 1 ? "is" : "are"} not as ` +
        "asked.",
      lines,
      receipt: null,
    };
  return { accepted: true, words: `Accepted. The application has the number ${receipt}.`, lines, receipt };
}
