/** Route handlers on the real database and file store; the worker's tasks are called as the queue would. */
import { eq } from "drizzle-orm";
import jpegJs from "jpeg-js";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { fromBuffer } from "yauzl";
import { make } from "@/jobs/make";
import { measure } from "@/jobs/measure";
import { thumb } from "@/jobs/thumb";
import type { Store } from "@/store";
import { runItems, runs } from "@/store";
import { createBrief } from "@/store/queries";
import { workspaces } from "@/store/schema";
import type { BatchView, DeskView } from "@/ui/api";
import { jpegPhoto } from "../support/photos";
import { type Routes, startRoutes } from "../support/routes";

let routes: Routes;
let store: Store;
let call: Routes["raw"];

beforeAll(async () => {
  routes = await startRoutes();
  store = routes.store;
  call = routes.raw;
  await createBrief(
    store.db,
    routes.workspaceId,
    {
      zumbrelBrief: 1,
      name: "Form",
      format: ["jpeg"],
      width: { exact: 120 },
      height: { exact: 150 },
      fileSize: { min: "6KB", max: "20KB" },
      names: "{name}-x",
    },
    { shipped: true },
  );
});
afterAll(() => routes.close());

const json = async <T>(response: Promise<Response>): Promise<T> => (await response).json() as Promise<T>;
const view = (id: string) => json<BatchView>(call("GET", "batches/[id]", { id }));

async function newBatch(name: string, photos: Record<string, Buffer>): Promise<string> {
  const { id } = await json<{ id: string }>(call("POST", "batches", {}, { name }));
  expect((await view(id)).brief).toBeNull();
  const form = (await json<DeskView>(call("GET", "desk"))).briefs.find((b) => b.name === "Form")!;
  expect((await call("PUT", "batches/[id]/brief", { id }, { revisionId: form.revisionId })).status).toBe(200);
  for (const [file, bytes] of Object.entries(photos))
    expect(
      (await call("POST", "batches/[id]/photos", { id }, bytes, `?name=${encodeURIComponent(file)}`)).status,
    ).toBe(200);
  return id;
}

