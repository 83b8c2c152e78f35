/** The fifth station: what was chosen becomes a whole file, and its plan is told. */
import { clauseNames, clauseWords, formatName, heldBy, lostToFormat, type OutputFormat } from "@/core/brief";
import type { Setting } from "@/core/coding";
import { type GainMap, qualityOf, readJpeg, withGainMap } from "@/core/containers";
import type { Geometry } from "@/core/geometry";
import type { Size } from "@/core/photo";
import { beatsWith, dotScreenWords } from "@/core/pixels/develop";
import { passSteps, planSteps, type Step } from "@/core/plan";
import type { WrittenKind } from "@/core/plan/names";
import { formatBytes, trimNumber } from "@/core/units";
import type { Candidates, PictureLook } from "../candidates";
import type { Chosen, Coded, LighterFile, OwnData } from "../chosen";
import { assemble, destinationOf, padded, plannedHeaders, resolutionToWrite } from "../headers";
import type { PlannedPhoto } from "../planned";
import { besideOrdinary } from "./beside-ordinary";
import { keepGainMap } from "./gain-map";

/** A file in memory, with what is told of it. */
export interface Written {
  file: Uint8Array;
  format: WrittenKind;
  geometry: Geometry;
  /** Null where the picture data stay. */
  setting: Setting | null;
  /** Visible difference; 0 where the picture data stay, null where it was not looked at yet. */
  difference: number | null;
  /** Bytes from which on the ceiling would force no visible loss; null where it forces none. */
  cleanFrom: number | null;
  /** Pixels that the brief leaves free were given up: how many there could be, and at how many it is looked at. */
  gaveUp: GaveUp | null;
  /** Period in px of a dot screen that beats with the new pixels; null where none does. */
  dotScreen: number | null;
  passedThrough: boolean;
  steps: Step[];
  told: string[];
  notes: string[];
}

export interface GaveUp {
  all: Size;
  view: Size;
  why: string;
}

export async function writeFile(
  candidates: Candidates,
  chosen: Exclude<Chosen, { kind: "cannot" }>,
): Promise<Written> {
  if (chosen.kind === "own") return ownFile(candidates.photo, chosen);
  return chosen.kind === "layered" ? layeredFile(chosen) : codedFile(candidates, chosen);
}

const layeredFile = ({ file, format, geometry, difference, same, steps }: LighterFile): Written => ({
  file,
  format,
  geometry,
  setting: null,
  difference,
  cleanFrom: null,
  gaveUp: null,
  dotScreen: null,
  passedThrough: same,
  steps,
  told: [],
  notes: [],
});

function ownFile({ brief, resolved, source, geometry, frame }: PlannedPhoto, own: OwnData): Written {
  const { file, how } = own;
  const to = destinationOf(resolved, source);
  const { dropped } = plannedHeaders({ brief: resolved, source, to, out: geometry });
  const format = how === "on a page" ? "pdf" : (source.facts.format as OutputFormat);
  const asksDensity = brief.resolution !== undefined || brief.paper !== undefined;
  const [first, ...others] = passSteps(
    {
      brief,
      resolved,
      facts: source.facts,
      geometry,
      frame,
      dropped,
      encoding: { setting: null, format, bytes: file.length, about: null, told: [] },
      writePpi: asksDensity ? resolutionToWrite(resolved, source, geometry, frame) : null,
    },
    file === source.bytes,
  );
  return {
    file,
    format,
    geometry,
    setting: null,
    difference: 0,
    cleanFrom: null,
    gaveUp: null,
    dotScreen: null,
    passedThrough: true,
    steps: [ownStep(first, own, source.bytes.length), ...others],
    told: [],
    notes: [],
  };
}

function ownStep(first: Step, { how, file }: OwnData, before: number): Step {
  if (how === "on a page") return { ...first, do: "Put the photo's own JPEG data on a page, byte for byte" };
  if (how !== "packed" || file.length >= before) return first;
  return {
    do: "Pack the picture data tighter, every pixel the same",
    why: `${formatBytes(before - file.length)} less without any loss`,
  };
}

