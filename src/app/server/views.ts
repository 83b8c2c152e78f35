/** From rows of the database to what a page shows. Estimates are worked out here, from the core alone. */
import { type Brief, heldBy, type ResolvedBrief, resolveBrief } from "@/core/brief";
import { aboutBytes, aboutGeometry, viewWords } from "@/core/coding";
import { askedPpi, type Geometry, planGeometry } from "@/core/geometry";
import { AUTO, aimedSize, type Frame } from "@/core/photo";
import { allowedFormats, passSteps, planSteps, reasonsToEncode, verdictOf, writtenKind } from "@/core/plan";
import { type PlannedName, planNames, type WrittenKind } from "@/core/plan/names";
import { type Facts, factsOfPage } from "@/core/proof";
import { canonical } from "@/core/units";
import type { Database } from "@/store";
import { type BatchRow, editState, type ItemRow, revisionsWithShelf, type StoredRow } from "@/store/queries";
import type { BatchNews, BriefInUse, Have, MadeView, RowView } from "@/ui/api";
import { runProgress } from "./progress";
import { setEstimate, setView } from "./set-views";
import { slotViews } from "./slots";
import { toldRows } from "./told-rows";
import { totalViews } from "./totals";

/** `have`: what of it the page holds already. */
export function batchView(
  db: Database,
  batch: BatchRow,
  have: Have | null,
  told = toldRows(batch.id),
): Promise<BatchNews> {
  return told.alone(async () => {
    const [{ rows, run, items }, edit] = await Promise.all([
      told.standing(db, batch),
      editState(db, batch.id),
    ]);
    const asked = new Set(batch.slots.map((slot) => slot.revisionId));
    const used = await briefsInUse(db, [batch.revisionId, ...asked], rows);
    const made = grouped(items, (item) => item.assignmentId);
    const views = rows.map((row) => {
      const mine = made.get(row.assignmentId ?? "") ?? [];
      // What was made for another share of the whole is not this file.
      const same =
        !run?.row.filesDeletedAt &&
        mine.every((item) => canonical(item.share ?? null) === canonical(row.share ?? null));
      const current = same ? mine : [];
      return told.view(row, current, () =>
        rowView(row, (row.revisionId && used.get(row.revisionId)) || null, current),
      );
    });
    const inUse = [...used.values()].map(({ view }) => view);
    return {
      id: batch.id,
      name: batch.name,
      brief: batch.revisionId ? (used.get(batch.revisionId)?.view ?? null) : null,
      briefs: inUse.filter(
        (view) => view.rows > 0 || view.revisionId === batch.revisionId || asked.has(view.revisionId),
      ),
      slots: slotViews(batch.slots, rows, (id) => used.get(id)?.view.body),
      ...told.news(views, names(rows, views, used), have),
      ...edit,
      totals: await totalViews(db, batch, inUse, rows),
      run: run && runProgress(run.row, items, run.folders),
    };
  });
}

/** The names that the files will get: those of the whole batch at once, since no two may be alike. */
function names(
  rows: readonly StoredRow[],
  views: readonly RowView[],
  used: ReadonlyMap<string, InUse>,
): Map<string, PlannedName[]> {
  const wanted = views.flatMap((view, i) => {
    const use = view.revisionId && used.get(view.revisionId);
    if (!use || !view.geometry) return [];
    const format = (rows[i].measured?.format ?? writtenKind(use.resolved, view.before)) as WrittenKind;
    const { width, height } = view.geometry;
    return (view.set ?? [{ width, height, format }]).map((file) => ({
      id: view.id,
      pattern: use.resolved.names,
      folder: view.folder,
      source: view.name,
      n: i + 1,
      width: file.width,
      height: file.height,
      date: view.before.date,
      brief: use.view.body.name,
      format: file.format,
    }));
  });
  return grouped(planNames(wanted), (name) => name.id);
}

function grouped<T>(list: readonly T[], key: (one: T) => string): Map<string, T[]> {
  const out = new Map<string, T[]>();
  for (const one of list) {
    const group = out.get(key(one));
    if (group) group.push(one);
    else out.set(key(one), [one]);
  }
  return out;
}

interface InUse {
  view: BriefInUse;
  resolved: ResolvedBrief;
}

/** Every brief that the batch, its documents or one of its rows use, `first` first. */
async function briefsInUse(
  db: Database,
  first: readonly (string | null)[],
  rows: readonly StoredRow[],
): Promise<Map<string, InUse>> {
  const ids = new Set([...first, ...rows.map((row) => row.revisionId)].filter((id) => id !== null));
  const out = new Map<string, InUse>();
  for (const { id, briefId, body, onShelf } of await revisionsWithShelf(db, [...ids])) {
    const count = rows.filter((row) => row.revisionId === id).length;
    out.set(id, {
      view: { revisionId: id, briefId, body, onShelf, rows: count },
      resolved: resolveBrief(body),
    });
  }
  return out;
}

const readBack = ({ bytes, width, height, format, resolution }: Facts) => ({
  bytes,
  width,
  height,
  format,
  resolution,
});

/** Of a set: as far as its files are that come last. */
function madeView(items: readonly ItemRow[]): MadeView | null {
  if (!items.length || items.some((one) => one.state === "cancelled" || one.gone)) return null;
  const telling =
    items.find((one) => one.state === "failed") ?? items.find((one) => one.state === "waiting") ?? items[0];
  return { ...madeFile(telling), bytes: bytesOfAll(items), ok: items.every((one) => one.ok === true) };
}

