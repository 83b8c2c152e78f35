import {
  getStore,
  originalSize,
  requireWeighed,
  route,
  seenAs,
  trialView,
  waysOf,
  weighedGeometry,
} from "@/app/server";
import { resolveBrief } from "@/core/brief";
import { settingKey } from "@/core/coding";
import { allowedFormats } from "@/core/plan";
import { seeWeighing, stopWeighing, trialsOf } from "@/store/queries";
import type { WeighView } from "@/ui/api";

export const dynamic = "force-dynamic";

/** What is weighed for an assignment. Asking for it says that somebody looks, and sets the trials going. */
export const GET = route(async (_request, { id }): Promise<WeighView> => {
  const { db } = getStore();
  const row = await requireWeighed(id);
  const geometry = weighedGeometry(row);
  // Where the frame lies, and how many pixels there will be, is known for sure only once it was measured.
  const { plan, error } = row.measured ? await seeWeighing(db, row.id) : { plan: null, error: null };
  const resolved = resolveBrief(row.brief);
  const made = plan ? await trialsOf(db, plan) : [];
  return {
    id: row.id,
    geometry,
    seenAs: seenAs(row, geometry),
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
    trials: made
      .filter((trial) => plan!.formats[trial.setting.format]?.pictureKey === trial.pictureKey)
      .map((trial) => trialView(trial, plan!))
      .sort((a, b) => a.bytes - b.bytes),
  };
});

/** Nobody looks any more: trials that are under way are broken off, those that wait are not begun. */
export const DELETE = route(async (_request, { id }) => {
  const row = await requireWeighed(id);
  await stopWeighing(getStore().db, row.id);
});
