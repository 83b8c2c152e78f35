/**
 * A PDF of one page that shows one JPEG, its bytes embedded as they are (ISO 32000-1: DCTDecode, 7.4.8;
 * image dictionaries,
 * 8.9.5; ICCBased, 8.6.5.5). Every number has a fixed width, so that all files with the same headers carry
 * the same bytes beside the picture.
 */
import { ascii, concat, latin1 } from "./bytes";
import { ContainerError } from "./error";

export interface PdfPage {
  jpeg: Uint8Array;
  /** Pixels of the JPEG. */
  width: number;
  height: number;
  components: 1 | 3 | 4;
  /** The profile of the picture's colours; null leaves them to the device. */
  icc: Uint8Array | null;
  /** Points (1/72 in). */
  page: { width: number; height: number };
  /** Where the picture lies, from the lower left corner, in points. */
  place: { x: number; y: number; width: number; height: number };
}

const SPACES = { 1: "/DeviceGray", 3: "/DeviceRGB", 4: "/DeviceCMYK" } as const;
const fixed = (value: number, width: number, digits = 0) => value.toFixed(digits).padStart(width, " ");
const points = (value: number) => fixed(value, 9, 3);

export function writePdf({ jpeg, width, height, components, icc, page, place }: PdfPage): Uint8Array {
  const space = icc ? "[/ICCBased 6 0 R]" : SPACES[components];
  // CMYK in JPEGs is stored the other way round.
  const decode = components === 4 ? " /Decode [1 0 1 0 1 0 1 0]" : "";
  const draw =
    `q ${points(place.width)} 0 0 ${points(place.height)} ${points(place.x)} ${points(place.y)} cm ` +
    "/Im0 Do Q\n";
  const objects: Uint8Array[][] = [
    [ascii("<< /Type /Catalog /Pages 2 0 R >>\n")],
    [ascii("<< /Type /Pages /Kids [3 0 R] /Count 1 >>\n")],
    [
      ascii(
        `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 ${points(page.width)} ${points(page.height)}] ` +
          "/Resources << /XObject << /Im0 5 0 R >> >> /Contents 4 0 R >>\n",
      ),
    ],
    [ascii(`<< /Length ${fixed(draw.length, 10)} >>\nstream\n${draw}endstream\n`)],
    [
      ascii(
        `<< /Type /XObject /Subtype /Image /Width ${fixed(width, 6)} /Height ${fixed(height, 6)} ` +
          `/ColorSpace ${space} /BitsPerComponent 8 /Filter /DCTDecode${decode} /Length ` +
          `${fixed(jpeg.length, 10)} >>\nstream\n`,
      ),
      jpeg,
      ascii("\nendstream\n"),
    ],
    ...(icc
      ? [
          [
            ascii(
              `<< /N ${components} /Alternate ${SPACES[components]} /Length ${fixed(icc.length, 10)} ` +
                ">>\nstream\n",
            ),
            icc,
            ascii("\nendstream\n"),
          ],
        ]
      : []),
  ];
  // The second line tells transfer programs that the file is binary (7.5.2).
  const parts: Uint8Array[] = [ascii("%PDF-1.4\n%\xe2\xe3\xcf\xd3\n")];
  let at = parts[0].length;
  const offsets: number[] = [];
  objects.forEach((body, i) => {
    const piece = concat([ascii(`${i + 1} 0 obj\n`), ...body, ascii("endobj\n")]);
    offsets.push(at);
    parts.push(piece);
    at += piece.length;
  });
  const table = offsets.map((offset) => `${String(offset).padStart(10, "0")} 00000 n \n`).join("");
  parts.push(
    ascii(
      `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer\n<< /Size ` +
        `${objects.length + 1} /Root 1 0 R >>\n${ending(at)}`,
    ),
  );
  return concat(parts);
}

const ending = (xref: number) => `startxref\n${String(xref).padStart(10, "0")}\n%%EOF\n`;
const ENDING = ending(0).length;

/**
 * Fills a file of {@link writePdf} up to `target` bytes with a comment before its table of objects. At least
 * two bytes can be added.
 */
export function padPdf(file: Uint8Array, target: number): Uint8Array {
  const xref = Number(latin1(file.subarray(file.length - ENDING)).split("\n")[1]);
  if (!Number.isInteger(xref) || xref <= 0 || xref >= file.length)
    throw new ContainerError("This PDF was not written here; it cannot be filled up.");
  const missing = Math.max(2, target - file.length);
  const filling = new Uint8Array(missing).fill(0x20);
  filling[0] = 0x25;
  filling[missing - 1] = 0x0a;
  return concat([
    file.subarray(0, xref),
    filling,
    file.subarray(xref, file.length - ENDING),
    ascii(ending(xref + missing)),
  ]);
}
