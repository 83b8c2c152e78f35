/** The assignment that a route of Weigh is about. */

import { resolveBrief } from "@/core/brief";
import { trialKey } from "@/core/coding";
import {
  comparedSizes,
  type Geometry,
  longSide,
  pixelsOf,
  planGeometry,
  type Viewing,
  viewGeometry,
  withLongSide,
} from "@/core/geometry";
import { GeometryError, type Size } from "@/core/photo";
import { factsOfPage } from "@/core/proof";
import type { WeighedSize, WeighPlan } from "@/store";
import { loadWeighed, type trialsOf } from "@/store/queries";
import type { TrialView, WeighedSizeView, WeighView } from "@/ui/api";
import { checkId, RequestError } from "./answer";
import { getStore, getWorkspace } from "./store";

export async function requireWeighed(id: string) {
  const row = await loadWeighed(getStore().db, checkId(id));
  if (!row || row.workspaceId !== (await getWorkspace()))
    throw new RequestError(404, "This photo is no longer there. Go back to the Desk and choose another.");
  return row;
}

/**
 * The geometry that was measured, else the planned one. Throws a GeometryError where the photo cannot be
 * framed.
 */
export const weighedGeometry = (row: Awaited<ReturnType<typeof requireWeighed>>): Geometry =>
  row.measured?.geometry ??
  planGeometry(resolveBrief(row.brief), factsOfPage(row.facts, row.frame.page), row.frame);

/** The pixels at which it is looked at and judged; null where that is at its own 100 %. */
export function seenAs(row: Weighed, geometry: Geometry): Size | null {
  try {
    const { viewing, full } = planOf(row);
    const { width, height } = viewGeometry(viewing, full);
    const whole = viewing.brief.view.kind !== "pixels" && width * height >= pixelsOf(geometry);
    return whole ? { width, height } : null;
  } catch (error) {
    if (error instanceof GeometryError) return null;
    throw error;
  }
}

/** The most pixels that the brief allows. Throws a GeometryError where the photo cannot be framed. */
function planOf({ brief, facts, frame, measured }: Weighed): { viewing: Viewing; full: Geometry } {
  const used = brief.ink ? frame : (measured?.frame ?? frame);
  const viewing = { brief: resolveBrief(brief), photo: factsOfPage(facts, frame.page), frame: used };
  return { viewing, full: planGeometry(viewing.brief, viewing.photo, used) };
}

type Weighed = Awaited<ReturnType<typeof requireWeighed>>;
type Kept = Awaited<ReturnType<typeof trialsOf>>[number];

/** The planned pixels, and others that trials may have or have: the most first. */
export function sizesOf(row: Weighed, planned: Size, others: Record<string, WeighedSize>): WeighedSizeView[] {
  const known: Size[] = [planned];
  let most = longSide(planned);
  try {
    const { viewing, full } = planOf(row);
    most = longSide(full);
    known.push(...comparedSizes(viewing, full, planned));
  } catch (error) {
    if (!(error instanceof GeometryError)) throw error;
  }
  known.push(...Object.values(others).map(({ geometry }) => geometry));
  const bySide = new Map(
    known.reverse().map(({ width, height }) => [longSide({ width, height }), { width, height }]),
  );
  return [...bySide]
    .map(([long, size]) => ({ ...size, side: long === longSide(planned) ? null : long, all: long === most }))
    .sort((a, b) => pixelsOf(b) - pixelsOf(a));
}

/** The pixels that a trial is asked at; `side` null: the planned ones. */
export function sizeAt(row: Weighed, side: number | null): Size & { side: number | null } {
  const planned = weighedGeometry(row);
  const { viewing, full } = planOf(row);
  const { width, height } = side === null ? planned : withLongSide(viewing, full, side);
  const same = longSide({ width, height }) === longSide(planned);
  return same ? { ...planned, side: null } : { width, height, side: longSide({ width, height }) };
}

/** Trials of one size. Bytes are those of the whole file, headers included. */
export function trialView(kept: Kept, { formats, geometry }: WeighedSize, side: number | null): TrialView {
  const { setting, bytes, difference, worst, shift, ms, sha256 } = kept;
  return {
    key: trialKey(kept.settingKey, side),
    size: { side, width: geometry.width, height: geometry.height },
    setting,
    bytes: bytes + (formats[setting.format]?.added ?? 0),
    difference,
    worst,
    shift,
    ms,
    kept: sha256 !== null,
  };
}

/** The ways of taking a camera's raw file; none for other photos. */
export function waysOf(
  { facts }: Awaited<ReturnType<typeof requireWeighed>>,
  plan: WeighPlan | null,
): WeighView["ways"] {
  if (facts.format !== "raw") return [];
  const bytes = (way: "developed" | "camera") => plan?.ways?.[way] ?? null;
  const developed = {
    way: "developed" as const,
    bytes: bytes("developed"),
    width: facts.width,
    height: facts.height,
  };
  return facts.preview
    ? [developed, { way: "camera", bytes: bytes("camera"), ...facts.preview }]
    : [developed];
}
