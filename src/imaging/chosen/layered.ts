/**
 * Files of layers or pages that stay what they are and become lighter: without loss first, then with fewer
 * pixels, never under the brief's floor.
 */
import { formatName, type ResolvedBrief } from "@/core/brief";
import { type Geometry, planGeometry, rescale } from "@/core/geometry";
import { AUTO, DEFAULT_LIGHTER, type Frame, GeometryError, type Lighter, PhotoError } from "@/core/photo";
import type { Savings } from "@/core/pixels/layers";
import type { Step } from "@/core/plan";
import type { WrittenKind } from "@/core/plan/names";
import { formatBytes, formatSize, trimNumber } from "@/core/units";
import { type Candidates, Judge } from "../candidates";
import type { Layered, Lightened } from "../foreign";
import { lightenLayered } from "../foreign";
import { destinationOf } from "../headers";
import {
  nameOf,
  notesOn,
  type PlannedPhoto,
  type PlanRequest,
  preparePicture,
  resolvedFor,
} from "../planned";
import { readSource, type Source } from "../source";
import type { Chosen } from "./asked";

/** More tries with fewer pixels than this come no nearer to the ceiling. */
const MOST_TRIES = 5;

/** Throws a GeometryError where the brief asks for pixels that the layers cannot take together. */
export async function planLayered(request: PlanRequest): Promise<PlannedPhoto> {
  const { brief, source, frame = AUTO } = request;
  const resolved = resolvedFor(request);
  const geometry = planGeometry(resolved, source.facts, frame);
  const whole =
    geometry.mode === "whole" && geometry.cut === 0 && !geometry.border && !geometry.turn && !geometry.angle;
  if (!whole || geometry.scale > 1 + 1e-6)
    throw new GeometryError(
      "Layers can only become fewer pixels together: the brief asks for " +
        `${formatSize(geometry.width, geometry.height)} px, which ` +
        `${whole ? "are more than there are" : "have another shape or place than the artwork"}. Let it ` +
        "be flattened, or ask for one side only.",
    );
  const notes = notesOn(resolved, source.facts, frame);
  const sha256 = nameOf(source, request.sha256);
  return {
    brief,
    resolved,
    source,
    sha256,
    frame,
    geometry,
    view: geometry,
    proposed: false,
    ink: null,
    notes,
  };
}

/** The lightest file that its measures give, or one of as many pixels as the ceiling allows. */
export async function lighter({ photo }: Candidates, signal?: AbortSignal): Promise<Chosen> {
  const { source, resolved, frame, geometry } = photo;
  const { min, max } = resolved.fileSize;
  const inside = (bytes: number) => bytes <= (max ?? Infinity) && bytes >= (min ?? 0);
  const asks =
    frame.lighter !== undefined || geometry.width !== source.facts.width || resolved.fileSize.aim === "clean";
  if (!asks && inside(source.bytes.length)) return asItCame(photo, 0, "it obeys the brief already");
  const measures: Lighter = frame.lighter ?? DEFAULT_LIGHTER;
  const { made, at, encodes } = await lightest(photo, measures, signal);
  const { length } = made.file;
  if (length >= source.bytes.length && at.width === source.facts.width && inside(source.bytes.length))
    return asItCame(photo, encodes, "nothing makes it lighter");
  if (!inside(length))
    return {
      kind: "cannot",
      why: tooHeavy(made, at, resolved, measures),
      geometry: at,
      encodes,
      notes: [],
    };
  return {
    ...asItCame(photo, encodes, ""),
    file: made.file,
    geometry: at,
    same: false,
    difference: await differenceOf(photo, made.file, at),
    steps: stepsOf(source, made, at, measures),
    notes: made.report.told,
  };
}

const asItCame = ({ source, geometry }: PlannedPhoto, encodes: number, why: string) => ({
  kind: "layered" as const,
  file: source.bytes as Uint8Array,
  format: source.facts.format as WrittenKind,
  geometry,
  same: true,
  difference: 0,
  steps: [{ do: "Hand it over as it is", why }] as Step[],
  encodes,
  notes: [] as string[],
});

/** With fewer and fewer pixels, as far as the ceiling asks and the brief's floor allows. */
async function lightest(
  { source, resolved, frame, geometry }: PlannedPhoto,
  measures: Lighter,
  signal?: AbortSignal,
): Promise<{ made: Made; at: Geometry; encodes: number }> {
  const { facts } = source;
  const { max } = resolved.fileSize;
  let at =
    measures.scale < 100
      ? rescaled({ resolved, photo: facts, geometry, percent: measures.scale, frame })
      : geometry;
  let made = await lightened(source, measures, at);
  let encodes = 1;
  for (; max !== null && made.file.length > max && encodes < MOST_TRIES; encodes += 1) {
    signal?.throwIfAborted();
    const fewer = rescale({
      brief: resolved,
      photo: facts,
      from: at,
      area: Math.min(0.95, (max / made.file.length) * 0.94),
      frame,
    });
    if (!fewer || fewer.width >= at.width) break;
    at = fewer;
    made = await lightened(source, measures, at);
  }
  return { made, at, encodes };
}

