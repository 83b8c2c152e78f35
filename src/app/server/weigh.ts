/** The assignment that a route of Weigh is about. */

import { resolveBrief } from "@/core/brief";
import { type Geometry, pixelsOf, planGeometry, viewGeometry } from "@/core/geometry";
import { GeometryError, type Size } from "@/core/photo";
import { factsOfPage } from "@/core/proof";
import type { WeighPlan } from "@/store";
import { loadWeighed, type trialsOf } from "@/store/queries";
import type { TrialView, WeighView } from "@/ui/api";
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
export function seenAs({ brief, facts, frame }: Weighed, geometry: Geometry): Size | null {
  const viewing = { brief: resolveBrief(brief), photo: factsOfPage(facts, frame.page), frame };
  try {
    const { width, height } = viewGeometry(viewing, planGeometry(viewing.brief, viewing.photo, frame));
    const whole = viewing.brief.view.kind !== "pixels" && width * height >= pixelsOf(geometry);
    return whole ? { width, height } : null;
  } catch (error) {
    if (error instanceof GeometryError) return null;
    throw error;
  }
}

type Weighed = Awaited<ReturnType<typeof requireWeighed>>;
type Kept = Awaited<ReturnType<typeof trialsOf>>[number];

/** Bytes are those of the whole file, headers included. */
export const trialView = (
  { settingKey, setting, bytes, difference, worst, shift, ms, sha256 }: Kept,
  plan: WeighPlan,
): TrialView => ({
  key: settingKey,
  setting,
  bytes: bytes + (plan.formats[setting.format]?.added ?? 0),
  difference,
  worst,
  shift,
  ms,
  kept: sha256 !== null,
});

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