describe("the way of a photo through the routes", () => {
  it("from upload by estimate and measurement to a proved download", async () => {
    const photo = await jpegPhoto(400, 500, 71);
    const id = await newBatch("Way", { "../secret/Moth A.jpg": photo });
    const desk = await json<DeskView>(call("GET", "desk"));
    expect(desk.batches.find((b) => b.id === id)).toMatchObject({
      name: "Way",
      photos: 1,
      bytes: photo.length,
    });
    expect(desk.demoComing).toBe(false);

    const [estimated] = (await view(id)).rows;
    expect(estimated).toMatchObject({
      name: "Moth A.jpg",
      figure: "about",
      verdict: null,
      outputName: "Moth A-x.jpg",
      thumb: false,
      geometry: { width: 120, height: 150 },
    });
    expect(estimated.bytes).toBeGreaterThan(6_000);
    expect(estimated.bytes).toBeLessThanOrEqual(20_000);
    expect(estimated.steps.some((s) => s.why.startsWith("about"))).toBe(true);
    expect((await call("GET", "assignments/[id]/output", { id: estimated.assignmentId! })).status).toBe(404);
    expect((await call("GET", "photos/[id]/[kind]", { id: estimated.photoId, kind: "thumb" })).status).toBe(
      404,
    );

    await measure(store, estimated.assignmentId!);
    await thumb(store, estimated.photoId);
    const [measured] = (await view(id)).rows;
    expect(measured).toMatchObject({ figure: "measured", verdict: { state: "meets" }, thumb: true });
    const shown = await call("GET", "assignments/[id]/output", { id: estimated.assignmentId! });
    expect(shown.headers.get("content-type")).toBe("image/jpeg");
    expect((await shown.arrayBuffer()).byteLength).toBe(measured.bytes);
    for (const kind of ["thumb", "view"]) {
      const picture = jpegJs.decode(
        Buffer.from(
          await (await call("GET", "photos/[id]/[kind]", { id: measured.photoId, kind })).arrayBuffer(),
        ),
      );
      expect(picture.width / picture.height).toBeCloseTo(0.8, 1);
    }

    const { runId } = await json<{ runId: string }>(call("POST", "batches/[id]/runs", { id }, {}));
    expect((await view(id)).rows[0].made).toMatchObject({ state: "waiting" });
    expect((await call("GET", "runs/[id]/zip", { id: runId })).status).toBe(404);
    for (const item of await store.db.select().from(runItems).where(eq(runItems.runId, runId)))
      await make(store, item.id);
    const done = await view(id);
    expect(done.run).toMatchObject({ id: runId, total: 1, done: 1, failed: 0, finished: true });
    const made = done.rows[0].made!;
    expect(made).toMatchObject({ state: "done", ok: true, name: "Moth A-x.jpg", bytes: measured.bytes });
    const file = await call("GET", "items/[id]/file", { id: made.itemId });
    expect(file.headers.get("content-disposition")).toContain("Moth%20A-x.jpg");
    expect(Number(file.headers.get("content-length"))).toBe(made.bytes);
    const bytes = Buffer.from(await file.arrayBuffer());
    expect([jpegJs.decode(bytes).width, jpegJs.decode(bytes).height]).toEqual([120, 150]);

    const zip = Buffer.from(await (await call("GET", "runs/[id]/zip", { id: runId })).arrayBuffer());
    const names = await new Promise<string[]>((resolve, reject) =>
      fromBuffer(zip, (error, archive) => {
        if (error) return reject(error);
        const list: string[] = [];
        archive.on("entry", (entry: { fileName: string }) => list.push(entry.fileName));
        archive.on("end", () => resolve(list));
      }),
    );
    expect(names).toEqual(["Moth A-x.jpg"]);

    // Editing the brief brings the plan back; undo brings the made file back.
    const brief = { ...done.brief!.body, fileSize: { min: "6KB", max: "12KB" } };
    expect(
      (await call("PUT", "batches/[id]/brief", { id }, { brief, words: "changing file size" })).status,
    ).toBe(200);
    expect(await view(id)).toMatchObject({
      undo: { words: "changing file size" },
      rows: [{ made: null, figure: "about" }],
    });
    expect((await routes.step(id)).body).toMatchObject({
      done: true,
      redo: { words: "changing file size" },
    });
    expect((await view(id)).rows[0].made).toMatchObject({ state: "done" });
    expect((await routes.step(id, "redo")).body).toMatchObject({ done: true });
    expect((await routes.step(id, "redo")).body).toMatchObject({ done: false });
  });

  it("frames: moved, accepted, undone", async () => {
    const id = await newBatch("Frames", { "wide.jpg": await jpegPhoto(900, 300, 72) });
    const [row] = (await view(id)).rows;
    await measure(store, row.assignmentId!);
    expect((await view(id)).rows[0].verdict).toEqual({ state: "needs", reason: "check the frame" });
    const put = (frame: { x: number; y: number }, accepted: boolean) =>
      call("PUT", "batches/[id]/frame", { id }, { rowId: row.id, frame, accepted });
    expect((await put({ x: 0, y: 0.5 }, true)).status).toBe(200);
    const [moved] = (await view(id)).rows;
    expect(moved.geometry!.crop.x).toBe(0);
    expect(moved.assignmentId).not.toBe(row.assignmentId);
    expect((await put({ x: 1.5, y: 0 }, true)).status).toBe(400);
    expect(
      (await call("PUT", "batches/[id]/frame", { id }, { rowId: id, frame: { x: 0, y: 0 }, accepted: true }))
        .status,
    ).toBe(404);
    await routes.step(id);
    expect((await view(id)).undo?.words).toBe("choosing Form");
    expect((await view(id)).rows[0]).toMatchObject({ assignmentId: row.assignmentId, figure: "measured" });
    expect((await call("POST", "batches/[id]/sight", { id }, { ids: [row.id] })).status).toBe(200);
  });

  it("says for a brief that a photo cannot meet why, on its row", async () => {
    const id = await newBatch("Refused", { "a.jpg": await jpegPhoto(100, 100, 73) });
    await call(
      "PUT",
      "batches/[id]/brief",
      { id },
      {
        brief: { zumbrelBrief: 1, name: "Large", width: { min: 5000 }, enlarge: "never" },
        words: "another brief",
      },
    );
    expect((await view(id)).rows[0].verdict!.reason).toMatch(/enlarging is ruled out/);
  });

  it("takes photos out, several at once", async () => {
    const id = await newBatch("Out", {
      "a.jpg": await jpegPhoto(90, 100, 74),
      "b.jpg": await jpegPhoto(90, 100, 75),
      "c.jpg": await jpegPhoto(90, 100, 76),
    });
    const rows = (await view(id)).rows;
    await call(
      "POST",
      "batches/[id]/remove",
      { id },
      { ids: [rows[0].id, rows[2].id], words: "leaving out 2" },
    );
    expect((await view(id)).rows.map((r) => r.name)).toEqual(["b.jpg"]);
    // Uploads overtake each other; the order is that in which the photos were given.
    for (const [name, at, seed] of [
      ["late.jpg", 5, 87],
      ["early.jpg", 4, 88],
    ] as const)
      await call(
        "POST",
        "batches/[id]/photos",
        { id },
        await jpegPhoto(90, 100, seed),
        `?name=${name}&at=${at}`,
      );
    expect((await view(id)).rows.map((r) => r.name)).toEqual(["early.jpg", "late.jpg", "b.jpg"]);
    await call(
      "POST",
      "batches/[id]/remove",
      { id },
      { ids: (await view(id)).rows.slice(0, 2).map((r) => r.id), words: "leaving out 2" },
    );
    // Bringing a removed photo in again shows it again.
    await call("POST", "batches/[id]/photos", { id }, await jpegPhoto(90, 100, 74), "?name=a.jpg");
    expect((await view(id)).rows.map((r) => r.name)).toEqual(["a.jpg", "b.jpg"]);
  });
});

