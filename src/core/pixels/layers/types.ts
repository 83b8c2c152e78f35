/** Layered artwork as its file describes it: OpenRaster, the open format of freedesktop. */

/** Compositing operators of OpenRaster 0.0.6, with the formulas of W3C Compositing and Blending Level 1. */
export const OPERATORS = [
  "src-over",
  "multiply",
  "screen",
  "overlay",
  "darken",
  "lighten",
  "color-dodge",
  "color-burn",
  "hard-light",
  "soft-light",
  "difference",
  "color",
  "luminosity",
  "hue",
  "saturation",
  "plus",
  "dst-in",
  "dst-out",
  "src-atop",
  "dst-atop",
] as const;
export type Operator = (typeof OPERATORS)[number];

interface Common {
  name: string;
  /** 0 to 1. */
  opacity: number;
  visible: boolean;
  operator: Operator;
  /** All that its tag says, also what is not understood here. */
  attributes: Readonly<Record<string, string>>;
}

export interface Layer extends Common {
  kind: "layer";
  /** Where its picture lies in the package. */
  source: string;
  /** Of its upper left corner on the canvas; may lie outside. */
  x: number;
  y: number;
}

export interface Group extends Common {
  kind: "group";
  /** Put together on its own before it is laid on what is below. */
  isolated: boolean;
  /** Top first. */
  children: Node[];
}

export type Node = Layer | Group;

export interface Artwork {
  width: number;
  height: number;
  /** ppi; null where nothing is said. */
  resolution: [number, number] | null;
  root: Group;
  attributes: Readonly<Record<string, string>>;
  /** Kinds of parts that are not layers or groups: they take no part, and are not written. */
  unknown: string[];
}
