/** What follows from a planned picture being planned: its key, its colours, its headers. */
import { createHash } from "node:crypto";
import { CAN, heldBy, type OutputFormat } from "@/core/brief";
import { OWN_CODER_PIXELS } from "@/core/coding";
import { type Geometry, pixelsOf } from "@/core/geometry";
import { lightSettingsOf, type Rect } from "@/core/photo";
import type { RgbSpace } from "@/core/pixels/colour";
import { expansionOf } from "@/core/pixels/light";
import { destinationOf, type Headers, plannedHeaders } from "../headers";
import type { PlannedPhoto } from "./plan-photo";
import type { PicturePlan } from "./prepare";

/** Goes into the key of every cached trial: raise it when the same settings give other bytes, or are judged otherwise. */
export const ENGINE = "9";

/** The picture of one geometry for one format, before anything is decoded. */
export interface PlannedPicture {
  /** Equal only for equal pixels that are judged at equal sizes. */
  key: string;
  geometry: Geometry;
  format: OutputFormat;
  /** The pixels at which it is looked at and judged, where those are others; else null, and it is at its own. */
  seenAs: Geometry | null;
  /** How its pixels are made. */
  plan: PicturePlan;
  headers: Headers;
  /** Stands in sRGB and becomes CMYK while it is encoded. */
  cmyk: boolean;
  /** The space of its code values; undefined for grey. */
  space: RgbSpace | undefined;
}

export function plannedPicture(
  photo: PlannedPhoto,
  geometry: Geometry,
  format: OutputFormat,
): PlannedPicture {
  const { source, frame } = photo;
  const held = heldBy(photo.resolved, format);
  const to = destinationOf(held, source, frame.takenAs);
  const headers = plannedHeaders({ brief: held, source, to, out: geometry, frame });
  const plan: PicturePlan = {
    geometry,
    frame,
    to,
    bits: held.bits === 8 && held.light === "sdr" && !codesDeep(photo, geometry, format, to) ? 8 : 16,
    background: held.background,
    border: held.border?.colour,
    opaque: !CAN[format].transparency || held.space === "cmyk",
    sharpen: held.sharpen,
    ppi: headers.ppi,
    ...(held.light === "hdr" && { expand: expansionOf(lightSettingsOf(frame)) }),
  };
  const [own, seen] = [pixelsOf(geometry), pixelsOf(photo.view)];
  const seenAs = own < seen || (own > seen && photo.largerAsSeen) ? photo.view : null;
  return {
    key: keyOf(photo, plan, seenAs),
    geometry,
    format,
    seenAs,
    plan,
    headers,
    cmyk: to.name === "cmyk",
    space: to.space === "gray" ? undefined : to.space,
  };
}

/** Our JPEG coder takes what lies between two codes of 8 bits as it is: noise that hides bands would cost bits. */
const codesDeep = (
  { source: { facts } }: PlannedPhoto,
  geometry: Geometry,
  format: OutputFormat,
  { name }: PicturePlan["to"],
): boolean =>
  (format === "jpeg" || format === "pdf") &&
  (facts.bits ?? 8) > 8 &&
  name !== "cmyk" &&
  pixelsOf(geometry) <= OWN_CODER_PIXELS;

const round = ({ x, y, width, height }: Rect) => [x, y, width, height].map((v) => v.toFixed(3));

function keyOf(
  { source, sha256 }: PlannedPhoto,
  { geometry, to, ...plan }: PicturePlan,
  seenAs: Geometry | null,
): string {
  const { facts } = source;
  const edge = geometry.border ? [geometry.border, plan.border] : null;
  const under = (facts.alpha && plan.opaque) || geometry.mode === "pad" ? plan.background : "";
  const sharpening = plan.sharpen
    ? [plan.sharpen.for, plan.sharpen.amount, plan.sharpen.for === "print" ? plan.ppi : null]
    : null;
  const parts = [
    ENGINE,
    sha256,
    geometry.width,
    geometry.height,
    round(geometry.crop),
    round(geometry.place),
    geometry.turn ?? 0,
    geometry.angle ?? 0,
    to.name,
    to.keeps,
    plan.bits,
    plan.frame.kernel ?? "",
    plan.frame.takenAs ?? "",
    under,
    facts.alpha && !plan.opaque,
    sharpening,
    ...(edge ? [edge] : []),
    ...(seenAs ? [["seen", seenAs.width, seenAs.height]] : []),
    ...(to.light ? [["light", to.light, plan.expand]] : []),
  ];
  return createHash("sha256").update(JSON.stringify(parts)).digest("hex");
}
