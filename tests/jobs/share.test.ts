/** Limits on the whole through the real tasks, in the order in which the queue would hand them out, on real pictures. */
import { unlink } from "node:fs/promises";
import { and, eq, isNotNull, isNull, sql } from "drizzle-orm";
import { extract } from "letterparser";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type Brief, parseBrief } from "@/core/brief";
import { make } from "@/jobs/make";
import { measure } from "@/jobs/measure";
import { share } from "@/jobs/share";
import type { Store } from "@/store";
import { assignments, batchPhotos, runItems } from "@/store";
import {
  addLostJobs,
  createBatch,
  createBrief,
  getBatch,
  listRows,
  makeEdit,
  sharesOf,
  startRun,
} from "@/store/queries";
import type { BatchView } from "@/ui/api";
import { jpegPhoto } from "../support/photos";
import { type Routes, startRoutes } from "../support/routes";
import { bringIn } from "../support/store";

let routes: Routes;
let store: Store;
const photos: Buffer[] = [];

beforeAll(async () => {
  routes = await startRoutes();
  store = routes.store;
  for (let i = 0; i < 9; i += 1) photos.push(await jpegPhoto(i % 2 ? 700 : 840, 640, 200 + i, 90));
}, 60_000);
afterAll(() => routes.close());

/** Takes jobs until none is left, or enough is done; a job is done twice now and then, as after a crash. */
async function work(enough: () => Promise<boolean> = async () => false): Promise<number> {
  let done = 0;
  for (;;) {
    if (await enough()) return done;
    const { rows } = await store.db.execute<{ id: string; task: string; of: string }>(sql`
      select j.id, t.identifier as task, j.payload->>'id' as of from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id
      where t.identifier in ('measure', 'share', 'make') order by j.priority, j.id limit 1`);
    if (!rows.length) return done;
    const [{ id, task, of }] = rows;
    await store.db.execute(sql`delete from graphile_worker._private_jobs where id = ${id}`);
    const job = { measure, share, make }[task as "measure" | "share" | "make"];
    await job(store, of);
    if (done % 7 === 3) await job(store, of);
    done += 1;
    expect(done).toBeLessThan(400);
  }
}

async function newBatch(brief: Partial<Brief>, count = photos.length): Promise<string> {
  const revision = await createBrief(
    store.db,
    routes.workspaceId,
    parseBrief({ zumbrelBrief: 1, name: "whole", ...brief }),
  );
  const id = await createBatch(store.db, {
    workspaceId: routes.workspaceId,
    name: "Report",
    revisionId: revision.id,
  });
  for (const [i, bytes] of photos.slice(0, count).entries())
    await bringIn(store, routes.workspaceId, id, `IMG_${i + 1}.JPG`, bytes);
  return id;
}

const batch = async (id: string) => (await getBatch(store.db, routes.workspaceId, id))!;
const stateOf = async (id: string) => [...(await sharesOf(store.db, id)).values()][0];
const view = async (id: string) => (await routes.call("GET", "batches/[id]", { id })).body as BatchView;
const sum = (list: readonly number[]) => list.reduce((all, one) => all + one, 0);

