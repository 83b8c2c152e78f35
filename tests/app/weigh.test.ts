/** Weighing through the routes, on the real database; the worker's tasks are called as the queue would. */
import { readdir } from "node:fs/promises";
import { join } from "node:path";
import { eq, sql } from "drizzle-orm";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Choice } from "@/core/coding";
import { make } from "@/jobs/make";
import { measure } from "@/jobs/measure";
import { trial, weigh } from "@/jobs/weigh";
import type { Store } from "@/store";
import { runItems } from "@/store";
import { outputsOf } from "@/store/queries";
import { trials, weighings } from "@/store/schema";
import type { BatchView, ComparedView, TrialView, WeighView } from "@/ui/api";
import { jpegPhoto, pixels } from "../support/photos";
import { type Routes, startRoutes } from "../support/routes";

let routes: Routes;
let store: Store;
let id: string;
let row: BatchView["rows"][number];

const view = async () => (await routes.call("GET", "batches/[id]", { id })).body as BatchView;
const look = async (assignment = row.assignmentId!) =>
  (await routes.call("GET", "weigh/[id]", { id: assignment })).body as WeighView;
const jobs = async (task: string) =>
  (
    await store.db.execute(
      sql`select 1 from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id where t.identifier = ${task}`,
    )
  ).rows.length;
const measureAll = async () => {
  for (const one of (
    await store.db.execute<{ id: string }>(sql`select id from assignments where measured is null`)
  ).rows)
    await measure(store, one.id);
};

beforeAll(async () => {
  routes = await startRoutes();
  store = routes.store;
  id = await routes.newBatch("Weighed", {
    "a.jpg": await jpegPhoto(600, 480, 21, 96),
    "b.jpg": await jpegPhoto(500, 400, 22, 96),
  });
  const brief = {
    zumbrelBrief: 1,
    name: "b",
    format: ["jpeg"],
    longSide: { max: 400 },
    fileSize: { min: "4kB", max: "40kB" },
  };
  await routes.call("PUT", "batches/[id]/brief", { id }, { fresh: brief, words: "a brief" });
  await measureAll();
  row = (await view()).rows[0];
});
afterAll(() => routes.close());

