/** Sets through the real tasks and routes: measured, made, taken away, kept. */
import { eq, sql } from "drizzle-orm";
import JSZip from "jszip";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { make } from "@/jobs/make";
import { measure } from "@/jobs/measure";
import type { Store } from "@/store";
import { assignments, files, runItems } from "@/store";
import { addLostJobs, listRows, pauseRun, resumeRun } from "@/store/queries";
import { collectFiles } from "@/store/queries/storage";
import type { BatchView } from "@/ui/api";
import { jpegPhoto, saying } from "../support/photos";
import { type Routes, startRoutes } from "../support/routes";

let routes: Routes;
let store: Store;
let id: string;

const brief = {
  zumbrelBrief: 1,
  name: "Page",
  set: { widths: [160, 320, 4000], formats: ["jpeg", "webp"] },
  names: "{n:2}-{name}",
};
const view = async () => (await routes.call("GET", "batches/[id]", { id })).body as BatchView;
const jobs = async () =>
  (
    await store.db.execute<{ id: string; task: string; of: string }>(sql`
      select j.id, t.identifier as task, j.payload->>'id' as of from graphile_worker._private_jobs j
      join graphile_worker._private_tasks t on t.id = j.task_id where t.identifier in ('measure', 'make') order by j.priority, j.id`)
  ).rows;

async function work(): Promise<number> {
  let done = 0;
  for (let [job] = await jobs(); job; [job] = await jobs()) {
    await store.db.execute(sql`delete from graphile_worker._private_jobs where id = ${job.id}`);
    await (job.task === "make" ? make : measure)(store, job.of);
    done += 1;
  }
  return done;
}

beforeAll(async () => {
  routes = await startRoutes();
  store = routes.store;
  id = await routes.newBatch("Moths", {
    "moor.jpg": await jpegPhoto(640, 480, 31),
    "bark.jpg": await saying(await jpegPhoto(480, 640, 32)),
  });
  expect(
    (await routes.call("PUT", "batches/[id]/brief", { id }, { fresh: brief, words: "a set" })).status,
  ).toBe(200);
}, 60_000);
afterAll(() => routes.close());

