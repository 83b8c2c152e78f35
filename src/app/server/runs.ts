/** Runs, for the Runs screen and for what can be taken away. */
import { and, asc, desc, eq, inArray, isNull, sql } from "drizzle-orm";
import { clauseNames } from "@/core/brief";
import { totalCheck } from "@/core/budget";
import { formatBytes, formatSize, trimNumber } from "@/core/units";
import { type MailFile, messageBytes, parcelsOf, proofSheet, typeOf } from "@/delivery";
import type { Database, Store } from "@/store";
import { files, type ItemState, photos, proofs, readEnvironment, runItems, runs } from "@/store";
import { getRun, itemBrief, outputsOf } from "@/store/queries";
import type { RunDetail, RunItemView, RunView } from "@/ui/api";
import { checkId, RequestError } from "./answer";
import { runProgress } from "./progress";
import { getStore, getWorkspace } from "./store";

type Run = typeof runs.$inferSelect;

export async function requireRun(id: string): Promise<Run> {
  const run = await getRun(getStore().db, await getWorkspace(), checkId(id));
  if (!run) throw new RequestError(404, "This run is no longer there. Choose another.");
  return run;
}

const beforeBytes = sql<number>`coalesce(sum((${runItems.snapshot}->'before'->>'bytes')::float8), 0)`;

export async function listRunViews(db: Database, workspaceId: string): Promise<RunView[]> {
  const rows = await db
    .select({
      run: runs,
      states: sql<
        Record<string, number>
      >`(select coalesce(jsonb_object_agg(s.state, s.n), '{}'::jsonb) from (select state, count(*)::int as n from run_items where run_id = ${runs.id} group by state) s)`,
      before: beforeBytes,
      after: sql<number>`coalesce(sum(${files.bytes}) filter (where ${runItems.state} = 'done'), 0)::float8`,
    })
    .from(runs)
    .leftJoin(runItems, eq(runItems.runId, runs.id))
    .leftJoin(files, eq(files.sha256, runItems.outputSha256))
    .where(and(eq(runs.workspaceId, workspaceId), isNull(runs.deletedAt)))
    .groupBy(runs.id)
    .orderBy(desc(runs.seq))
    .limit(500);
  return rows.map(({ run, states, before, after }) =>
    viewOf(
      run,
      Object.entries(states).flatMap(([state, n]) =>
        Array.from({ length: n }, () => ({ state: state as ItemState })),
      ),
      before,
      after,
    ),
  );
}

function viewOf(run: Run, items: readonly { state: ItemState }[], before: number, after: number): RunView {
  return {
    id: run.id,
    batchId: run.batchId,
    title: run.title || "Files",
    at: run.createdAt.toISOString(),
    progress: runProgress(run, items, false),
    before,
    after,
    filesGone: run.filesDeletedAt !== null,
  };
}

export async function runDetail(db: Database, run: Run): Promise<RunDetail> {
  const rows = await db
    .select({ item: runItems, brief: itemBrief, proof: proofs, bytes: files.bytes, photoId: photos.id })
    .from(runItems)
    .leftJoin(proofs, eq(proofs.runItemId, runItems.id))
    .leftJoin(files, eq(files.sha256, runItems.outputSha256))
    .leftJoin(
      photos,
      and(
        eq(photos.sha256, sql`${runItems.snapshot}->>'sourceSha256'`),
        eq(photos.workspaceId, run.workspaceId),
      ),
    )
    .where(eq(runItems.runId, run.id))
    .orderBy(asc(runItems.position));
  const items = rows.map(
    ({ item, brief, proof, bytes, photoId }): RunItemView => ({
      id: item.id,
      source: item.snapshot.sourceName,
      name: item.outputName,
      state: item.state,
      error: item.error,
      before: item.snapshot.before,
      after: proof?.facts ?? null,
      bytes,
      difference: item.difference,
      differenceAbout: item.differenceAbout,
      checks: proof?.checks ?? [],
      unchanged: proof?.unchanged ?? [],
      dropped: proof?.dropped ?? [],
      notes: proof?.notes ?? [],
      onlyYou: brief.onlyYou ?? [],
      ticks: item.ticks,
      ok: proof?.ok ?? null,
      photoId: photoId ?? "",
    }),
  );
  const sum = (list: readonly number[]) => list.reduce((all, one) => all + one, 0);
  const made = items.filter((item) => item.state === "done");
  const sized = made.map((item) => ({ name: item.name!, type: typeOf(item.name!), bytes: item.bytes ?? 0 }));
  const subject = run.title.split(" · ")[0];
  const parcels = sized.length
    ? ((await parcelsOf(sized, subject, run.limit?.counted === "mail" ? run.limit.max : Infinity)) ?? [])
    : [];
  const messages = await Promise.all(
    parcels.map(async (parcel) => ({ files: parcel.length, bytes: await messageBytes(parcel, subject) })),
  );
  const found =
    run.limit?.counted === "mail"
      ? Math.max(0, ...messages.map((message) => message.bytes))
      : sum(made.map((item) => item.bytes ?? 0));
  return {
    ...viewOf(
      run,
      items,
      sum(items.map((item) => item.before.bytes)),
      sum(made.map((item) => item.bytes ?? 0)),
    ),
    limit: run.limit,
    total:
      run.limit && made.length
        ? totalCheck({ ...run.limit, messages: Math.max(1, messages.length) }, found)
        : null,
    items,
    messages,
    outRoots: readEnvironment().outRoots,
  };
}