describe("who may see what is decided by rows", () => {
  it("gives nothing of another workspace, though the bytes are on the same disk", async () => {
    const id = await newBatch("Mine", { "a.jpg": await jpegPhoto(200, 250, 77) });
    const [row] = (await view(id)).rows;
    await measure(store, row.assignmentId!);
    const { runId } = await json<{ runId: string }>(call("POST", "batches/[id]/runs", { id }, {}));
    const [item] = await store.db.select().from(runItems).where(eq(runItems.runId, runId));
    await make(store, item.id);
    expect((await call("GET", "items/[id]/file", { id: item.id })).status).toBe(200);
    const [other] = await store.db
      .insert(workspaces)
      .values({ name: "other" })
      .returning({ id: workspaces.id });
    await store.db.update(runs).set({ workspaceId: other.id }).where(eq(runs.id, runId));
    expect((await call("GET", "items/[id]/file", { id: item.id })).status).toBe(404);
    expect((await call("GET", "runs/[id]/zip", { id: runId })).status).toBe(404);
  });

  it.each(["batches/[id]", "items/[id]/file", "runs/[id]/zip", "assignments/[id]/output"])(
    "answers 404 with a sentence for an unknown id at %s",
    async (path) => {
      for (const id of ["00000000-0000-4000-8000-000000000000", "1", "' or 1=1 --"]) {
        const response = await call("GET", path, { id });
        expect(response.status).toBe(404);
        expect(((await response.json()) as { error: string }).error).toMatch(/\.$/);
      }
    },
  );
});