describe("a batch under a brief that asks a set", () => {
  it("shows one row a photo, with its files and about their bytes before any is made", async () => {
    const { rows } = await view();
    expect(
      rows.map(({ set }) => set!.map(({ width, height, format }) => `${width}×${height} ${format}`)),
    ).toEqual([
      ["320×240 jpeg", "320×240 webp", "160×120 jpeg", "160×120 webp"],
      ["320×427 jpeg", "320×427 webp", "160×213 jpeg", "160×213 webp"],
    ]);
    expect(rows[0]).toMatchObject({ figure: "about", outputName: "01-moor-320.jpg" });
    expect(rows[1].set!.map(({ name }) => name)).toEqual([
      "02-bark-320.jpg",
      "02-bark-320.webp",
      "02-bark-160.jpg",
      "02-bark-160.webp",
    ]);
  });

  it("is measured a photo at a time, every file proved", async () => {
    await work();
    const { rows } = await view();
    for (const row of rows) {
      expect(row).toMatchObject({ figure: "measured", verdict: { state: "meets" } });
      expect(row.bytes).toBe(row.set!.reduce((sum, { bytes }) => sum + bytes!, 0));
      expect(row.checks[0]).toMatchObject({ clause: "set", found: "4 files, 160, 320 px wide", ok: true });
      expect(row.notes.join()).toContain("4000 px was left out");
    }
    const stored = await listRows(store.db, id);
    for (const { part, outputSha256, facts } of stored.flatMap((row) => row.measured!.set!)) {
      const meta = await sharp(await store.files.read(outputSha256)).metadata();
      expect([meta.width, meta.format, facts.width]).toEqual([part.width, part.format, part.width]);
    }
  }, 120_000);

  it("keeps the files of a set as long as its row does", async () => {
    await store.db.update(files).set({ touchedAt: sql`now() - interval '2 days'` });
    await collectFiles(store, { pauseMs: 0 });
    for (const { outputSha256 } of (await listRows(store.db, id)).flatMap((row) => row.measured!.set!))
      expect(await store.files.has(outputSha256)).toBe(true);
  });

  it("takes what a photo shows in words, and refuses what is no row", async () => {
    const [row, bark] = (await view()).rows;
    // What the photo says itself, until somebody says otherwise, were it nothing.
    expect([row.alt, bark.alt]).toEqual(["", 'Bark with a moth, "at rest"']);
    await routes.call("PUT", "batches/[id]/alt", { id }, { rowId: bark.id, alt: "" });
    expect((await view()).rows[1].alt).toBe("");
    const alt = { rowId: row.id, alt: ' The "moor" at dusk ' };
    expect((await routes.raw("PUT", "batches/[id]/alt", { id }, alt)).status).toBe(200);
    expect((await view()).rows[0].alt).toBe('The "moor" at dusk');
    expect((await routes.raw("PUT", "batches/[id]/alt", { id }, { ...alt, rowId: id })).status).toBe(404);
    const long = await routes.call("PUT", "batches/[id]/alt", { id }, { ...alt, alt: "x".repeat(501) });
    expect(long.status).toBe(400);
  });

  it("has blurred stand-ins of under 400 bytes that any decoder reads", async () => {
    const uris = (await routes.call("GET", "batches/[id]/stand-ins", { id })).body as Record<string, string>;
    const { rows } = await view();
    expect(Object.keys(uris).sort()).toEqual(rows.map((row) => row.id).sort());
    for (const uri of Object.values(uris)) {
      expect(uri.length).toBeLessThan(400);
      const meta = await sharp(Buffer.from(uri.split(",")[1], "base64")).metadata();
      expect(Math.max(meta.width, meta.height)).toBeLessThanOrEqual(20);
    }
  });

  it("is made by one job a photo, through a pause, and taken away whole", async () => {
    const { body } = await routes.call("POST", "batches/[id]/runs", { id }, {});
    const { runId } = body as { runId: string };
    expect(await jobs()).toHaveLength(2);
    await pauseRun(store.db, runId, null);
    expect(await jobs()).toHaveLength(0);
    await resumeRun(store.db, runId);
    expect(await jobs()).toHaveLength(2);
    // A job that is lost comes back once a photo, not once a file.
    await store.db.execute(sql`delete from graphile_worker._private_jobs`);
    await addLostJobs(store.db);
    expect((await jobs()).filter(({ task }) => task === "make")).toHaveLength(2);
    await work();
    const items = await store.db
      .select()
      .from(runItems)
      .where(eq(runItems.runId, runId))
      .orderBy(runItems.position);
    expect(items.map(({ state, outputName }) => `${state} ${outputName}`)).toEqual([
      "done 01-moor-320.jpg",
      "done 01-moor-320.webp",
      "done 01-moor-160.jpg",
      "done 01-moor-160.webp",
      "done 02-bark-320.jpg",
      "done 02-bark-320.webp",
      "done 02-bark-160.jpg",
      "done 02-bark-160.webp",
    ]);
    const { rows, run } = await view();
    expect(run).toMatchObject({ finished: true, done: 8, total: 8 });
    expect(rows[0].made).toMatchObject({ state: "done", ok: true, bytes: rows[0].bytes });
    expect(rows[0].set!.map(({ itemId }) => itemId)).toEqual(items.slice(0, 4).map((item) => item.id));
    const zip = await routes.raw("GET", "runs/[id]/zip", { id: runId });
    expect(zip.status).toBe(200);
    const { files: packed } = await JSZip.loadAsync(await zip.arrayBuffer());
    expect(Object.keys(packed)).toHaveLength(9);
    // With its markup, whose files are those beside it.
    const page = await packed["pictures.html"].async("string");
    expect(page.match(/<img /g)).toHaveLength(2);
    const named = [...page.matchAll(/([\w-]+\.(?:jpg|webp)) \d+w/g)].map(([, name]) => name);
    expect(named.length).toBeGreaterThan(3);
    for (const name of named) expect(packed[name]).toBeDefined();
    // The photos of sets are there once each, under their own names.
    const originals = await routes.raw("GET", "runs/[id]/zip", { id: runId }, undefined, "?of=originals");
    expect(Object.keys((await JSZip.loadAsync(await originals.arrayBuffer())).files)).toEqual([
      "moor.jpg",
      "bark.jpg",
    ]);
  }, 120_000);

  it("is made anew where its files were lost, and says why where a photo cannot become one", async () => {
    const [first] = await listRows(store.db, id);
    await store.db.update(assignments).set({ measured: null }).where(eq(assignments.id, first.assignmentId!));
    const { body } = await routes.call("POST", "batches/[id]/runs", { id }, { anew: true });
    await work();
    const items = await store.db
      .select()
      .from(runItems)
      .where(eq(runItems.runId, (body as { runId: string }).runId));
    expect(items.every(({ state }) => state === "done")).toBe(true);
    expect(items).toHaveLength(8);
    // No file of 160 px can weigh so little.
    await routes.call(
      "PUT",
      "batches/[id]/brief",
      { id },
      {
        fresh: { ...brief, fileSize: { max: 300 } },
        words: "too little",
      },
    );
    await work();
    const { rows } = await view();
    expect(rows[0].verdict).toMatchObject({ state: "cannot" });
    expect(rows[0].verdict!.reason).toContain("320 px wide: Cannot");
  }, 120_000);

  it("is made although the brief limits the whole, which gives way", async () => {
    const both = { ...brief, set: { widths: [120], formats: ["jpeg"] }, total: { max: "1KB" } };
    await routes.call("PUT", "batches/[id]/brief", { id }, { fresh: both, words: "a set and a total" });
    await work();
    const { rows, totals } = await view();
    expect(totals).toEqual([]);
    expect(rows.map(({ verdict }) => verdict?.state)).toEqual(["meets", "meets"]);
    expect((await routes.call("POST", "batches/[id]/runs", { id }, {})).status).toBe(200);
    await work();
    expect((await view()).run).toMatchObject({ finished: true, done: 2 });
  }, 120_000);
});
