/** The second station: what lies in the file, brought through brief and frame. */
import { createHash } from "node:crypto";
import { type Brief, clauseNames, formatName, type ResolvedBrief, resolveBrief } from "@/core/brief";
import {
  type Geometry,
  planGeometry,
  proposeFrame,
  targetFor,
  type Viewing,
  viewGeometry,
} from "@/core/geometry";
import { AUTO, aimedSize, type Frame, rawTakingOf } from "@/core/photo";
import type { InkReport } from "@/core/pixels/ink";
import { allowedFormats, keepsFrames } from "@/core/plan";
import type { Facts } from "@/core/proof";
import { formatSize, trimNumber } from "@/core/units";
import type { Source } from "../source";
import { lookForDetail } from "./look";
import { staged } from "./stage";

/** A photo under a brief and a frame: all that later stations need to know of it. */
export interface PlannedPhoto {
  brief: Brief;
  resolved: ResolvedBrief;
  /** What the picture is made from: the photo, one of its pages, or the clean picture of its ink. */
  source: Source;
  /** Of that source; part of the key of every cached trial. */
  sha256: string;
  /** The frame that is used: a proposed one where nobody has set it. */
  frame: Frame;
  geometry: Geometry;
  /** The pixels at which the finished picture is looked at: those of `geometry`, or fewer. */
  view: Geometry;
  /** Pictures of more pixels than the view's are judged at the view too, not at their own 100 %. */
  largerAsSeen?: boolean;
  /** Somebody has to look at the frame, which was proposed and cuts. */
  proposed: boolean;
  /** What was found as ink, where the brief asks for it. */
  ink: InkReport | null;
  /** What is told beside the plan. */
  notes: readonly string[];
}

export interface PlanRequest {
  source: Source;
  brief: Brief;
  frame?: Frame;
  /** SHA-256 of the source where it is known already. */
  sha256?: string;
  /** Chosen by a person instead of the brief's. */
  aim?: ResolvedBrief["fileSize"]["aim"];
  /** Where it was settled before. */
  geometry?: Geometry;
}

/**
 * Throws a GeometryError where the photo cannot take the pixels, a PhotoError where the brief asks for ink
 * and nothing looks like it.
 */
export async function planPhoto(request: PlanRequest): Promise<PlannedPhoto> {
  const { brief, source: photo } = request;
  const resolved = resolvedFor(request);
  const asked = request.frame ?? AUTO;
  const stage = await staged({ ...request, frame: asked });
  const { geometry, frame } = request.geometry
    ? { geometry: request.geometry, frame: stage.frame }
    : await framed(resolved, stage.source, stage.frame);
  return {
    brief,
    resolved,
    source: stage.source,
    sha256: nameOf(stage.source, stage.sha256),
    frame,
    geometry,
    view: viewed(resolved, stage.source, frame, request.geometry ? null : geometry),
    proposed: frame.auto === true && geometry.cut > 0,
    ink: stage.ink,
    notes: [
      ...notesOn(resolved, photo.facts, asked),
      ...(stage.ink?.notes ?? []),
      ...enlargedPreview(photo.facts, frame, geometry),
    ],
  };
}

/** How it is looked at, as the geometry of a view asks for it. */
export const viewingOf = ({ resolved, source, frame }: PlannedPhoto): Viewing => ({
  brief: resolved,
  photo: source.facts,
  frame,
});

/** SHA-256 of its bytes, worked out where nobody knows it yet. */
export const nameOf = ({ bytes }: Source, known?: string): string =>
  known ?? createHash("sha256").update(bytes).digest("hex");

/** The brief with its defaults, and the aim that a person has chosen. */
export function resolvedFor({ brief, aim }: Pick<PlanRequest, "brief" | "aim">): ResolvedBrief {
  const resolved = resolveBrief(brief);
  return aim ? { ...resolved, fileSize: { ...resolved.fileSize, aim } } : resolved;
}

/** What gave way before a pixel was looked at. */
export function notesOn(resolved: ResolvedBrief, photo: Facts, frame: Frame): string[] {
  const notes = resolved.fileSize.note ? [resolved.fileSize.note] : [];
  for (const { clause, why } of targetFor(resolved, aimedSize(photo, frame)).lost)
    notes.push(`${clauseNames[clause]} gave way: ${why}.`);
  if (photo.drawing?.lettering)
    notes.push(
      "Its lettering is set in the fonts of this machine; where it must not change, turn it into outlines where the " +
        "drawing came from.",
    );
  const layered = photo.format === "ora" || photo.pages > 1;
  if (resolved.layers === "keep" && layered)
    notes.push(`Layers gave way: ${formatName(allowedFormats(resolved, photo)[0])} holds one picture.`);
  if (resolved.frames === "keep" && photo.pages > 1 && !keepsFrames(resolved, photo))
    notes.push(
      `Frames gave way: ${formatName(allowedFormats(resolved, photo)[0])} is not written moving here.`,
    );
  return notes;
}

/** The camera's own picture of a raw file may have fewer pixels than are asked. */
function enlargedPreview({ format, width, preview }: Facts, frame: Frame, { scale }: Geometry): string[] {
  if (format !== "raw" || rawTakingOf(frame).way !== "camera" || !preview) return [];
  const factor = scale * (width / preview.width);
  if (factor <= 1.02) return [];
  return [
    `The camera's own picture has only ${formatSize(preview.width, preview.height)} px and was enlarged ` +
      `${trimNumber(factor, 1)} times; the developed one has them all.`,
  ];
}

/** The pixels at which it is looked at; `full`: the most that the brief allows, where they are known. */
function viewed(brief: ResolvedBrief, { facts }: Source, frame: Frame, full: Geometry | null): Geometry {
  return viewGeometry({ brief, photo: facts, frame }, full ?? planGeometry(brief, facts, frame));
}

/** Where the frame lies: by the photo's detail where nobody has set it. */
async function framed(
  resolved: ResolvedBrief,
  source: Source,
  asked: Frame,
): Promise<{ geometry: Geometry; frame: Frame }> {
  const geometry = planGeometry(resolved, source.facts, asked);
  if (!asked.auto || geometry.mode !== "fill" || geometry.cut <= 0) return { geometry, frame: asked };
  const frame = proposeFrame(resolved, source.facts, asked, await lookForDetail(source));
  return { geometry: planGeometry(resolved, source.facts, frame), frame };
}
