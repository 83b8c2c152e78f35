/**
 * No original is ever lost, and no row is ever without its bytes, whatever happens at the same time and wherever
 * a process ends: a model of bringing in, removing, bringing back, making and collecting on the real database
 * and disk, with processes that end at any of their steps.
 */
import { createHash } from "node:crypto";
import { readFile } from "node:fs/promises";
import { setTimeout } from "node:timers/promises";
import { eq, isNull, sql } from "drizzle-orm";
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { readSource } from "@/imaging/source";
import { addJob, batches, batchPhotos, files, photos, type Store } from "@/store";
import { FileStore } from "@/store/file-store";
import {
  addPhoto,
  checkStore,
  createBatch,
  FileGoneError,
  getBatch,
  keepBytes,
  keepFile,
  localWorkspace,
  releaseFile,
  removeBatch,
  removeStrays,
  restoreBatch,
} from "@/store/queries";
import { collectFiles } from "@/store/queries/storage";
import { jpegPhoto } from "../support/photos";
import { freshStore } from "../support/store";

let store: Store;
let close: () => Promise<void>;
let workspace: string;
let originals: Buffer[];

beforeAll(async () => {
  ({ store, close } = await freshStore());
  workspace = await localWorkspace(store.db);
  originals = await Promise.all([1, 2, 3].map((seed) => jpegPhoto(40 + seed, 30, 700 + seed)));
});
afterAll(() => close());

class Ended extends Error {}

/** The store of a process that ends at its n-th step on the disk: nothing that it would do after that happens. */
function endingAt(step: number): Store {
  let left = step;
  const disk = new FileStore(store.files.root);
  const counted = new Proxy(disk, {
    get(target, name, receiver) {
      const value = Reflect.get(target, name, receiver) as unknown;
      if (typeof value !== "function" || name === "path") return value;
      return async (...args: unknown[]) => {
        left -= 1;
        if (left < 0) throw new Ended();
        const done: unknown = await Reflect.apply(value, target, args);
        if (left === 0) throw new Ended();
        return done;
      };
    },
  });
  return { ...store, files: counted };
}

async function bring(on: Store, batchId: string, bytes: Buffer): Promise<void> {
  const kept = await keepBytes(on, bytes);
  try {
    const { facts } = await readSource(bytes);
    await on.db.transaction(async (tx) => {
      const batch = await getBatch(tx, workspace, batchId);
      if (!batch) throw new Error("no batch");
      await addPhoto(tx, batch, { name: "a.jpg", sha256: kept.sha256, bytes: kept.bytes, facts });
    });
  } catch (error) {
    await releaseFile(on, kept);
    throw error;
  }
}

const collect = (on: Store) => collectFiles(on, { grace: "0 seconds", young: "0 seconds", pauseMs: 0 });
/** As a person frees space: what was stored just now, and is not referred to yet, stays. */
const freeOld = (on: Store) => collectFiles(on, { grace: "0 seconds", young: "1 minute", pauseMs: 0 });
/** What an end, a batch that is away or bytes that are gone bring about is no fault. */
const expected = (error: unknown) => {
  if (error instanceof Ended || error instanceof FileGoneError) return;
  if (error instanceof Error && error.message === "no batch") return;
  throw error;
};

async function everythingThere(): Promise<void> {
  const check = await checkStore(store, 0);
  expect(check.missing).toEqual([]);
  const needed = await store.db
    .select({ sha256: photos.sha256, gone: files.gone })
    .from(batchPhotos)
    .innerJoin(batches, eq(batches.id, batchPhotos.batchId))
    .innerJoin(photos, eq(photos.id, batchPhotos.photoId))
    .innerJoin(files, eq(files.sha256, photos.sha256))
    .where(isNull(batches.deletedAt));
  for (const { sha256, gone } of needed) {
    expect(gone, "an original of a batch that is there").toBe(false);
    const bytes = await readFile(store.files.path(sha256));
    expect(createHash("sha256").update(bytes).digest("hex")).toBe(sha256);
  }
}