describe("a limit that waits for the files of a few photos", () => {
  it("queues no photo before it is settled what that is to become, and then those in sight first", async () => {
    const id = await newBatch({ longSide: { exact: 300 }, total: { max: "20MB" } }, 3);
    const rows = await listRows(store.db, id);
    const queued = async () => {
      const ids = JSON.stringify(rows.map((row) => row.assignmentId));
      const found = await store.db.execute<{ priority: number }>(sql`
        select priority from graphile_worker._private_jobs where key like 'measure:%' and payload->>'id' in (select jsonb_array_elements_text(${ids}::jsonb))`);
      return found.rows.map(({ priority }) => priority).sort((a, b) => a - b);
    };
    const look = () => routes.call("POST", "batches/[id]/sight", { id }, { ids: [rows[2].id] });
    expect((await look()).status).toBe(200);
    expect(await queued()).toEqual([]);
    await work(async () => (await queued()).length > 0);
    expect(await queued()).toHaveLength(3);
    await look();
    const [first, ...others] = await queued();
    expect(others.every((priority) => priority > first)).toBe(true);
    await work();
    expect((await listRows(store.db, id)).every((row) => row.measured?.outputSha256)).toBe(true);
  });

  it("is not taken for lost, and is when their jobs were", async () => {
    const id = await newBatch({ longSide: { exact: 300 }, total: { max: "20MB" } });
    for (const n of [0, 1, 2]) {
      const another = Buffer.concat([photos[n], Buffer.from(`another ${n}`)]);
      await bringIn(store, routes.workspaceId, id, `again-${n}.jpg`, another);
    }
    const asked = async () => {
      const found = await store.db
        .select({ id: assignments.id })
        .from(assignments)
        .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
        .where(and(eq(batchPhotos.batchId, id), isNotNull(assignments.share), isNull(assignments.measured)));
      return found.map((row) => row.id);
    };
    await work(async () => (await asked()).length === 6);
    const few = await asked();
    expect(few).toHaveLength(6);
    expect(await stateOf(id)).toMatchObject({ state: "settling", waiting: 6 });
    await addLostJobs(store.db);
    const { rows } = await store.db.execute(
      sql`select 1 from graphile_worker._private_jobs where key = ${`share:${id}`}`,
    );
    expect(rows).toEqual([]);
    await store.db.execute(sql`delete from graphile_worker._private_jobs where key = ${`measure:${few[0]}`}`);
    expect(await addLostJobs(store.db)).toBe(1);
    await work();
    expect(await stateOf(id)).toMatchObject({ state: "own", photos: 12 });
    // Those that foretold the others are theirs: nothing was made twice, and nothing tried.
    const made = await listRows(store.db, id);
    expect(made.every((row) => row.measured?.outputSha256)).toBe(true);
    const tried = await store.db
      .select({ traced: assignments.traced })
      .from(assignments)
      .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
      .where(eq(batchPhotos.batchId, id));
    expect(tried.flatMap(({ traced }) => traced?.all?.points ?? [])).toEqual([]);
  });

  it("is shared out from their files where it binds", async () => {
    const id = await newBatch({ longSide: { exact: 300 }, total: { max: "150KB" } });
    for (const n of [0, 1, 2]) {
      const another = Buffer.concat([photos[n], Buffer.from(`bound ${n}`)]);
      await bringIn(store, routes.workspaceId, id, `again-${n}.jpg`, another);
    }
    await work();
    expect(await stateOf(id)).toMatchObject({ state: "shared", photos: 12, waiting: 0 });
    const rows = await listRows(store.db, id);
    expect(rows.every((row) => row.measured?.told.join().includes("as coarse as all 12 photos are"))).toBe(
      true,
    );
    expect(sum(rows.map((row) => row.measured!.bytes!))).toBeLessThanOrEqual(150_000);
  });
});

