import {
  getStore,
  originalSize,
  requireWeighed,
  route,
  seenAs,
  sizesOf,
  trialView,
  waysOf,
  weighedGeometry,
} from "@/app/server";
import { resolveBrief } from "@/core/brief";
import { settingKey } from "@/core/coding";
import { allowedFormats } from "@/core/plan";
import type { Database, WeighedSize } from "@/store";
import { seeWeighing, stopWeighing, trialsOf } from "@/store/queries";
import type { TrialView, WeighView } from "@/ui/api";

/** What is weighed for an assignment. Asking for it says that somebody looks, and sets the trials going. */
export const GET = route(async (_request, { id }): Promise<WeighView> => {
  const { db } = getStore();
  const row = await requireWeighed(id);
  const geometry = weighedGeometry(row);
  // Where the frame lies, and how many pixels there will be, is known for sure only once it was measured.
  const { plan, others, error } = row.measured
    ? await seeWeighing(db, row.id)
    : { plan: null, others: {}, error: null };
  const resolved = resolveBrief(row.brief);
  const trials = await Promise.all([
    plan ? viewsOf(db, plan, null) : [],
    ...Object.entries(others).map(([side, size]) => viewsOf(db, size, Number(side))),
  ]);
  return {
    id: row.id,
    geometry,
    seenAs: seenAs(row, geometry),
    sizes: sizesOf(row, geometry, others),
    original: originalSize(geometry),
    sourceBytes: row.facts.bytes,
    formats: allowedFormats(resolved, row.facts),
    range: { min: resolved.fileSize.min, max: resolved.fileSize.max },
    chroma: plan?.chroma ?? "4:2:0",
    bits: resolved.bits === 10 ? 10 : 8,
    packed: plan?.packed ?? null,
    ways: waysOf(row, plan),
    ladder: plan?.ladder ?? null,
    made: plan?.made ?? 0,
    error,
    choice: row.choice,
    chosen: row.measured?.setting ? settingKey(row.measured.setting) : null,
    trials: trials.flat().sort((a, b) => a.bytes - b.bytes),
  };
});

/** Trials of the pictures that are weighed now; others of the same size may be kept from before. */
async function viewsOf(db: Database, size: WeighedSize, side: number | null): Promise<TrialView[]> {
  const made = await trialsOf(db, size);
  return made
    .filter((trial) => size.formats[trial.setting.format]?.pictureKey === trial.pictureKey)
    .map((trial) => trialView(trial, size, side));
}

/** Nobody looks any more: trials that are under way are broken off, those that wait are not begun. */
export const DELETE = route(async (_request, { id }) => {
  const row = await requireWeighed(id);
  await stopWeighing(getStore().db, row.id);
});