const op = fc.record({
  kind: fc.constantFrom("bring", "bring", "remove", "restore", "collect", "strays"),
  photo: fc.nat(2),
  batch: fc.nat(1),
  /** Steps on the disk until the process ends; large ones are never reached. */
  ends: fc.oneof(
    { weight: 2, arbitrary: fc.constant(99) },
    { weight: 1, arbitrary: fc.integer({ min: 1, max: 5 }) },
  ),
});

describe("what is kept", () => {
  it("is never lost: groups of steps at the same time, ended anywhere", async () => {
    const names = await Promise.all(
      ["one", "two"].map((name) => createBatch(store.db, { workspaceId: workspace, name, revisionId: null })),
    );
    const run = async ({ kind, photo, batch, ends }: typeof op extends fc.Arbitrary<infer T> ? T : never) => {
      const on = endingAt(ends);
      const id = names[batch];
      if (kind === "bring") await bring(on, id, originals[photo]);
      else if (kind === "remove") await on.db.transaction((tx) => removeBatch(tx, workspace, id));
      else if (kind === "restore") await on.db.transaction((tx) => restoreBatch(tx, workspace, id));
      else if (kind === "collect") await collect(on);
      else await removeStrays(on, await checkStore(on, 0));
    };
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.array(op, { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 8 }),
        async (groups) => {
          for (const group of groups) await Promise.all(group.map((one) => run(one).catch(expected)));
          await everythingThere();
        },
      ),
      { numRuns: 120 },
    );
    // What ends have left behind is found, and goes; only what was written at this very moment is left.
    await setTimeout(20);
    const check = await checkStore(store, 0);
    await removeStrays(store, check);
    expect((await checkStore(store, 0)).strays).toEqual([]);
    await everythingThere();
  }, 120_000);

  it("stays when another upload of the same bytes fails, sixty times", async () => {
    const there = await createBatch(store.db, { workspaceId: workspace, name: "there", revisionId: null });
    for (let n = 0; n < 60; n += 1) {
      const away = await createBatch(store.db, { workspaceId: workspace, name: "away", revisionId: null });
      const bytes = await jpegPhoto(32, 24, 9000 + n);
      const [first] = await Promise.all([
        bring(store, there, bytes),
        bring(store, away, bytes).catch(expected),
        store.db.transaction((tx) => removeBatch(tx, workspace, away)),
        freeOld(store),
      ]);
      expect(first).toBeUndefined();
    }
    await everythingThere();
  }, 60_000);

  it("stays when it is brought in again while removed photos are freed", async () => {
    const [old, again] = await Promise.all(
      ["old", "again"].map((name) =>
        createBatch(store.db, { workspaceId: workspace, name, revisionId: null }),
      ),
    );
    const all = await Promise.all(Array.from({ length: 40 }, (_, n) => jpegPhoto(33, 25, 5000 + n)));
    for (const bytes of all) await bring(store, old, bytes);
    await store.db.transaction((tx) => removeBatch(tx, workspace, old));
    // They were stored long ago; what is brought in again is young, and stays until it is referred to however
    // long this process is held up in between.
    await store.db.execute(sql`update files set touched_at = touched_at - interval '1 hour'`);
    const freeing = (async () => {
      for (let n = 0; n < 6; n += 1) await freeOld(store);
    })();
    for (const bytes of all) await bring(store, again, bytes);
    await freeing;
    await everythingThere();
  }, 60_000);

  it("comes back with a removed batch, or is refused in words once it is freed", async () => {
    const id = await createBatch(store.db, { workspaceId: workspace, name: "back", revisionId: null });
    const bytes = await jpegPhoto(34, 26, 4000);
    await bring(store, id, bytes);
    await store.db.transaction((tx) => removeBatch(tx, workspace, id));
    expect(await store.db.transaction((tx) => restoreBatch(tx, workspace, id))).toBe(true);
    await collect(store);
    await everythingThere();
    await store.db.transaction((tx) => removeBatch(tx, workspace, id));
    await collect(store);
    await expect(store.db.transaction((tx) => restoreBatch(tx, workspace, id))).rejects.toThrow(
      /given up to free space/,
    );
    await everythingThere();
  });

  it("leaves nothing behind that cannot be found, where a collector ends between two files", async () => {
    const id = await createBatch(store.db, { workspaceId: workspace, name: "two", revisionId: null });
    for (const seed of [4100, 4101]) await bring(store, id, await jpegPhoto(35, 27, seed));
    await store.db.transaction((tx) => removeBatch(tx, workspace, id));
    // What each lies as, then the first is taken away.
    await expect(collect(endingAt(3))).rejects.toThrow(Ended);
    await setTimeout(20);
    const left = await checkStore(store, 0);
    expect(left.strays).toHaveLength(1);
    expect(await removeStrays(store, left)).toBe(1);
    const after = await checkStore(store, 0);
    expect([after.strays, after.missing]).toEqual([[], []]);
    await everythingThere();
  });

  it("does not hold up uploads while it is collected, and is not collected while it is young", async () => {
    const kept = await keepFile(store, [Buffer.from("young")]);
    await collectFiles(store, { grace: "0 seconds", young: "1 minute", pauseMs: 0 });
    expect(await store.files.has(kept.sha256)).toBe(true);
    // A collector that stands still in its second look.
    const client = await store.pool.connect();
    try {
      await client.query("begin");
      await client.query("select sha256 from files order by sha256 for update");
      const start = performance.now();
      const other = await keepFile(store, [Buffer.from("another")]);
      expect(performance.now() - start).toBeLessThan(1000);
      await client.query("rollback");
      await releaseFile(store, other);
      expect(await store.files.has(other.sha256)).toBe(false);
      expect(
        (await store.db.execute(sql`select 1 from files where sha256 = ${other.sha256}`)).rows,
      ).toHaveLength(0);
    } finally {
      client.release();
    }
  });
});

