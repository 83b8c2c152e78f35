/**
 * The markup of a picture in several sizes: `picture`, `source` and `img` after the HTML standard (WHATWG, "Embedded
 * content"). The browser takes the first format that it knows, and of its files the one that suits width and density.
 */
import type { OutputFormat } from "../../brief";
import { worthOffering } from "../../plan/set";

/** One file of a set as a page sees it. */
export interface SetFile {
  /** Below the page's own address, folders parted by "/". */
  name: string;
  width: number;
  height: number;
  format: OutputFormat;
  bytes: number;
}

interface MarkupOptions {
  /** What the picture shows, for those who do not see it; empty for one that only decorates. */
  alt: string;
  /** How wide the picture stands in the page, as CSS says it, such as "100vw" or "(min-width: 900px) 50vw, 100vw". */
  sizes: string;
  /** lazy: fetched when it comes near; eager: at once, for what is seen first. */
  loading: "lazy" | "eager";
  /** A small blurred picture as data URI, shown until the file is there. */
  standIn: string | null;
}

export const USUAL_SIZES = "100vw";

export const narrowestFirst = (files: readonly SetFile[], format: OutputFormat): SetFile[] =>
  files.filter((file) => file.format === format).sort((a, b) => a.width - b.width);

/** `files`: of one photo, at least one. */
export function pictureMarkup(
  files: readonly SetFile[],
  { alt, sizes, loading, standIn }: MarkupOptions,
): string {
  const formats = worthOffering(files);
  const sources = formats.map((format) => {
    const list = narrowestFirst(files, format).map((file) => `${addressOf(file)} ${file.width}w`);
    return `  <source type="image/${format}" srcset="${escaped(list.join(", "))}" sizes="${escaped(sizes)}">`;
  });
  const last = narrowestFirst(files, formats[formats.length - 1]);
  // The middle one serves a browser that knows nothing of all this.
  const plain = last[Math.floor(last.length / 2)];
  const { width, height } = last[last.length - 1];
  const attributes = [
    `src="${escaped(addressOf(plain))}"`,
    `width="${width}"`,
    `height="${height}"`,
    `alt="${escaped(alt)}"`,
    `loading="${loading}"`,
    `decoding="async"`,
    ...(standIn ? [`style="background: center / cover no-repeat url('${escaped(standIn)}')"`] : []),
  ];
  return ["<picture>", ...sources, `  <img ${attributes.join(" ")}>`, "</picture>"].join("\n");
}

/** The file that holds the markup of several pictures, beside them. */
export const MARKUP_FILE = "pictures.html";

/** The markup of several pictures, in their order, each a set of at least one file. */
export const markupFile = (pictures: readonly { files: readonly SetFile[]; alt: string }[]): string =>
  `${pictures
    .map(({ files, alt }) =>
      pictureMarkup(files, { alt, sizes: USUAL_SIZES, loading: "lazy", standIn: null }),
    )
    .join("\n\n")}\n`;

/** Commas and spaces part the entries of a srcset, so none may stand in an address. */
const addressOf = ({ name }: SetFile): string => name.split("/").map(encodeURIComponent).join("/");

const ESCAPES: Record<string, string> = { "&": "&amp;", '"': "&quot;", "<": "&lt;", ">": "&gt;" };
const escaped = (text: string): string => text.replace(/[&"<>]/g, (sign) => ESCAPES[sign]);
