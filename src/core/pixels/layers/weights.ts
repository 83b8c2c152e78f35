/** What weighs how much in a package of layered artwork, and what could be saved. */

import { placed } from "./tree";
import type { Artwork } from "./types";

export type PartKind = "layer" | "preview" | "thumbnail" | "extra" | "frame";

export interface Part {
  kind: PartKind;
  /** As a person calls it. */
  name: string;
  /** Where it lies in the package; for pages their number. */
  path: string;
  /** Places in the tree of the layers that show it. */
  places: string[];
  bytes: number;
  /** Nothing shows it. */
  hidden: boolean;
}

/** Bytes that each measure saves, really made, after those before it that are taken. */
export interface Savings {
  repack: number;
  crop: number;
  hidden: number;
  previewSmaller: number;
  previewDrop: number;
  thumbnailSmaller: number;
  thumbnailDrop: number;
  extras: number;
}

export const PREVIEW = "mergedimage.png";
export const THUMBNAIL = "Thumbnails/thumbnail.png";
/** What the format itself needs. */
const FRAME = new Set(["mimetype", "stack.xml"]);

/** `entries`: bytes of each file as it lies in the package. The heaviest first. */
export function partsOf(artwork: Artwork, entries: ReadonlyMap<string, number>): Part[] {
  const layers = new Map<string, { names: string[]; places: string[]; seen: boolean }>();
  for (const { place, node, seen } of placed(artwork.root)) {
    if (node.kind !== "layer") continue;
    const known = layers.get(node.source) ?? { names: [], places: [], seen: false };
    layers.set(node.source, {
      names: [...known.names, node.name],
      places: [...known.places, place],
      seen: known.seen || seen,
    });
  }
  const parts: Part[] = [...entries].map(([path, bytes]) => {
    const layer = layers.get(path);
    if (layer)
      return {
        kind: "layer",
        name: layer.names.filter(Boolean).join(", ") || path,
        path,
        places: layer.places,
        bytes,
        hidden: !layer.seen,
      };
    const kind: PartKind =
      path === PREVIEW ? "preview" : path === THUMBNAIL ? "thumbnail" : FRAME.has(path) ? "frame" : "extra";
    const name = {
      preview: "Stored picture of the whole",
      thumbnail: "Thumbnail",
      frame: path,
      extra: path,
      layer: path,
    }[kind];
    return { kind, name, path, places: [], bytes, hidden: false };
  });
  return parts.sort((a, b) => b.bytes - a.bytes);
}