describe("a limit on a message", () => {
  it("is used to 96 to 100 %, every photo ends alike, names stay, and the message holds them byte for byte", async () => {
    const id = await newBatch({ longSide: { exact: 560 }, total: { max: "330KB", counted: "mail" } });
    await work();
    const state = await stateOf(id);
    expect(state).toMatchObject({ state: "shared", photos: 9, waiting: 0 });
    const rows = await listRows(store.db, id);
    const seen = rows.map((row) => row.measured!.difference!);
    expect(Math.max(...seen)).toBeLessThanOrEqual(2);
    // A step of the encoder's quality is up to 15 % of the difference.
    expect(Math.max(...seen) / Math.min(...seen)).toBeLessThan(1.25);
    expect(rows.flatMap((row) => row.measured!.told).join()).toContain("as coarse as all 9 photos are");

    const runId = (await startRun(store.db, await batch(id)))!;
    await work();
    const answer = await routes.raw("GET", "runs/[id]/mail", { id: runId });
    const eml = Buffer.from(await answer.arrayBuffer());
    expect(answer.headers.get("content-length")).toBe(String(eml.length));
    expect(eml.length).toBeLessThanOrEqual(330_000);
    expect(eml.length).toBeGreaterThan(330_000 * 0.95);
    const message = extract(eml.toString("latin1"));
    expect(message.attachments!.map((one) => one.filename)).toEqual(photos.map((_, i) => `IMG_${i + 1}.JPG`));
    const items = await store.db
      .select()
      .from(runItems)
      .where(eq(runItems.runId, runId))
      .orderBy(runItems.position);
    for (const [i, one] of message.attachments!.entries())
      expect(Buffer.from(one.body as Uint8Array).equals(await store.files.read(items[i].outputSha256!))).toBe(
        true,
      );
    const zipped = Buffer.from(
      await (await routes.raw("GET", "runs/[id]/mail", { id: runId }, undefined, "?as=zip")).arrayBuffer(),
    );
    expect(zipped.length).toBeLessThanOrEqual(330_000);
    expect((await routes.call("GET", "runs/[id]", { id: runId })).body).toMatchObject({
      total: { clause: "total", ok: true },
      messages: [{ files: 9 }],
    });
  }, 120_000);

  it("is shared out anew when photos go and come back, with what was tried", async () => {
    const id = await newBatch({ longSide: { exact: 480 }, total: { max: "150KB" } }, 6);
    await work();
    const before = await listRows(store.db, id);
    const level = (await stateOf(id)).level!;
    await makeEdit(store.db, await batch(id), "leaving out two", {
      kind: "remove",
      batchPhotoIds: before.slice(0, 2).map((row) => row.id),
    });
    await work();
    expect((await stateOf(id)).photos).toBe(4);
    expect((await stateOf(id)).level ?? 0).toBeLessThan(level);
    await routes.step(id);
    const jobs = await work();
    const after = await listRows(store.db, id);
    expect(after.map((row) => row.measured!.bytes)).toEqual(before.map((row) => row.measured!.bytes));
    expect(jobs).toBeLessThan(30);
    expect(sum(after.map((row) => row.measured!.bytes!))).toBeLessThanOrEqual(150_000);
  }, 120_000);
});

describe("a limit that leaves room", () => {
  it("changes nothing of files that obey already, and makes no trial", async () => {
    const id = await newBatch({ total: { max: "40MB" } }, 3);
    await work();
    expect(await stateOf(id)).toMatchObject({ state: "own", level: null });
    const rows = await listRows(store.db, id);
    expect(rows.map((row) => row.measured!.passedThrough)).toEqual([true, true, true]);
    const traced = await store.db
      .select({ traced: assignments.traced })
      .from(assignments)
      .where(eq(assignments.id, rows[0].assignmentId!));
    expect(traced[0].traced!.all.points).toEqual([]);
  }, 60_000);

  it("makes files without visible loss where that fits", async () => {
    const id = await newBatch({ longSide: { exact: 400 }, total: { max: "2MB" } }, 3);
    await work();
    expect((await stateOf(id)).state).toBe("own");
    for (const row of await listRows(store.db, id)) expect(row.measured!.difference).toBeLessThanOrEqual(0.9);
  }, 60_000);
});