async function codedFile(candidates: Candidates, { fitted }: Coded): Promise<Written> {
  const { photo } = candidates;
  const { setting, geometry } = fitted;
  const { format } = setting;
  const picture = candidates.at(geometry, format);
  const plain = assemble(await candidates.encoding(picture, setting), format, picture.headers);
  const map = await candidates.gainMap(picture);
  const whole = map ? withGainMap(plain, map) : plain;
  const filled = fitted.padTo === null ? whole : padded(whole, format, fitted.padTo, picture.headers.ppi);
  const { file, told: mapTold } = map
    ? { file: filled, told: [mapWords(map)] }
    : await withOwnMap(photo, geometry, filled, format);
  const look = await candidates.look(picture);
  const notes = [...mapTold, ...notesOf(photo, file, setting)];
  if (format === "avif" && photo.resolved.light === "hdr")
    notes.push(await besideOrdinary(candidates, geometry, setting));
  const beats = look.dotScreen !== null && beatsWith(look.dotScreen, geometry.scale);
  return {
    file,
    format,
    geometry,
    setting,
    difference: fitted.difference,
    cleanFrom: fitted.cleanFrom,
    gaveUp:
      fitted.gaveUp === null
        ? null
        : { all: sizeOf(photo.geometry), view: sizeOf(photo.view), why: fitted.gaveUp },
    dotScreen: beats ? look.dotScreen : null,
    passedThrough: false,
    steps: stepsOf(photo, {
      fitted,
      look,
      bytes: file.length,
      headers: headersTold(picture.headers, map),
      mapped: map !== null,
    }),
    told: fitted.told,
    notes: beats ? [...notes, dotScreenWords(look.dotScreen!)] : notes,
  };
}

const sizeOf = ({ width, height }: Size): Size => ({ width, height });

interface StepsTask {
  fitted: Coded["fitted"];
  look: PictureLook;
  bytes: number;
  headers: { ppi: number | null; dropped: string[] };
  /** Light above white lies in a map. */
  mapped: boolean;
}

function stepsOf(photo: PlannedPhoto, { fitted, look, bytes, headers, mapped }: StepsTask): Step[] {
  const { setting, geometry, told, gaveUp } = fitted;
  const { format } = setting;
  return planSteps({
    brief: photo.brief,
    // With a map the light is kept, beside a picture that is ordinary.
    resolved: { ...heldBy(photo.resolved, format), ...(mapped && { light: "hdr" as const }) },
    facts: photo.source.facts,
    geometry,
    frame: photo.frame,
    kernel: look.kernel,
    conversion: look.conversion,
    ink: photo.ink,
    proposed: photo.frame.auto === true && geometry.cut > 0,
    writePpi: headers.ppi,
    dropped: headers.dropped,
    encoding: { setting, format, bytes, about: null, told, gaveUp },
  });
}

/** The photo's own map is not left out where one is written. */
const headersTold = ({ ppi, dropped }: StepsTask["headers"], map: GainMap | null): StepsTask["headers"] => ({
  ppi,
  dropped: map ? dropped.filter((what) => what !== "the gain map") : dropped,
});

/** How light the map makes the picture, and what it takes. */
function mapWords({ max, jpeg }: GainMap): string {
  return (
    `Ordinary programs show the picture as it is; a gain map of ${formatBytes(jpeg.length)} lets others go up to ` +
    `${trimNumber(2 ** max[0], 1)} times white.`
  );
}

async function withOwnMap(
  { source, resolved }: PlannedPhoto,
  geometry: Geometry,
  file: Uint8Array,
  format: OutputFormat,
): Promise<{ file: Uint8Array; told: string[] }> {
  if (!source.gainMap || resolved.metadata !== "keep" || format !== "jpeg") return { file, told: [] };
  const kept = await keepGainMap(source, geometry, file, resolved.fileSize.max);
  return { file: kept.file, told: [kept.told] };
}

/** What somebody should know of a file that was encoded anew. */
function notesOf(
  { brief, resolved, source: { facts, bytes }, geometry }: PlannedPhoto,
  file: Uint8Array,
  setting: Setting,
): string[] {
  const { format } = setting;
  const notes = lostToFormat(resolved, format).map(
    (clause) =>
      `${clauseNames[clause]} gave way: ${formatName(format)} has no room for ${clauseWords(brief, clause)}.`,
  );
  const finer = () => (qualityOf(readJpeg(file))?.quality ?? 0) > facts.quality! + 1;
  if (format === "jpeg" && facts.quality !== null && geometry.scale === 1 && finer())
    notes.push(
      `The photo was saved at quality ${facts.quality} before; a higher one cannot bring back what was lost then.`,
    );
  // A drawing is small whatever is drawn.
  if (file.length > bytes.length && !facts.drawing) {
    const why =
      format === facts.format
        ? "a clause asks for more"
        : "another format is asked and the ceiling leaves room";
    notes.push(`The file is larger than the photo was (${formatBytes(bytes.length)}), because ${why}.`);
  }
  return notes;
}