describe("weighing a photo", () => {
  it("waits for the measurement, then makes a ladder of trials, the cheapest first, each with what is seen of it", async () => {
    const first = await look();
    expect(first).toMatchObject({
      ladder: null,
      trials: [],
      formats: ["jpeg"],
      range: { min: 4000, max: 40_000 },
      geometry: { width: 400, height: 320 },
      error: null,
    });
    expect(await jobs("weigh")).toBe(1);
    await weigh(store, row.assignmentId!);
    const done = await look();
    expect(done.made).toBe(done.ladder);
    expect(new Set(done.trials.map((t) => t.setting.format))).toEqual(
      new Set(["jpeg", "webp", "avif", "png"]),
    );
    for (const one of done.trials.filter((t) => t.setting.format !== "jpeg" || t.difference !== null))
      expect(Number.isFinite(one.difference), one.key).toBe(true);
    expect(done.trials.find((t) => t.setting.format === "png")).toMatchObject({ difference: 0, worst: null });
    expect(done.trials.map((t) => t.bytes)).toEqual(done.trials.map((t) => t.bytes).sort((a, b) => a - b));
    // The plan's own trial is among them, with the bytes of the whole file.
    expect(done.trials.find((t) => t.key === done.chosen)?.bytes).toBe(row.bytes);
    expect(done.packed).toBeNull();
  });

  it("makes one that is asked for, once, and only a setting", async () => {
    const choice: Choice = { format: "jpeg", quality: 77, chroma: "4:4:4", table: 0, effort: "quick" };
    const before = (await store.db.select().from(trials)).length;
    const asked = routes.call("POST", "weigh/[id]/trials", { id: row.assignmentId! }, { choice });
    await expect.poll(() => jobs("trial")).toBe(1);
    await trial(store, row.assignmentId!, choice);
    await trial(store, row.assignmentId!, choice);
    const { body, status } = await asked;
    const made = (body as { trial: TrialView }).trial;
    expect([status, made.kept]).toEqual([200, true]);
    expect((await store.db.select().from(trials)).length).toBe(before + 1);
    expect((await look()).trials.find((t) => t.key === made.key)).toMatchObject({
      kept: true,
      difference: expect.any(Number),
      ms: expect.any(Number),
      worst: expect.objectContaining({ x: expect.any(Number) }),
    });
    expect(
      (
        await routes.call(
          "POST",
          "weigh/[id]/trials",
          { id: row.assignmentId! },
          { choice: { aim: "clean" } },
        )
      ).status,
    ).toBe(400);
    expect(
      (
        await routes.call(
          "POST",
          "weigh/[id]/trials",
          { id: row.assignmentId! },
          { choice: { format: "jpeg", quality: 300 } },
        )
      ).status,
    ).toBe(400);
  });

  it("makes one of other pixels, judged at the same size as the planned ones, and takes it with its pixels", async () => {
    const asked: Choice = {
      format: "jpeg",
      quality: 80,
      chroma: "4:2:0",
      table: 0,
      effort: "quick",
      side: 300,
    };
    const before = await look();
    expect(before.sizes.map(({ width, side, all }) => [width, side, all])).toEqual([
      [400, null, true],
      [300, 300, false],
      [200, 200, false],
    ]);
    const coming = routes.call("POST", "weigh/[id]/trials", { id: row.assignmentId! }, { choice: asked });
    await expect.poll(() => jobs("trial")).toBeGreaterThan(0);
    await trial(store, row.assignmentId!, asked);
    const made = ((await coming).body as { trial: TrialView }).trial;
    expect(made).toMatchObject({ size: { side: 300, width: 300, height: 240 }, kept: true });
    const [seen, own] = [made.key, made.key.replace(" @300", "")].map((key) => ({ key }));
    const after = await look();
    expect(after.trials.find(({ key }) => key === seen.key)?.difference).toBeGreaterThan(1);
    expect(after.trials.find(({ key }) => key === own.key)).toBeUndefined();
    const square = await routes.raw(
      "GET",
      "weigh/[id]/pixels",
      { id: row.assignmentId! },
      undefined,
      `?${new URLSearchParams({ of: seen.key, level: "0", x: "0", y: "0" })}`,
    );
    expect([square.status, square.headers.get("x-width")]).toEqual([200, "300"]);

    await routes.call("PUT", "batches/[id]/choice", { id }, { choice: asked, rows: [row.id] });
    await measureAll();
    const taken = (await view()).rows[0];
    expect(taken.geometry).toMatchObject({ width: 300, height: 240 });
    expect(taken.bytes).toBe(made.bytes);
    await routes.step(id);
    expect((await view()).rows[0].geometry).toMatchObject({ width: 400, height: 320 });
  });

  it("shows a trial as it was decoded when it was made: the same samples, handed over once", async () => {
    const choice: Choice = { format: "jpeg", quality: 71, chroma: "4:2:0", table: 9, effort: "careful" };
    const handed = async () =>
      (await readdir(join(store.dataDir, "planned"))).filter((name) => name.startsWith("shown-"));
    const before = await handed();
    await trial(store, row.assignmentId!, choice);
    expect(await handed()).toHaveLength(before.length + 1);
    const made = (await look()).trials.find(
      ({ setting }) => setting.format === "jpeg" && setting.quality === 71,
    )!;
    const query = `?${new URLSearchParams({ of: made.key, level: "0", x: "0", y: "0" })}`;
    const square = await routes.raw("GET", "weigh/[id]/pixels", { id: row.assignmentId! }, undefined, query);
    expect(await handed()).toHaveLength(before.length);
    const kept = (await store.db.select().from(trials)).find(
      ({ setting }) => setting.format === "jpeg" && setting.quality === 71,
    )!;
    const library = await sharp(await store.files.read(kept.sha256!))
      .ensureAlpha()
      .raw()
      .toBuffer();
    expect(Buffer.compare(Buffer.from(await square.arrayBuffer()), library)).toBe(0);
  });

  it("hands out squares of each picture at each scale", async () => {
    const square = async (of: string, level = 0, x = 0, y = 0) =>
      routes.raw(
        "GET",
        "weigh/[id]/pixels",
        { id: row.assignmentId! },
        undefined,
        `?${new URLSearchParams({ of, level: String(level), x: String(x), y: String(y) })}`,
      );
    const png = (await look()).trials.find((t) => t.setting.format === "png")!;
    const [reference, lossless, original] = await Promise.all([
      square("reference"),
      square(png.key),
      square("original"),
    ]);
    expect([reference.headers.get("x-width"), reference.headers.get("x-height")]).toEqual(["400", "320"]);
    const bytes = Buffer.from(await reference.arrayBuffer());
    expect(bytes.length).toBe(400 * 320 * 4);
    expect(Buffer.compare(bytes, Buffer.from(await lossless.arrayBuffer()))).toBe(0);
    expect([original.headers.get("x-width"), original.headers.get("x-height")]).toEqual(["512", "480"]);
    // The photo's own pixels come unchanged.
    const own = await sharp(await jpegPhoto(600, 480, 21, 96))
      .raw()
      .toBuffer();
    const shown = Buffer.from(await original.arrayBuffer());
    for (const [u, v] of [
      [0, 0],
      [511, 3],
      [200, 479],
    ])
      expect([...shown.subarray((v * 512 + u) * 4, (v * 512 + u) * 4 + 3)]).toEqual([
        ...own.subarray((v * 600 + u) * 3, (v * 600 + u) * 3 + 3),
      ]);
    const half = await square("reference", 1);
    expect([half.headers.get("x-width"), half.headers.get("x-height")]).toEqual(["200", "160"]);
    expect([
      (await square("reference", 0, 9, 9)).status,
      (await square("nothing like it")).status,
      (await square("reference", 99)).status,
    ]).toEqual([404, 404, 400]);
  });

  it("is given up when nobody looks: what waits is not begun, what runs is broken off, no row stays", async () => {
    const before = (await store.db.select().from(trials)).length;
    expect((await routes.raw("DELETE", "weigh/[id]", { id: row.assignmentId! })).status).toBe(200);
    await trial(store, row.assignmentId!, { format: "avif", quality: 33, bits: 8 });
    await weigh(store, row.assignmentId!);
    expect((await store.db.select().from(trials)).length).toBe(before);
    expect(await store.db.select().from(weighings)).toEqual([]);
  });

  it("refuses what is not there, by name", async () => {
    const nobody = "00000000-0000-4000-8000-000000000000";
    expect(await routes.call("GET", "weigh/[id]", { id: nobody })).toMatchObject({
      status: 404,
      body: { error: expect.stringContaining("no longer there") },
    });
  });
});