/** The finished files of a run as attachments. */
export async function mailFiles({ db, files: disk }: Store, runId: string): Promise<MailFile[]> {
  const outputs = await outputsOf(db, await getWorkspace(), { runId });
  return outputs.map(({ name, sha256, bytes }) => ({
    name,
    type: typeOf(name),
    bytes,
    from: { path: disk.path(sha256) },
  }));
}

export async function sheetOf(store: Store, run: Run): Promise<Uint8Array> {
  const detail = await runDetail(store.db, run);
  const ids = [...new Set(detail.items.map((item) => item.photoId).filter(Boolean))];
  const thumbs = new Map(
    ids.length
      ? (
          await store.db
            .select({ id: photos.id, thumb: photos.thumbSha256 })
            .from(photos)
            .where(inArray(photos.id, ids))
        ).map((photo) => [photo.id, photo.thumb])
      : [],
  );
  const rows = await Promise.all(
    detail.items
      .filter((item) => item.state !== "waiting")
      .map(async (item) => {
        const thumb = thumbs.get(item.photoId);
        return {
          thumb: thumb ? await store.files.read(thumb).catch(() => null) : null,
          name: item.name ?? item.source,
          source: item.source,
          facts: factLines(item),
          ok: item.ok === true,
          checks: item.checks.length
            ? item.checks.map((check) => ({
                words:
                  `${clauseNames[check.clause]}: asked ${check.asked}, found ` +
                  `${check.found}${check.gaveWay ? " (gave way)" : ""}`,
                ok: check.ok,
              }))
            : [{ words: item.error ?? "not made", ok: false }],
        };
      }),
  );
  const { progress, before, after, total } = detail;
  const lines = [
    `${new Date(detail.at).toISOString().slice(0, 16).replace("T", " ")} UTC · ${progress.done} of ` +
      `${progress.total} files made · ${formatBytes(before)} before, ${formatBytes(after)} after`,
    ...(total ? [`The whole: asked ${total.asked}, found ${total.found}`] : []),
    ...onlyYouLines(detail.items),
  ];
  return proofSheet({ title: detail.title, lines, rows });
}

/** What only a person can check, and how many files somebody has checked it for. */
function onlyYouLines(items: readonly RunItemView[]): string[] {
  const rules = [...new Set(items.flatMap((item) => item.onlyYou))];
  return rules.map((rule) => {
    const of = items.filter((item) => item.onlyYou.includes(rule));
    return (
      `Only a person can check: ${rule} (ticked for ${of.filter((item) => item.ticks[rule]).length} of ` +
      `${of.length})`
    );
  });
}

function factLines({ before, after, difference }: RunItemView): string[] {
  if (!after) return [`${formatSize(before.width, before.height)} px, ${formatBytes(before.bytes)}`];
  const lines = [
    `${after.format.toUpperCase()}, ${formatSize(after.width, after.height)} px, ${formatBytes(after.bytes)}`,
    `was ${before.format.toUpperCase()}, ${formatSize(before.width, before.height)} px, ` +
      `${formatBytes(before.bytes)}`,
  ];
  return difference === null ? lines : [...lines, `visible difference ${trimNumber(difference, 2)}`];
}