/** Null until all are made. */
const bytesOfAll = (items: readonly ItemRow[]): number | null =>
  items.reduce<number | null>((sum, { bytes }) => (sum === null || bytes === null ? null : sum + bytes), 0);

function madeFile(item: ItemRow): MadeView {
  return {
    itemId: item.id,
    runId: item.runId,
    onlyYou: item.brief.onlyYou ?? [],
    ticks: item.ticks,
    state: item.state as MadeView["state"],
    error: item.error,
    name: item.outputName,
    bytes: item.bytes,
    facts: item.facts && readBack(item.facts),
    checks: item.checks ?? [],
    unchanged: item.unchanged ?? [],
    dropped: item.dropped ?? [],
    ok: item.ok === true,
  };
}

function rowView(row: StoredRow, use: InUse | null, items: readonly ItemRow[]): RowView {
  const common = {
    revisionId: row.revisionId,
    own: row.own !== null,
    id: row.id,
    photoId: row.photoId,
    assignmentId: row.assignmentId,
    name: row.name,
    folder: row.folder,
    thumb: row.thumb,
    outputName: null,
    nameNotes: [],
    before: factsOfPage(row.facts, (row.measured?.frame ?? row.frame)?.page),
    frame: row.measured?.frame ?? row.frame ?? AUTO,
    dotScreen: row.measured?.dotScreen ?? null,
    made: madeView(items),
    set: null,
    alt: row.alt ?? row.facts.shows ?? "",
    notes: row.measured?.notes ?? [],
    difference: row.measured?.difference ?? null,
    differenceAbout: row.measured?.differenceAbout ?? false,
    cleanFrom: row.measured?.cleanFrom ?? null,
    gaveUp: row.measured?.gaveUp ?? null,
    passing: row.measured?.passing === true,
    choice: row.choice ?? null,
    ink: row.measured?.ink ?? null,
  };
  const nothing = { geometry: null, figure: "none" as const, bytes: null, ppi: null, steps: [], checks: [] };
  if (!use) return { ...common, ...nothing, verdict: null };
  const {
    resolved,
    view: { body: brief },
  } = use;
  const facts = factsOfPage(row.facts, common.frame.page);
  const accepted = row.accepted === true;
  const m = row.measured;
  if (m) {
    const verdict = verdictOf({ ...m, accepted });
    const geometry = m.geometry ?? geometryOf(resolved, facts, common.frame).geometry;
    const ppi = m.facts?.resolution?.[0] ?? null;
    const figure = m.error ? ("none" as const) : ("measured" as const);
    const set = m.set ? setView(m.set, items) : null;
    return {
      ...common,
      set,
      geometry,
      figure,
      bytes: m.bytes,
      ppi,
      steps: m.steps,
      checks: m.checks,
      verdict,
    };
  }
  if (brief.set) return { ...common, ...setEstimate(brief, facts, common.frame), verdict: null };
  const { geometry, error } = geometryOf(resolved, facts, common.frame);
  if (!geometry) return { ...common, ...nothing, verdict: { state: "cannot", reason: error ?? "" } };
  return { ...common, ...estimate({ brief, resolved, facts, geometry, frame: common.frame }), verdict: null };
}

function geometryOf(
  resolved: ResolvedBrief,
  facts: Facts,
  frame: Frame,
): { geometry: Geometry | null; error: string | null } {
  try {
    return { geometry: planGeometry(resolved, facts, frame), error: null };
  } catch (error) {
    return { geometry: null, error: error instanceof Error ? error.message : String(error) };
  }
}

function estimate({
  brief,
  resolved,
  facts,
  geometry: full,
  frame,
}: {
  brief: Brief;
  resolved: ResolvedBrief;
  facts: Facts;
  geometry: Geometry;
  frame: Frame;
}) {
  const { min, max } = resolved.fileSize;
  const fits = (min === null || facts.bytes >= min) && (max === null || facts.bytes <= max);
  const passes =
    fits && reasonsToEncode({ brief, resolved, facts, geometry: full, takenAs: frame.takenAs }).length === 0;
  const format = allowedFormats(resolved, facts)[0];
  const geometry = passes ? full : aboutGeometry({ brief: resolved, photo: facts, frame }, full, format);
  const about = passes ? facts.bytes : aboutBytes(resolved, geometry.width * geometry.height, format);
  const has = facts.resolution?.[0] ?? null;
  const ppi = askedPpi(resolved, aimedSize(facts, frame), geometry, has) ?? has;
  const input = {
    brief,
    resolved: heldBy(resolved, format),
    facts,
    geometry,
    frame,
    writePpi: ppi,
    dropped: facts.privateData,
    encoding: {
      setting: null,
      format,
      bytes: null,
      about,
      told: [],
      gaveUp: geometry === full ? null : `about as many as are seen ${viewWords(resolved.view)}`,
    },
  };
  return {
    geometry,
    figure: "about" as const,
    bytes: about,
    ppi,
    checks: [],
    steps: passes
      ? passSteps(input, facts.privateData.length === 0 && !brief.resolution && !brief.paper)
      : planSteps(input),
  };
}