describe("photos of very many pixels", () => {
  it("are worked on one at a time, so that others have room beside them", async () => {
    const id = await createBatch(store.db, { workspaceId: workspace, name: "lanes", revisionId: null });
    const bytes = await jpegPhoto(36, 28, 3000);
    const kept = await keepBytes(store, bytes);
    const { facts } = await readSource(bytes);
    const batch = (await getBatch(store.db, workspace, id))!;
    const { photoId } = await addPhoto(store.db, batch, {
      name: "panorama.jpg",
      sha256: kept.sha256,
      bytes: kept.bytes,
      facts: { ...facts, width: 40_000, height: 10_000 },
    });
    const lane = async () =>
      (
        await store.db.execute<{ queue: string | null }>(
          sql`select q.queue_name as queue from graphile_worker._private_jobs j left join graphile_worker._private_job_queues q on q.id = j.job_queue_id where j.key = ${`thumb:${photoId}`}`,
        )
      ).rows[0].queue;
    await addJob(store.db, "thumb", photoId, 5);
    expect(await lane()).toBe("heavy");
    await store.db.update(photos).set({ facts }).where(eq(photos.id, photoId));
    await addJob(store.db, "thumb", photoId, 5);
    expect(await lane()).toBeNull();
  });

  it("misses nothing that is stored after the disk was listed", async () => {
    let stored = 0;
    const later = (columns: Parameters<typeof store.db.select>[0]) => ({
      from: async (table: typeof files) => {
        if (!stored) await keepBytes(store, Buffer.from("stored in between"));
        stored += 1;
        return store.db.select(columns as never).from(table);
      },
    });
    const db = new Proxy(store.db, { get: (of, key) => (key === "select" ? later : Reflect.get(of, key)) });
    expect((await checkStore({ ...store, db } as Store, 0)).missing).toEqual([]);
    expect(stored).toBe(1);
  });
});