describe("taking a setting", () => {
  const choice: Choice = { format: "jpeg", quality: 70, chroma: "4:2:0", table: 0, effort: "quick" };

  it("for one photo measures it anew, and undo brings back what was measured", async () => {
    expect((await routes.call("PUT", "batches/[id]/choice", { id }, { choice, rows: [row.id] })).status).toBe(
      200,
    );
    const [taken, other] = (await view()).rows;
    expect([taken.choice, other.choice, taken.figure]).toEqual([choice, null, "about"]);
    await measureAll();
    const after = (await view()).rows[0];
    expect(after.steps.some((s) => s.do === "The setting of your choice")).toBe(true);
    expect((await view()).undo?.words).toBe("taking JPEG 4:2:0, 70 for a.jpg");
    await routes.step(id);
    expect((await view()).rows[0]).toMatchObject({ choice: null, figure: "measured", bytes: row.bytes });
  });

  it("for the whole batch is one edit; a later frame or brief keeps it", async () => {
    await routes.call("PUT", "batches/[id]/choice", { id }, { choice });
    expect((await view()).undo?.words).toBe("taking JPEG 4:2:0, 70 for 2 photos");
    expect((await view()).rows.map((r) => r.choice)).toEqual(
      Array(2).fill({ format: "jpeg", quality: 70, chroma: "4:2:0", table: 0 }),
    );
    const { brief } = await view();
    await routes.call(
      "PUT",
      "batches/[id]/brief",
      { id },
      { brief: { ...brief!.body, fileSize: { max: "60kB" } }, words: "another ceiling" },
    );
    expect((await view()).rows.every((r) => r.choice !== null)).toBe(true);
    for (let i = 0; i < 2; i += 1) await routes.step(id);
    expect((await view()).rows.map((r) => r.choice)).toEqual([null, null]);
    expect(
      (await routes.call("PUT", "batches/[id]/choice", { id }, { choice: { format: "jpeg" } })).status,
    ).toBe(400);
  });
});

