import type { ResolvedBrief } from "@/core/brief";
import {
  asciiEntry,
  type Exif,
  emptyExif,
  filterExif,
  iptcRights,
  TAG,
  textAt,
  withEntries,
  xmpRights,
} from "@/core/containers";
import { askedPpi, type Page, pageFor } from "@/core/geometry";
import { aimedSize, CENTRED, type Frame, type Size } from "@/core/photo";
import type { Source } from "../source";
import type { Destination } from "./destination";

/**
 * The resolution to be written into an output of this size, in ppi: what is asked, else the source's, else
 * none.
 */
export function resolutionToWrite(
  brief: ResolvedBrief,
  source: Source,
  out: Size,
  frame: Frame = CENTRED,
): number | null {
  const has = source.facts.resolution?.[0] ?? null;
  return askedPpi(brief, aimedSize(source.facts, frame), out, has) ?? has;
}

/** What one output carries beside its picture. */
export interface Headers {
  /** Pixels of the output. */
  size: Size;
  /** The resolution that is written; null where none is. */
  ppi: number | null;
  /** The page of a PDF. */
  page: Page;
  exif: Exif | null;
  /** The XMP packet where metadata are kept. */
  xmp: Uint8Array | null;
  /** Null where no profile is embedded. */
  to: Destination | null;
  /** No metadata at all. */
  none: boolean;
  /** A resolution is asked; it is written even where no metadata may stay. */
  asksDensity: boolean;
  dropped: string[];
}

export interface HeadersTask {
  brief: ResolvedBrief;
  source: Source;
  to: Destination;
  /** Pixels of the output. */
  out: Size;
  frame?: Frame;
}

/** What a fresh encoding of this source, of these pixels, carries under this brief. */
export function plannedHeaders({ brief, source, to, out, frame = CENTRED }: HeadersTask): Headers {
  const none = brief.metadata === "none";
  const filtered = source.exif ? filterExif(source.exif, brief.metadata) : { exif: null, dropped: [] };
  const dropped = none
    ? source.facts.metadata
      ? ["all metadata"]
      : []
    : brief.metadata === "keep"
      ? filtered.dropped
      : source.facts.privateData;
  const ppi = resolutionToWrite(brief, source, out, frame);
  return {
    size: { width: out.width, height: out.height },
    ppi,
    page: pageFor(brief, aimedSize(source.facts, frame), out, ppi),
    exif: none ? null : withRights(filtered.exif, source),
    xmp: brief.metadata === "keep" ? source.xmp : null,
    to: brief.profile === "embed" ? to : null,
    none,
    asksDensity: brief.resolution !== null || brief.paper !== null,
    dropped,
  };
}

/**
 * A copyright notice that stands only in XMP or IPTC data moves into EXIF, so that it stays when those go.
 */
export function withRights(exif: Exif | null, source: Source): Exif | null {
  const rights = xmpRights(source.xmp) ?? iptcRights(source.iptc);
  if (!rights || (exif && textAt(exif.ifd0, TAG.Copyright))) return exif;
  const base = exif ?? emptyExif();
  return { ...base, ifd0: withEntries(base.ifd0, [asciiEntry(TAG.Copyright, rights)]) };
}
