/**
 * Briefs for people without a wording: plain purposes, each with two or three figures and defaults that suit most
 * receivers (common practice, from memory).
 */
import type { Brief } from "./schema";

export interface StarterField {
  key: string;
  label: string;
  /** What is typed unless somebody says otherwise; "" leaves it free. */
  usual: string;
  /** Of a bare number. */
  unit: "px" | "KB" | "MB" | "mm" | "ppi";
  /** May be left empty. */
  free?: boolean;
}

export interface Starter {
  id: string;
  /** Also the name of its brief. */
  name: string;
  /** What it is for, in one line. */
  about: string;
  fields: StarterField[];
  clauses(
    value: (key: string) => string | undefined,
    px: (key: string) => number | undefined,
  ): Partial<Brief>;
}

const field = (
  key: string,
  label: string,
  usual: string,
  unit: StarterField["unit"],
  free = false,
): StarterField => ({ key, label, usual, unit, free });

/** Each at most so many times as wide as the one before: more steps would hardly save bytes. */
const WIDTH_STEP = 1.6;

/** Widths from one to another, evenly spaced as ratios, whole tens in between. */
function widthsBetween(from: number, to: number): number[] {
  const [low, high] = [Math.min(from, to), Math.max(from, to)];
  const steps = Math.max(1, Math.ceil(Math.log(high / low) / Math.log(WIDTH_STEP) - 1e-9));
  const between = Array.from(
    { length: steps - 1 },
    (_, i) => Math.round((low * (high / low) ** ((i + 1) / steps)) / 10) * 10,
  );
  return [...new Set([low, ...between, high])];
}

export const STARTERS: readonly Starter[] = [
  {
    id: "mail",
    name: "Mail",
    about: "All photos in one message that a mailbox still takes",
    fields: [field("total", "Message", "20 MB", "MB")],
    clauses: (value) => ({ format: ["jpeg"], total: { max: value("total")!, counted: "mail" } }),
  },
  {
    id: "web",
    name: "Web page",
    about: "Quick to load, without the camera's notes",
    fields: [field("side", "Long side", "1600 px", "px"), field("max", "At most", "300 KB", "KB")],
    clauses: (value, px) => ({
      format: ["jpeg"],
      longSide: { max: px("side") },
      fileSize: { max: value("max") },
      colour: { space: "srgb" },
      metadata: "private",
    }),
  },
  {
    id: "page-set",
    name: "Web page, several sizes",
    about: "Each screen loads the size that suits it, with the markup to paste",
    fields: [field("from", "Narrowest", "480 px", "px"), field("to", "Widest", "1920 px", "px")],
    clauses: (_, px) => ({
      set: { widths: widthsBetween(px("from")!, px("to")!), formats: ["avif", "jpeg"] },
    }),
  },
  {
    id: "screen",
    name: "Screen",
    about: "Shown whole on a screen or projector, without visible loss",
    fields: [field("width", "Width", "1920 px", "px"), field("height", "Height", "1080 px", "px")],
    clauses: (_, px) => ({
      format: ["jpeg"],
      box: { width: px("width")!, height: px("height")! },
      fileSize: { aim: "clean" },
      colour: { space: "srgb" },
    }),
  },
  {
    id: "print",
    name: "Print",
    about: "On paper of a size, cut to its shape",
    fields: [
      field("width", "Width", "100 mm", "mm"),
      field("height", "Height", "150 mm", "mm"),
      field("resolution", "Resolution", "300 ppi", "ppi"),
    ],
    clauses: (value) => ({
      format: ["jpeg"],
      paper: { width: value("width")!, height: value("height")! },
      resolution: { min: value("resolution") },
      frame: "fill",
    }),
  },
  {
    id: "form",
    name: "Form",
    about: "An upload with a floor and a ceiling",
    fields: [
      field("min", "At least", "20 KB", "KB", true),
      field("max", "At most", "50 KB", "KB"),
      field("width", "Width", "", "px", true),
      field("height", "Height", "", "px", true),
    ],
    clauses: (value, px) => ({
      format: ["jpeg"],
      fileSize: { max: value("max"), ...(value("min") && { min: value("min") }) },
      ...(px("width") !== undefined && { width: { exact: px("width") } }),
      ...(px("height") !== undefined && { height: { exact: px("height") } }),
    }),
  },
  {
    id: "hand-in",
    name: "Hand-in",
    about: "A course, a contest, an archive: large, under their own names",
    fields: [field("side", "Long side", "2400 px", "px"), field("max", "At most", "5 MB", "MB")],
    clauses: (value, px) => ({
      format: ["jpeg"],
      longSide: { max: px("side") },
      fileSize: { max: value("max") },
      names: "{name}",
    }),
  },
];
