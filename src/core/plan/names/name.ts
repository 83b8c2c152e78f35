/**
 * What files are called: the pattern of a brief, safe on every common file system, the ending by the format.
 */
import type { OutputFormat } from "../../brief";

/**
 * Kinds of files that are handed over: those that a brief can ask for, and layered artwork that stays what
 * it is.
 */
export type WrittenKind = OutputFormat | "ora";

const ENDINGS: Record<WrittenKind, readonly string[]> = {
  jpeg: ["jpg", "jpeg", "jpe", "jfif"],
  png: ["png"],
  webp: ["webp"],
  avif: ["avif"],
  tiff: ["tif", "tiff"],
  gif: ["gif"],
  bmp: ["bmp", "dib"],
  pdf: ["pdf"],
  ora: ["ora"],
};
/** What a file of that name will be; null where its ending says nothing that is written here. */
export function kindOfName(file: string): WrittenKind | null {
  const ending = file.slice(file.lastIndexOf(".") + 1).toLowerCase();
  const found = Object.entries(ENDINGS).find(([, endings]) => endings.includes(ending));
  return found ? (found[0] as WrittenKind) : null;
}

/** As cameras call their raw files (common practice). */
const RAW = [
  "dng",
  "nef",
  "nrw",
  "cr2",
  "cr3",
  "crw",
  "arw",
  "srf",
  "sr2",
  "raf",
  "orf",
  "rw2",
  "pef",
  "srw",
  "3fr",
  "iiq",
  "erf",
  "mrw",
  "x3f",
  "kdc",
  "dcr",
  "rwl",
];
const KNOWN = new Set([...Object.values(ENDINGS).flat(), ...RAW, "heic", "heif", "svg"]);
/** Known endings of what cannot be brought in. */
const NO_PHOTO = new Set(["pdf", "svg"]);
/** Whether a name's ending is that of a photo: a folder's other files are passed over. */
export function namesPhoto(file: string): boolean {
  const ending = splitName(file).ending.toLowerCase();
  return ending !== "" && !NO_PHOTO.has(ending);
}

/** Most file systems hold 255 bytes; some room is left for "-2" and the like. */
const MAX_NAME_BYTES = 240;

/** Splits "IMG 1.JPG" into "IMG 1" and "JPG"; endings that mean no picture stay part of the name. */
export function splitName(file: string): { stem: string; ending: string } {
  const base = file.split(/[\\/]/).pop() ?? "";
  const dot = base.lastIndexOf(".");
  const ending = dot > 0 ? base.slice(dot + 1) : "";
  return KNOWN.has(ending.toLowerCase()) ? { stem: base.slice(0, dot), ending } : { stem: base, ending: "" };
}

/**
 * Names that Windows keeps for devices, with or without an ending (Microsoft, "Naming Files, Paths, and
 * Namespaces").
 */
const RESERVED = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])$/i;

/**
 * One path component that every common file system takes: no separators, control characters, reserved signs
 * or names.
 */
export function safeName(text: string): string {
  const clean = text
    .normalize("NFC")
    .replace(/[\u0000-\u001f\u007f-\u009f\u200e\u200f\u202a-\u202e\u2066-\u2069]/g, "")
    .replace(/[\\/:*?"<>|]/g, "_")
    .replace(/^\.+/, "")
    .replace(/[. ]+$/, "")
    .trim();
  const named = RESERVED.test(clean.split(".")[0].trimEnd()) ? `_${clean}` : clean;
  return cutBytes(named, MAX_NAME_BYTES) || "photo";
}

function cutBytes(text: string, max: number): string {
  const encoder = new TextEncoder();
  if (encoder.encode(text).length <= max) return text;
  let out = "";
  let size = 0;
  for (const char of text) {
    size += encoder.encode(char).length;
    if (size > max) break;
    out += char;
  }
  return out.trimEnd();
}

export interface NameFacts {
  /** The source's file name, with or without folders. */
  source: string;
  /** Counter from 1. */
  n: number;
  width: number;
  height: number;
  /** Capture date as YYYY-MM-DD, if known. */
  date: string | null;
  brief: string;
  format: WrittenKind;
}

/** Fills a pattern such as "{name}-{n:3}". Unknown fields stay as they were typed. */
export function outputName(pattern: string, facts: NameFacts): string {
  const { stem, ending } = splitName(facts.source);
  const filled = pattern.replace(
    /\{(name|n|w|h|date|brief)(?::([1-9]))?\}/g,
    (_, field: string, digits?: string) => {
      switch (field) {
        case "name":
          return stem;
        case "n":
          return String(facts.n).padStart(Number(digits ?? 1), "0");
        case "w":
          return String(facts.width);
        case "h":
          return String(facts.height);
        case "date":
          return facts.date ?? "undated";
        default:
          return facts.brief;
      }
    },
  );
  const keeps = ENDINGS[facts.format].includes(ending.toLowerCase());
  return `${safeName(filled)}.${keeps ? ending : ENDINGS[facts.format][0]}`;
}

/** The name, or the first of name-2, name-3 … for which `taken` is false. */
export function freeName(name: string, taken: (name: string) => boolean): string {
  if (!taken(name)) return name;
  const dot = name.lastIndexOf(".");
  const [stem, ending] = dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, ""];
  for (let n = 2; ; n += 1) if (!taken(`${stem}-${n}${ending}`)) return `${stem}-${n}${ending}`;
}

/**
 * Equal for names that some file system takes for one: letters of either case, accents in one or two
 * characters.
 */
export const sameName = (name: string): string => name.normalize("NFC").toLowerCase();

/** A folder below the output folder, parted by "/", each part safe; no part leads upwards. */
export function safeFolder(folder: string): string {
  const parts = folder.split(/[\\/]+/).filter((part) => part !== "" && part !== "." && part !== "..");
  return parts
    .slice(0, MAX_DEPTH)
    .map((part) => cutBytes(safeName(part), MAX_FOLDER_BYTES))
    .join("/");
}
const MAX_DEPTH = 12;
const MAX_FOLDER_BYTES = 120;
