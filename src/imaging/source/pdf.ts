/**
 * Reading PDFs back, with a reader that shares nothing with the writer: the page, and the one picture on it.
 */
import type { PDFDocument, PDFName, PDFObject, PDFRawStream } from "pdf-lib";
import { PhotoError } from "@/core/photo";

export interface PdfPicture {
  pages: number;
  /** Inches. */
  page: { width: number; height: number };
  /** Inches that the picture is printed at. */
  shown: { width: number; height: number };
  /** Its bytes as they lie in the file. */
  jpeg: Buffer;
  /** Whether a profile says what its colours are. */
  icc: Buffer | null;
}

const POINTS = 72;

type Library = typeof import("pdf-lib");

/** Throws a {@link PhotoError} for a file that does not hold exactly one JPEG on its first page. */
export async function readPdfPicture(bytes: Uint8Array): Promise<PdfPicture> {
  // Loaded only when a PDF comes: it takes a tenth of a second.
  const library = await import("pdf-lib");
  const { PDFArray, PDFDict, PDFName: Name } = library;
  const file = await library.PDFDocument.load(bytes, {
    updateMetadata: false,
    ignoreEncryption: false,
  }).catch(() => {
    throw new PhotoError("The PDF is damaged or locked: it cannot be read. Save it anew.");
  });
  if (file.getPageCount() === 0) throw new PhotoError("The PDF holds no page. Save it anew.");
  const page = file.getPage(0);
  const box = page.getMediaBox();
  const resources = page.node.Resources();
  const objects = resources?.lookupMaybe(Name.of("XObject"), PDFDict);
  const images = (objects?.entries() ?? [])
    .map(([name, ref]) => [name, file.context.lookup(ref)] as const)
    .filter((entry): entry is [PDFName, PDFRawStream] => isImage(library, entry[1]));
  const [[name, image] = []] = images;
  if (!image || images.length > 1)
    throw new PhotoError(
      `The first page of the PDF holds ${images.length} pictures; exactly one is understood. Save ` +
        "the page with one picture.",
    );
  const filter = image.dict.lookup(Name.of("Filter"));
  if (
    filter !== Name.of("DCTDecode") &&
    !(filter instanceof PDFArray && filter.size() === 1 && filter.get(0) === Name.of("DCTDecode"))
  ) {
    throw new PhotoError("The picture in the PDF is not a JPEG. Save the page with a JPEG.");
  }
  const matrix = placed(contentOf(library, page.node.Contents(), file), name!.asString());
  return {
    pages: file.getPageCount(),
    page: { width: box.width / POINTS, height: box.height / POINTS },
    shown: {
      width: Math.hypot(matrix[0], matrix[1]) / POINTS,
      height: Math.hypot(matrix[2], matrix[3]) / POINTS,
    },
    jpeg: Buffer.from(image.getContents()),
    icc: profileOf(library, image.dict.lookup(Name.of("ColorSpace")), file),
  };
}

const isImage = ({ PDFRawStream, PDFName }: Library, object: PDFObject | undefined): object is PDFRawStream =>
  object instanceof PDFRawStream && object.dict.lookup(PDFName.of("Subtype")) === PDFName.of("Image");

function contentOf(
  { PDFArray, PDFRawStream, decodePDFRawStream }: Library,
  contents: PDFObject | undefined,
  file: PDFDocument,
): string {
  const streams =
    contents instanceof PDFArray ? contents.asArray().map((ref) => file.context.lookup(ref)) : [contents];
  return streams
    .map((stream) =>
      stream instanceof PDFRawStream
        ? Buffer.from(decodePDFRawStream(stream).decode()).toString("latin1")
        : "",
    )
    .join("\n");
}

const MATRIX = /((?:[-+.\d]+\s+){6})cm\s*(?:\/(\S+)\s+Do)?/g;

/** The matrices before the picture is drawn, multiplied (ISO 32000-1, 8.3.4). */
function placed(content: string, name: string): number[] {
  let matrix = [1, 0, 0, 1, 0, 0];
  for (const match of content.matchAll(MATRIX)) {
    const [a, b, c, d, e, f] = match[1].trim().split(/\s+/).map(Number);
    const [A, B, C, D, E, F] = matrix;
    matrix = [
      a * A + b * C,
      a * B + b * D,
      c * A + d * C,
      c * B + d * D,
      e * A + f * C + E,
      e * B + f * D + F,
    ];
    if (match[2] && `/${match[2]}` === name) break;
  }
  return matrix;
}

function profileOf(
  { PDFArray, PDFName, PDFNumber, PDFRawStream, decodePDFRawStream }: Library,
  space: PDFObject | undefined,
  file: PDFDocument,
): Buffer | null {
  if (!(space instanceof PDFArray) || space.get(0) !== PDFName.of("ICCBased")) return null;
  const stream = file.context.lookup(space.get(1));
  return stream instanceof PDFRawStream && stream.dict.lookup(PDFName.of("N")) instanceof PDFNumber
    ? Buffer.from(decodePDFRawStream(stream).decode())
    : null;
}