/** Throws nothing: where the brief's floor forbids so few pixels, as few as it allows. */
function rescaled({
  resolved,
  photo,
  geometry,
  percent,
  frame,
}: {
  resolved: ResolvedBrief;
  photo: Source["facts"];
  geometry: Geometry;
  percent: number;
  frame: Frame;
}): Geometry {
  const wanted = ((photo.width * percent) / 100 / geometry.width) ** 2;
  return wanted >= 1
    ? geometry
    : (rescale({ brief: resolved, photo, from: geometry, area: wanted, frame }) ?? geometry);
}

interface Made {
  file: Buffer;
  report: Lightened;
}

const lightened = (source: Source, lighter: Lighter, at: Geometry): Promise<Made> =>
  lightenLayered(source.facts.format as Layered, source.bytes, lighter, {
    width: at.width,
    height: at.height,
  });

function tooHeavy(
  { file, report: { savings } }: Made,
  { width, height }: Geometry,
  { fileSize: { min, max } }: ResolvedBrief,
  lighter: Lighter,
): string {
  if (min !== null && file.length < min)
    return (
      `It takes ${formatBytes(file.length)}, below the floor of ${formatBytes(min)}; layers are not ` +
      "filled up. Ask for a lower floor, or let it be flattened."
    );
  const more: [number, string][] = [
    [lighter.hidden ? 0 : savings.hidden, "leaving out hidden layers"],
    [lighter.preview === "keep" ? savings.previewSmaller : 0, "a smaller stored picture"],
    [lighter.extras ? 0 : savings.extras, "leaving out what lies beside the picture"],
  ];
  const would = more.filter(([bytes]) => bytes > 0).map(([bytes, what]) => `${what} (${formatBytes(bytes)})`);
  return (
    `With ${formatSize(width, height)} px it takes ${formatBytes(file.length)}, and the ceiling is ` +
    `${formatBytes(max!)}. ` +
    `${would.length ? `This would save more: ${would.join(", ")}.` : "Ask for fewer pixels, or let it be flattened."}`
  );
}

function stepsOf(
  source: Source,
  { file, report: { savings, parts } }: Made,
  at: Geometry,
  lighter: Lighter,
): Step[] {
  const { facts } = source;
  const pages = facts.format === "tiff";
  const count = parts.filter((part) => part.kind === "layer").length;
  const steps: Step[] = [
    {
      do: pages ? `Keep its ${count} pages` : `Keep its layers, ${count} pictures of them`,
      why: "the brief asks for it",
    },
  ];
  const add = (on: boolean, key: keyof Savings, what: string) =>
    on && savings[key] > 0 && steps.push({ do: what, why: `${formatBytes(savings[key])} less` });
  add(
    lighter.repack,
    "repack",
    pages
      ? "Pack its pages tighter, every pixel the same"
      : "Pack its pictures tighter, every pixel the same",
  );
  add(lighter.crop, "crop", "Cut away what is empty around layers");
  add(lighter.hidden, "hidden", "Leave out hidden layers");
  add(lighter.preview === "smaller", "previewSmaller", "Make the stored picture of the whole smaller");
  add(
    lighter.preview === "drop",
    "previewDrop",
    pages ? "Leave out smaller copies of pages" : "Leave out the stored picture of the whole",
  );
  add(lighter.thumbnail === "smaller", "thumbnailSmaller", "Make the thumbnail smaller");
  add(lighter.thumbnail === "drop", "thumbnailDrop", "Leave out the thumbnail");
  add(lighter.extras, "extras", "Leave out what lies beside the picture");
  if (at.width < facts.width)
    steps.push({
      do:
        `Reduce all ${pages ? "pages" : "layers"} ${trimNumber(facts.width / at.width, 2)} × to ` +
        `${formatSize(at.width, at.height)} px`,
      why: "at once, their places too",
    });
  steps.push({
    do: `Write ${formatName(facts.format)}`,
    why: `${formatBytes(file.length)} measured, ${formatBytes(source.bytes.length)} before`,
  });
  return steps;
}

/** How the flattened picture differs from that of the original, at the new pixels. */
async function differenceOf({ source, sha256 }: PlannedPhoto, file: Buffer, at: Geometry): Promise<number> {
  const after = await readSource(file);
  if (after.facts.width !== at.width || after.facts.height !== at.height)
    throw new PhotoError("The written file has other pixels than were planned.");
  const to = destinationOf({ space: "srgb", light: "sdr" } as ResolvedBrief, source);
  const common = {
    frame: { x: 0.5, y: 0.5 },
    to,
    bits: 8 as const,
    background: "#ffffff",
    opaque: true,
    sharpen: null,
    ppi: null,
  };
  const like = await preparePicture(source, { geometry: at, ...common });
  const own: Geometry = { ...at, crop: { x: 0, y: 0, width: at.width, height: at.height }, scale: 1 };
  const made = await preparePicture(after, { geometry: own, ...common });
  return (
    await new Judge(`layered ${sha256} ${at.width} × ${at.height}`, like, undefined).of({
      data: made.data,
      width: made.width,
      height: made.height,
      channels: made.channels,
    })
  ).difference;
}
