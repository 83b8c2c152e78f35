/** Runs that hold: stopped and taken up at any point, tried again, taken over; and what keeps the store clean. */
import { readFile, unlink, writeFile } from "node:fs/promises";
import { eq, sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { parseBrief } from "@/core/brief";
import { make } from "@/jobs/make";
import { measure } from "@/jobs/measure";
import { ROOM, resumeWhereSpace } from "@/jobs/space";
import { thumb } from "@/jobs/thumb";
import type { Store } from "@/store";
import { addJobs, assignments, batches, files, photos, runItems, runs } from "@/store";
import {
  addLostJobs,
  beat,
  buryInstance,
  cancelRun,
  checkStore,
  createBatch,
  createBrief,
  DeathWatch,
  freeSpace,
  getBatch,
  giveUpFiles,
  healClock,
  keepBytes,
  latestRun,
  listRows,
  localWorkspace,
  makeEdit,
  outputsOf,
  pauseRun,
  removeBatch,
  removeStrays,
  restoreBatch,
  resumeRun,
  retryRun,
  signOff,
  startRun,
  usage,
} from "@/store/queries";
import { collectFiles } from "@/store/queries/storage";
import { workers } from "@/store/schema";
import { jpegPhoto } from "../support/photos";
import { bringIn, freshStore } from "../support/store";

let store: Store;
let close: () => Promise<void>;
let workspace: string;
let batchId: string;
const body = parseBrief({
  zumbrelBrief: 1,
  name: "card",
  format: ["jpeg"],
  longSide: { exact: 90 },
  quality: { min: 70, max: 70 },
});
const names = ["one.jpg", "two.JPG", "three.jpeg"];

beforeAll(async () => {
  ({ store, close } = await freshStore());
  workspace = await localWorkspace(store.db);
});
afterAll(() => close());
beforeEach(async () => {
  const brief = await createBrief(store.db, workspace, body);
  batchId = await createBatch(store.db, { workspaceId: workspace, name: "batch", revisionId: brief.id });
  for (const [i, name] of names.entries())
    await bringIn(store, workspace, batchId, name, await jpegPhoto(120, 90, 50 + i));
});

const batch = async () => (await getBatch(store.db, workspace, batchId))!;
const begin = async (anew = false) => (await startRun(store.db, await batch(), anew ? "nothing" : "same"))!;
const items = (runId: string) =>
  store.db.select().from(runItems).where(eq(runItems.runId, runId)).orderBy(runItems.position);
const jobs = async (task: string) =>
  (
    await store.db.execute<{ id: string }>(
      sql`select payload->>'id' as id from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id where t.identifier = ${task} and j.is_available`,
    )
  ).rows.map((row) => row.id);
const state = async () => {
  const run = (await latestRun(store.db, batchId))!;
  return {
    states: run.items.map((item) => item.state),
    finished: run.row.finishedAt !== null,
    paused: run.row.pausedAt !== null,
    reason: run.row.pauseReason,
  };
};

describe("a run", () => {
  it("pauses, goes on where it was, and makes nothing twice", async () => {
    const runId = await begin();
    const [first, second, third] = await items(runId);
    expect(await jobs("make")).toEqual(expect.arrayContaining([first.id, second.id, third.id]));
    await make(store, first.id);
    await pauseRun(store.db, runId, null);
    expect((await jobs("make")).filter((id) => [second.id, third.id].includes(id))).toEqual([]);
    // A job that was under way when the button was pressed leaves its item for later.
    await make(store, second.id);
    expect(await state()).toMatchObject({
      states: ["done", "waiting", "waiting"],
      finished: false,
      paused: true,
    });
    await resumeRun(store.db, runId);
    expect(await jobs("make")).toEqual(expect.arrayContaining([second.id, third.id]));
    const before = (await items(runId))[0].finishedAt;
    for (const { id } of await items(runId)) await make(store, id);
    expect(await state()).toMatchObject({ states: ["done", "done", "done"], finished: true, paused: false });
    expect((await items(runId))[0].finishedAt).toEqual(before);
    expect((await items(runId)).map((item) => item.outputName)).toEqual(names);
  });

  it("is cancelled in the middle; what is missing can be made later", async () => {
    const runId = await begin();
    await make(store, (await items(runId))[1].id);
    await store.db.transaction((tx) => cancelRun(tx, runId));
    expect(await state()).toMatchObject({ states: ["cancelled", "done", "cancelled"], finished: true });
    for (const { id } of await items(runId)) await make(store, id);
    expect((await state()).states).toEqual(["cancelled", "done", "cancelled"]);
    expect(await retryRun(store.db, runId)).toBe(true);
    for (const { id } of await items(runId)) await make(store, id);
    expect(await state()).toMatchObject({ states: ["done", "done", "done"], finished: true });
    expect(await retryRun(store.db, runId)).toBe(false);
  });

  it("goes on after one bad photo, which is a row with its reason and can be tried again", async () => {
    const runId = await begin();
    const list = await items(runId);
    const bytes = await store.files.read(list[1].snapshot.sourceSha256);
    await unlink(store.files.path(list[1].snapshot.sourceSha256));
    for (const { id } of list) await make(store, id);
    expect((await state()).states).toEqual(["done", "failed", "done"]);
    expect((await items(runId))[1].error).toMatch(/no such file/i);
    await keepBytes(store, bytes);
    await retryRun(store.db, runId);
    await make(store, list[1].id);
    expect((await items(runId))[1]).toMatchObject({ state: "done", error: null });
  });

  it("takes over what an earlier one has made in the same way, and makes only what changed", async () => {
    const first = await begin();
    for (const { id } of await items(first)) await make(store, id);
    const made = (await latestRun(store.db, batchId))!.items;
    const rows = await listRows(store.db, batchId);
    await makeEdit(store.db, await batch(), "another frame", {
      kind: "frame",
      batchPhotoId: rows[2].id,
      revisionId: rows[2].revisionId!,
      before: { frame: rows[2].frame!, accepted: false },
      after: { frame: { x: 0.5, y: 0.5, turn: 90 }, accepted: true },
    });
    const second = await begin();
    expect((await state()).states).toEqual(["done", "done", "waiting"]);
    const taken = (await latestRun(store.db, batchId))!.items;
    expect(taken.slice(0, 2).map((item) => item.checks)).toEqual(made.slice(0, 2).map((item) => item.checks));
    expect(made[0].checks!.length).toBeGreaterThan(0);
    expect(taken.slice(0, 2).map((item) => item.ok)).toEqual([true, true]);
    for (const { id } of await items(second)) await make(store, id);
    expect(await state()).toMatchObject({ states: ["done", "done", "done"], finished: true });
    // Everything anew, where that is asked.
    const third = await begin(true);
    expect((await state()).states).toEqual(["waiting", "waiting", "waiting"]);
    await store.db.transaction((tx) => cancelRun(tx, third));
  });

  it("pauses when the disk is full, with nothing half-written, and goes on by itself when there is space", async () => {
    const runId = await begin();
    const [first, second] = await items(runId);
    await make(store, first.id);
    const receive = store.files.receive.bind(store.files);
    store.files.receive = () =>
      Promise.reject(Object.assign(new Error("no space left on device"), { code: "ENOSPC" }));
    try {
      await make(store, second.id);
    } finally {
      store.files.receive = receive;
    }
    expect(await state()).toMatchObject({
      states: ["done", "waiting", "waiting"],
      paused: true,
      reason: "disk",
    });
    await resumeWhereSpace(store, async () => ROOM - 1);
    expect((await state()).paused).toBe(true);
    await resumeWhereSpace(store, async () => ROOM);
    expect((await state()).paused).toBe(false);
    for (const { id } of await items(runId)) await make(store, id);
    expect(await state()).toMatchObject({ states: ["done", "done", "done"], finished: true });
    expect(await checkStore(store, 0)).toMatchObject({ missing: [] });
  });

  it("ends with its batch, which can come back", async () => {
    const runId = await begin();
    await make(store, (await items(runId))[0].id);
    await store.db.transaction((tx) => removeBatch(tx, workspace, batchId));
    expect(await getBatch(store.db, workspace, batchId)).toBeNull();
    for (const { id } of await items(runId)) await make(store, id);
    expect((await items(runId)).map((item) => item.state)).toEqual(["done", "cancelled", "cancelled"]);
    expect(await store.db.transaction((tx) => restoreBatch(tx, workspace, batchId))).toBe(true);
    expect(await listRows(store.db, batchId)).toHaveLength(3);
  });

  it("is the newest by its number, also where the clock was set back", async () => {
    const first = await begin();
    const second = await begin(true);
    await store.db
      .update(runs)
      .set({ createdAt: new Date(Date.now() - 3_600_000) })
      .where(eq(runs.id, second));
    expect((await latestRun(store.db, batchId))!.row.id).toBe(second);
    for (const id of [first, second]) await store.db.transaction((tx) => cancelRun(tx, id));
  });

  it("keeps folders, and gives two files of one name in one folder different ones", async () => {
    await store.db.execute(
      sql`update batch_photos set name = 'same.jpg', folder = case when name = 'three.jpeg' then '' else 'day 1' end where batch_id = ${batchId}`,
    );
    const runId = await begin();
    for (const { id } of await items(runId)) await make(store, id);
    expect((await items(runId)).map((item) => item.outputName)).toEqual([
      "day 1/same.jpg",
      "day 1/same-2.jpg",
      "same.jpg",
    ]);
  });
});

describe("workers", () => {
  const locked = async (worker: string) => {
    const id = `00000000-0000-4000-8000-${String(Math.floor(Math.random() * 1e12)).padStart(12, "0")}`;
    await addJobs(store.db, "thumb", [id], 5);
    await store.db.execute(
      sql`update graphile_worker._private_jobs set locked_by = ${worker}, locked_at = now() where key = ${`thumb:${id}`}`,
    );
    return async () =>
      (
        await store.db.execute<{ locked: string | null }>(
          sql`select locked_by as locked from graphile_worker._private_jobs where key = ${`thumb:${id}`}`,
        )
      ).rows[0].locked;
  };

  it("that stop beating lose their jobs to the others; those that beat keep them", async () => {
    let now = 0;
    const watch = new DeathWatch(store.db, 30_000, () => now);
    const [alive, dead, stranger] = [
      await locked("pool-alive"),
      await locked("pool-dead"),
      await locked("pool-stranger"),
    ];
    await beat(store.db, "a", ["pool-alive", "pool-dead"]);
    for (const at of [0, 20_000, 31_000]) {
      now = at;
      await beat(store.db, "a", ["pool-alive"]);
      await watch.look();
    }
    expect([await alive(), await dead(), await stranger()]).toEqual(["pool-alive", null, null]);
    await signOff(store.db, ["pool-alive"]);
    expect(await store.db.select().from(workers)).toEqual([]);
  });

  it("of an installation that starts again are buried at once, and no others", async () => {
    const [mine, other] = [await locked("pool-mine"), await locked("pool-other")];
    await beat(store.db, "here", ["pool-mine"]);
    await beat(store.db, "there", ["pool-other"]);
    await buryInstance(store.db, "here");
    expect([await mine(), await other()]).toEqual([null, "pool-other"]);
    await signOff(store.db, ["pool-other"]);
  });

  it("do not wait for jobs that were due before the clock was set back", async () => {
    const id = "00000000-0000-4000-8000-00000000000c";
    await addJobs(store.db, "thumb", [id], 5);
    await store.db.execute(
      sql`update graphile_worker._private_jobs set run_at = now() + interval '1 hour' where key = ${`thumb:${id}`}`,
    );
    expect(await jobs("thumb")).toContain(id);
    await healClock(store.db);
    const { rows } = await store.db.execute<{ due: boolean }>(
      sql`select run_at <= now() as due from graphile_worker._private_jobs where key = ${`thumb:${id}`}`,
    );
    expect(rows[0].due).toBe(true);
  });

  it("add jobs again that were given up, and no others", async () => {
    const rows = await listRows(store.db, batchId);
    const [first, second, third] = rows.map((row) => row.assignmentId!);
    await addLostJobs(store.db);
    expect(await addLostJobs(store.db)).toBe(0);
    // Five tries on a full disk, a job that went, and one that is under way.
    await store.db.execute(
      sql`update graphile_worker._private_jobs set attempts = max_attempts where key = ${`measure:${first}`}`,
    );
    await store.db.execute(sql`delete from graphile_worker._private_jobs where key = ${`measure:${second}`}`);
    await store.db.execute(
      sql`update graphile_worker._private_jobs set locked_by = 'pool-x', locked_at = now(), attempts = 1 where key = ${`measure:${third}`}`,
    );
    expect(await addLostJobs(store.db)).toBe(2);
    expect(await jobs("measure")).toEqual(expect.arrayContaining([first, second]));
    await store.db.execute(sql`delete from graphile_worker._private_jobs where locked_by = 'pool-x'`);
    await measure(store, third);
    await measure(store, second);
    expect(await addLostJobs(store.db)).toBe(0);
  });

  it("lose no job that is taken at the moment when it is replaced", async () => {
    const ids = Array.from(
      { length: 40 },
      (_, i) => `00000000-0000-4000-9000-${String(i).padStart(12, "0")}`,
    );
    const taken = new Set<string>();
    let going = true;
    // A worker that takes and finishes jobs as fast as it can.
    const worker = (async () => {
      while (going) {
        const { rows } = await store.db.execute<{ id: string; key: string | null; payload: { id: string } }>(
          sql`update graphile_worker._private_jobs set locked_by = 'pool-fast', locked_at = now() where id in (select id from graphile_worker._private_jobs where payload->>'id' like '00000000-0000-4000-9000-%' and is_available for update skip locked limit 1) returning id, key, payload`,
        );
        for (const job of rows) {
          taken.add(job.payload.id);
          await store.db.execute(sql`delete from graphile_worker._private_jobs where id = ${job.id}`);
        }
      }
    })();
    for (let round = 0; round < 15; round += 1) {
      taken.clear();
      await store.db.transaction((tx) => addJobs(tx, "thumb", ids, 5));
      await store.db.transaction((tx) => addJobs(tx, "thumb", ids, 6));
      await expect.poll(async () => taken.size, { timeout: 20_000, interval: 20 }).toBe(ids.length);
    }
    going = false;
    await worker;
  });
});

describe("the store", () => {
  it("keeps every original that is in a batch, and collects those of batches removed long ago", async () => {
    const [row] = await listRows(store.db, batchId);
    await thumb(store, row.photoId);
    await measure(store, row.assignmentId!);
    await freeSpace(store);
    expect(await store.files.has(row.sha256)).toBe(true);
    await store.db.transaction((tx) => removeBatch(tx, workspace, batchId));
    // These bytes are in the batches of the other tests too: put all of them away.
    await store.db.update(batches).set({ deletedAt: sql`now() - interval '3 days'` });
    await collectFiles(store, { young: "0 seconds", pauseMs: 0 });
    expect(await store.files.has(row.sha256)).toBe(true);
    await store.db.update(batches).set({ deletedAt: sql`now() - interval '8 days'` });
    const { bytes } = await collectFiles(store, { young: "0 seconds", pauseMs: 0 });
    expect(bytes).toBeGreaterThan(0);
    expect(await store.files.has(row.sha256)).toBe(false);
    expect((await store.db.select().from(files).where(eq(files.sha256, row.sha256)))[0]).toMatchObject({
      gone: true,
    });
    expect(await checkStore(store, 0)).toMatchObject({ missing: [], strays: [] });

    // Brought in again, it is there again, with its small picture to be made.
    const again = await createBatch(store.db, { workspaceId: workspace, name: "again", revisionId: null });
    await bringIn(store, workspace, again, "one.jpg", await jpegPhoto(120, 90, 50));
    expect(await store.files.has(row.sha256)).toBe(true);
    const [photo] = await store.db.select().from(photos).where(eq(photos.sha256, row.sha256));
    expect(photo.thumbSha256).toBeNull();
    expect(await jobs("thumb")).toContain(photo.id);
  });

  it("gives up the files of a run and keeps its record", async () => {
    const runId = await begin();
    for (const { id } of await items(runId)) await make(store, id);
    const before = await usage(store);
    expect(before.runs).toBeGreaterThan(0);
    await giveUpFiles(store.db, runId);
    expect(await outputsOf(store.db, workspace, { runId })).toEqual([]);
    // What the Desk has ready may be the same bytes: they go when that is forgotten.
    await store.db.update(assignments).set({ measured: null });
    await store.db.update(runs).set({ filesDeletedAt: sql`now()` });
    await freeSpace(store);
    await collectFiles(store, { young: "0 seconds", pauseMs: 0 });
    const after = (await latestRun(store.db, batchId))!;
    expect(after.items.map((item) => [item.state, item.gone, item.ok])).toEqual(
      Array.from({ length: 3 }, () => ["done", true, true]),
    );
    // Another run makes them again.
    const again = await begin();
    for (const { id } of await items(again)) await make(store, id);
    expect(await outputsOf(store.db, workspace, { runId: again })).toHaveLength(3);
  });

  it("finds rows without bytes and bytes without rows", async () => {
    const [row] = await listRows(store.db, batchId);
    const path = store.files.path(row.sha256);
    const bytes = await readFile(path);
    await writeFile(path, bytes.subarray(0, 100));
    const stray = await store.files.receive([Buffer.from("left behind by a stop in the middle")], Infinity);
    await store.files.place(stray);
    const check = await checkStore(store, 0);
    expect(check.missing).toEqual([{ sha256: row.sha256, bytes: bytes.length, found: 100 }]);
    expect(check.strays.map((one) => one.sha256)).toEqual([stray.sha256]);
    await writeFile(path, bytes);
    expect(await removeStrays(store, check)).toBe(1);
    expect(await checkStore(store, 0)).toMatchObject({ missing: [], strays: [] });
  });
});