describe("several settings for one batch", () => {
  it("are measured side by side, added up, and made into a folder each", async () => {
    const choices: Choice[] = [
      { format: "jpeg", quality: 60, chroma: "4:2:0", table: 0 },
      { format: "jpeg", quality: 85, chroma: "4:2:0", table: 0 },
      { aim: "clean" },
    ];
    await routes.call("PUT", "batches/[id]/comparison", { id }, { choices });
    const totals = async () =>
      ((await routes.call("GET", "batches/[id]/comparison", { id })).body as { totals: ComparedView[] })
        .totals;
    expect((await totals()).map((t) => [t.photos, t.done])).toEqual([
      [2, 0],
      [2, 0],
      [2, 0],
    ]);
    await measureAll();
    const done = await totals();
    expect(done.map((t) => t.done)).toEqual([2, 2, 2]);
    expect(done[0].bytes).toBeLessThan(done[1].bytes);
    // Clean where the ceiling leaves room, else as near to it as it allows.
    expect(done[2].worst!).toBeLessThan(done[1].worst!);
    expect(done[0].worst!).toBeGreaterThan(done[1].worst!);
    // What is in use did not change.
    expect((await view()).rows.map((r) => r.choice)).toEqual([null, null]);

    const { runId } = (await routes.call("POST", "batches/[id]/comparison/run", { id })).body as {
      runId: string;
    };
    for (const item of await store.db.select().from(runItems).where(eq(runItems.runId, runId)))
      await make(store, item.id);
    const outputs = await outputsOf(store.db, routes.workspaceId, { runId });
    expect(outputs.map((o) => o.name)).toEqual([
      "jpeg-420-60/a.jpg",
      "jpeg-420-60/b.jpg",
      "jpeg-420-85/a.jpg",
      "jpeg-420-85/b.jpg",
      "clean/a.jpg",
      "clean/b.jpg",
    ]);
    expect(outputs.slice(0, 2).reduce((sum, o) => sum + o.bytes, 0)).toBe(done[0].bytes);
    expect((await view()).run).toMatchObject({ total: 6, done: 6, folders: true });
    await routes.call("PUT", "batches/[id]/comparison", { id }, { choices: [] });
    expect(await totals()).toEqual([]);
    expect((await routes.call("POST", "batches/[id]/comparison/run", { id })).status).toBe(409);
  });

  it("follows photos that come later, and takes at most five", async () => {
    const choices: Choice[] = [40, 50, 60, 70, 80].map((quality) => ({
      format: "jpeg",
      quality,
      chroma: "4:2:0",
      table: 0,
    }));
    expect(
      (
        await routes.call(
          "PUT",
          "batches/[id]/comparison",
          { id },
          { choices: [...choices, { aim: "clean" }] },
        )
      ).status,
    ).toBe(400);
    await routes.call("PUT", "batches/[id]/comparison", { id }, { choices: choices.slice(0, 1) });
    await routes.raw(
      "POST",
      "batches/[id]/photos",
      { id },
      await sharp(pixels(300, 200, 9), { raw: { width: 300, height: 200, channels: 3 } })
        .png()
        .toBuffer(),
      "?name=c.png",
    );
    expect(
      ((await routes.call("GET", "batches/[id]/comparison", { id })).body as { totals: ComparedView[] })
        .totals[0].photos,
    ).toBe(3);
  });
});