describe("a limit that cannot be met", () => {
  it("says by how much, starts no run, and every offer leads out", async () => {
    const id = await newBatch({ longSide: { exact: 400 }, total: { max: "45KB", counted: "mail" } }, 6);
    await work();
    const [total] = (await view(id)).totals;
    expect(total).toMatchObject({ state: "cannot", photos: 6 });
    expect(total.why).toMatch(
      /^Cannot: together the photos take [0-9.]+ kB as one message .* more than the limit of 45\.0 kB\.$/,
    );
    expect(total.offers.map((offer) => offer.kind)).toEqual(["pixels", "messages", "photos", "limit"]);
    expect((await view(id)).rows.map((row) => row.verdict!.state)).toEqual(
      Array.from({ length: 6 }, () => "cannot"),
    );
    expect((await routes.call("POST", "batches/[id]/runs", { id }, {})).status).toBe(409);

    const [pixels, messages, without, limit] = total.offers;
    const settled = async () => {
      await work();
      return (await view(id)).totals[0].state;
    };
    const undo = async () => {
      await routes.step(id);
      expect(await settled()).toBe("cannot");
    };
    if (messages.kind === "messages")
      expect(
        (await routes.call("PUT", "batches/[id]/messages", { id }, { messages: messages.count })).status,
      ).toBe(200);
    expect(await settled()).toBe("shared");
    const runId = (await startRun(store.db, await batch(id)))!;
    await work();
    const detail = (await routes.call("GET", "runs/[id]", { id: runId })).body as {
      messages: { files: number; bytes: number }[];
      total: { ok: boolean };
    };
    expect(detail.messages.length).toBeLessThanOrEqual(messages.kind === "messages" ? messages.count : 0);
    expect(sum(detail.messages.map((message) => message.files))).toBe(6);
    expect(detail.total.ok).toBe(true);
    for (let n = 1; n <= detail.messages.length; n += 1) {
      const eml = Buffer.from(
        await (await routes.raw("GET", "runs/[id]/mail", { id: runId }, undefined, `?n=${n}`)).arrayBuffer(),
      );
      expect(eml.length).toBeLessThanOrEqual(45_000);
      expect(extract(eml.toString("latin1")).subject).toBe(`Report (${n} of ${detail.messages.length})`);
    }
    await undo();

    if (without.kind === "photos")
      await makeEdit(store.db, await batch(id), "leaving out", {
        kind: "remove",
        batchPhotoIds: without.ids,
      });
    expect(await settled()).toBe("shared");
    await undo();

    const brief = (await view(id)).brief!.body;
    const change = async (body: Brief) =>
      expect(
        (
          await routes.call(
            "PUT",
            "batches/[id]/brief",
            { id },
            { brief: body, words: "offer", of: (await view(id)).brief!.revisionId },
          )
        ).status,
      ).toBe(200);
    if (limit.kind === "limit") await change({ ...brief, total: { ...brief.total!, max: limit.bytes } });
    expect(await settled()).toBe("shared");
    await undo();
    if (pixels.kind === "pixels") await change({ ...brief, longSide: { max: pixels.side } });
    expect(["shared", "own"]).toContain(await settled());
  }, 240_000);
});

describe("photos that cannot take part", () => {
  it("are rows with their reason; the others share the limit", async () => {
    const id = await newBatch({ longSide: { exact: 480 }, total: { max: "100KB" } }, 3);
    const lost = await jpegPhoto(500, 400, 333);
    await bringIn(store, routes.workspaceId, id, "lost.jpg", lost);
    await unlink(store.files.path((await listRows(store.db, id))[3].sha256));
    await work();
    const rows = (await view(id)).rows;
    expect(rows.map((row) => row.verdict!.state)).toEqual(["meets", "meets", "meets", "cannot"]);
    expect(await stateOf(id)).toMatchObject({ photos: 3 });
    expect(sum(rows.map((row) => row.bytes ?? 0))).toBeLessThanOrEqual(100_000);
  }, 60_000);

  it("follow a setting that a person has chosen, and the others make room for it", async () => {
    const id = await newBatch({ longSide: { exact: 480 }, total: { max: "120KB" } }, 4);
    await work();
    const [first] = await listRows(store.db, id);
    const choice = { format: "jpeg", quality: 95, chroma: "4:4:4", table: 0 } as const;
    await makeEdit(store.db, await batch(id), "finer", {
      kind: "choice",
      rows: [
        {
          batchPhotoId: first.id,
          revisionId: first.revisionId!,
          before: { frame: first.frame!, accepted: false },
          after: { frame: first.frame!, accepted: false, choice },
        },
      ],
    });
    await work();
    const rows = await listRows(store.db, id);
    const [chosen] = await store.db
      .select()
      .from(assignments)
      .where(and(eq(assignments.id, rows[0].assignmentId!), eq(assignments.current, true)));
    expect(chosen.measured!.setting).toMatchObject({ quality: 95, chroma: "4:4:4" });
    expect(sum(rows.map((row) => row.measured!.bytes ?? 0))).toBeLessThanOrEqual(120_000);
  }, 120_000);
});
