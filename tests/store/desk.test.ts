import { readdir, unlink } from "node:fs/promises";
import { join } from "node:path";
import { eq, sql } from "drizzle-orm";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { parseBrief } from "@/core/brief";
import { make } from "@/jobs/make";
import { measure } from "@/jobs/measure";
import { thumb } from "@/jobs/thumb";
import { thumbs } from "@/jobs/thumbs";
import type { Store } from "@/store";
import { files, photos, runItems } from "@/store";
import { TooLargeError } from "@/store/file-store";
import {
  createBatch,
  createBrief,
  editState,
  frameKey,
  getBatch,
  keepFile,
  latestRun,
  listBatches,
  listBriefs,
  listRows,
  localWorkspace,
  makeEdit,
  putDemoAway,
  reviseBrief,
  startRun,
  stepEdit,
} from "@/store/queries";
import { setFrame } from "@/store/queries/batch-briefs";
import type { Revision } from "@/store/queries/briefs";
import { collectFiles } from "@/store/queries/storage";
import { trimTrials } from "@/store/queries/trials";
import { trials } from "@/store/schema";
import { jpegPhoto } from "../support/photos";
import { bringIn, freshStore } from "../support/store";

let store: Store;
let close: () => Promise<void>;
let workspace: string;
let brief: Revision;
let batchId: string;
const body = parseBrief({
  zumbrelBrief: 1,
  name: "form",
  format: ["jpeg"],
  width: { exact: 120 },
  height: { exact: 150 },
  fileSize: { min: "8KB", max: "20KB" },
});

beforeAll(async () => ({ store, close } = await freshStore()));
afterAll(() => close());
beforeEach(async () => {
  workspace = await localWorkspace(store.db);
  brief = await createBrief(store.db, workspace, body);
  batchId = await createBatch(store.db, { workspaceId: workspace, name: "batch", revisionId: brief.id });
});

const batch = async () => (await getBatch(store.db, workspace, batchId))!;
const rows = async () => listRows(store.db, batchId);
const jobs = async (task: string) =>
  (
    await store.db.execute<{ id: string }>(
      sql`select payload->>'id' as id from graphile_worker._private_jobs j join graphile_worker._private_tasks t on t.id = j.task_id where t.identifier = ${task}`,
    )
  ).rows.map((r) => r.id);
const diskFiles = async () =>
  (
    await readdir(join(store.files.path("0".repeat(64)), "../.."), {
      recursive: true,
      withFileTypes: true,
    }).catch(() => [])
  ).filter((f) => f.isFile()).length;

describe("settings of a photo", () => {
  it("are the same whatever the order in which their keys come back", async () => {
    const raw = { way: "camera", brighten: true, recover: false } as const;
    const back = { recover: false, brighten: true, way: "camera" } as const;
    expect(frameKey({ x: 0.25, y: 0.5, zoom: 2, raw })).toBe(
      frameKey({ zoom: 2, raw: back, y: 0.5, x: 0.25 }),
    );
    expect(frameKey({ x: 0.25, y: 0.5 })).not.toBe(frameKey({ x: 0.5, y: 0.25 }));
    const choice = { format: "jpeg", quality: 80, chroma: "4:2:0", table: 0 } as const;
    await bringIn(store, workspace, batchId, "a.jpg", await jpegPhoto(60, 40));
    const [row] = await rows();
    const frame = { x: 0.25, y: 0.5, zoom: 2, raw };
    await setFrame(store.db, row.id, row.revisionId!, { frame, choice, accepted: true });
    const [kept] = await rows();
    // jsonb orders keys in its own way; what is read back is still the same setting.
    expect(frameKey(kept.frame!, kept.choice)).toBe(frameKey(frame, choice));
    await setFrame(store.db, row.id, row.revisionId!, {
      frame: kept.frame!,
      choice: kept.choice ?? undefined,
      accepted: true,
    });
    expect((await rows())[0].assignmentId).toBe(kept.assignmentId);
  });
});

describe("bringing photos in", () => {
  it("stores the same photo once, whatever it is called, and gives it an assignment and jobs", async () => {
    const bytes = await jpegPhoto(300, 400, 11);
    const before = await diskFiles();
    const one = await bringIn(store, workspace, batchId, "a.jpg", bytes);
    const two = await bringIn(store, workspace, batchId, "b.jpg", bytes);
    expect(two.photoId).toBe(one.photoId);
    expect(await diskFiles()).toBe(before + 1);
    expect(await rows()).toHaveLength(1);
    expect(await store.db.select().from(photos).where(eq(photos.id, one.photoId))).toHaveLength(1);
    const [row] = await rows();
    expect(await jobs("measure")).toContain(row.assignmentId);
    // Small pictures wait until no more photos come.
    expect(await jobs("thumbs")).toContain(batchId);
    await thumbs(store, batchId);
    expect(await jobs("thumb")).toContain(row.photoId);
    expect((await listBatches(store.db, workspace)).find((b) => b.id === batchId)).toMatchObject({
      photos: 1,
      bytes: bytes.length,
    });
  });

  it("keeps nothing of an upload that breaks off or is too large", async () => {
    const before = await diskFiles();
    async function* broken() {
      yield Buffer.alloc(1000);
      throw new Error("the line went dead");
    }
    await expect(keepFile(store, broken(), 1e6)).rejects.toThrow("the line went dead");
    await expect(keepFile(store, [Buffer.alloc(2000)], 1999)).rejects.toBeInstanceOf(TooLargeError);
    expect(await diskFiles()).toBe(before);
  });

  it("makes the small picture once", async () => {
    const { photoId } = await bringIn(store, workspace, batchId, "a.jpg", await jpegPhoto(500, 400, 12));
    await thumb(store, photoId);
    const [{ thumbSha256 }] = await store.db.select().from(photos).where(eq(photos.id, photoId));
    expect(thumbSha256).not.toBeNull();
    expect((await store.files.read(thumbSha256!)).readUInt16BE(0)).toBe(0xffd8);
  });
});

describe("measuring", () => {
  it("really makes the file, and a changed ceiling uses the trials again", async () => {
    await bringIn(store, workspace, batchId, "a.jpg", await jpegPhoto(600, 800, 13));
    const [row] = await rows();
    await measure(store, row.assignmentId!);
    const [done] = await rows();
    expect(done.measured).toMatchObject({ error: null, passedThrough: false });
    expect((await store.files.read(done.measured!.outputSha256!)).length).toBe(done.measured!.bytes);
    const made = (await store.db.select().from(trials)).length;
    const next = await reviseBrief(
      store.db,
      brief.briefId,
      parseBrief({ ...body, fileSize: { min: "8KB", max: "19.8KB" } }),
    );
    await makeEdit(store.db, await batch(), "changing file size", {
      kind: "brief",
      before: brief.id,
      after: next.id,
    });
    const [moved] = await rows();
    expect(moved.measured).toBeNull();
    await measure(store, moved.assignmentId!);
    const again = (await rows())[0].measured!;
    expect(again.error).toBeNull();
    expect((await store.db.select().from(trials)).length - made).toBeLessThan(again.encodes);
  });

  it("drops work that the brief has left behind", async () => {
    await bringIn(store, workspace, batchId, "a.jpg", await jpegPhoto(600, 800, 14));
    const [row] = await rows();
    const next = await reviseBrief(store.db, brief.briefId, parseBrief({ ...body, width: { exact: 100 } }));
    await makeEdit(store.db, await batch(), "changing pixels", {
      kind: "brief",
      before: brief.id,
      after: next.id,
    });
    expect(await jobs("measure")).not.toContain(row.assignmentId);
    await measure(store, row.assignmentId!);
    await step("undo");
    expect((await rows())[0]).toMatchObject({ assignmentId: row.assignmentId, measured: null });
  });

  it("gives a damaged photo its reason", async () => {
    const bytes = await jpegPhoto(600, 800, 15);
    await bringIn(
      store,
      workspace,
      batchId,
      "a.jpg",
      Buffer.concat([bytes.subarray(0, bytes.length / 2), Buffer.from([0xff, 0xd9])]),
    );
    const [row] = await rows();
    await measure(store, row.assignmentId!);
    expect((await rows())[0].measured!.error).toMatch(/cut short/);
  });
});

async function step(direction: "undo" | "redo"): Promise<boolean> {
  const label = (await editState(store.db, batchId))[direction];
  return label ? stepEdit(store.db, await batch(), direction, label.edit) : false;
}

describe("undo and redo", () => {
  it("go through briefs, frames and removals in order, and keep what was measured", async () => {
    const { batchPhotoId } = await bringIn(store, workspace, batchId, "a.jpg", await jpegPhoto(800, 600, 16));
    await measure(store, (await rows())[0].assignmentId!);
    const next = await reviseBrief(
      store.db,
      brief.briefId,
      parseBrief({ ...body, fileSize: { max: "30KB" } }),
    );
    await makeEdit(store.db, await batch(), "changing file size", {
      kind: "brief",
      before: brief.id,
      after: next.id,
    });
    const start = { frame: { x: 0.5, y: 0.5 }, accepted: false };
    await makeEdit(store.db, await batch(), "moving the frame", {
      kind: "frame",
      batchPhotoId,
      revisionId: next.id,
      before: start,
      after: { frame: { x: 0, y: 0.5 }, accepted: true },
    });
    expect((await rows())[0]).toMatchObject({ frame: { x: 0, y: 0.5 }, accepted: true });
    await makeEdit(store.db, await batch(), "leaving out a.jpg", {
      kind: "remove",
      batchPhotoIds: [batchPhotoId],
    });
    expect(await rows()).toHaveLength(0);
    expect(await editState(store.db, batchId)).toMatchObject({
      undo: { words: "leaving out a.jpg" },
      redo: null,
    });
    const undo = () => step("undo");
    expect(await undo()).toBe(true);
    expect(await rows()).toHaveLength(1);
    await undo();
    expect((await rows())[0]).toMatchObject({ frame: { x: 0.5, y: 0.5 }, accepted: false });
    await undo();
    expect((await batch()).revisionId).toBe(brief.id);
    expect((await rows())[0].measured).not.toBeNull();
    expect(await undo()).toBe(false);
    expect(await step("redo")).toBe(true);
    expect((await batch()).revisionId).toBe(next.id);
    await makeEdit(store.db, await batch(), "choosing another", {
      kind: "brief",
      before: next.id,
      after: brief.id,
    });
    expect((await editState(store.db, batchId)).redo).toBeNull();
  });
});

describe("runs", () => {
  it("hand over what is measured, prove it from disk, and do nothing twice", async () => {
    const bytes = await jpegPhoto(600, 800, 17);
    await bringIn(store, workspace, batchId, "A b.jpg", bytes);
    await bringIn(store, workspace, batchId, "a B.JPG", await jpegPhoto(600, 800, 18));
    for (const row of await rows()) await measure(store, row.assignmentId!);
    const runId = (await startRun(store.db, await batch()))!;
    const items = await store.db.select().from(runItems).where(eq(runItems.runId, runId));
    // All at once, each twice, as a queue does after a crash.
    await Promise.all([...items, ...items].map((item) => make(store, item.id)));
    const run = (await latestRun(store.db, batchId))!;
    expect(run.row).toMatchObject({ id: runId, finishedAt: expect.any(Date) });
    expect(run.items.map((i) => [i.state, i.ok])).toEqual([
      ["done", true],
      ["done", true],
    ]);
    // Names that differ only in case would meet on some file systems.
    expect(new Set(run.items.map((i) => i.outputName!.toLowerCase())).size).toBe(2);
    expect(run.items[0].checks!.map((c) => c.clause)).toEqual(["format", "width", "height", "fileSize"]);
    expect((await store.files.read((await rows())[0].sha256)).equals(bytes)).toBe(true);
  });

  it("make a file anew when its measured bytes are gone, and fail one without stopping the others", async () => {
    await bringIn(store, workspace, batchId, "good.jpg", await jpegPhoto(600, 800, 19));
    await bringIn(store, workspace, batchId, "bad.jpg", await jpegPhoto(600, 800, 20));
    const [good, bad] = await rows();
    await measure(store, good.assignmentId!);
    await unlink(store.files.path((await rows())[0].measured!.outputSha256!));
    const runId = (await startRun(store.db, await batch()))!;
    await unlink(store.files.path(bad.sha256));
    for (const item of await store.db.select().from(runItems).where(eq(runItems.runId, runId)))
      await make(store, item.id);
    const run = (await latestRun(store.db, batchId))!;
    expect(run.items.map((i) => i.state)).toEqual(["done", "failed"]);
    expect(run.items[1].error).toBeTruthy();
    expect(run.row.finishedAt).not.toBeNull();
  });

  it("start nothing where no photo can meet the brief", async () => {
    expect(await startRun(store.db, await batch())).toBeNull();
  });
});

describe("storage", () => {
  it("gives up trials beyond the cap, never originals or outputs", async () => {
    await bringIn(store, workspace, batchId, "a.jpg", await jpegPhoto(600, 800, 21));
    await measure(store, (await rows())[0].assignmentId!);
    await trimTrials(store, 0);
    const removed = (await collectFiles(store, { young: "0 seconds", pauseMs: 0 })).files;
    expect(removed).toBeGreaterThan(0);
    const [row] = await rows();
    expect(await store.files.has(row.sha256)).toBe(true);
    expect(await store.files.has(row.measured!.outputSha256!)).toBe(true);
    const known = new Set((await store.db.select().from(files)).map((f) => f.sha256));
    expect(known.has(row.sha256)).toBe(true);
    expect((await store.db.select().from(trials)).every((t) => t.sha256 === null)).toBe(true);
    expect((await store.db.select().from(trials)).every((t) => t.bytes > 0)).toBe(true);
  });

  it("puts the demo away, but not a batch with photos of somebody's own", async () => {
    const demo = async (name: string) =>
      createBatch(store.db, { workspaceId: workspace, name, revisionId: brief.id, demo: true });
    const [plain, mixed] = [await demo("plain"), await demo("mixed")];
    await bringIn(store, workspace, plain, "moth.jpg", await jpegPhoto(60, 50, 22));
    await bringIn(store, workspace, mixed, "moth.jpg", await jpegPhoto(60, 50, 22));
    await bringIn(store, workspace, mixed, "holiday.jpg", await jpegPhoto(60, 50, 23));
    await putDemoAway(store.db, workspace, ["moth.jpg"]);
    const names = (await listBatches(store.db, workspace)).map((b) => b.name);
    expect(names).toContain("mixed");
    expect(names).not.toContain("plain");
  });

  it("lists a shipped brief as it was shipped, whatever was changed on a batch", async () => {
    const shipped = await createBrief(store.db, workspace, { ...body, name: "shipped" }, { shipped: true });
    await reviseBrief(store.db, shipped.briefId, { ...body, name: "shipped", fileSize: { max: "1MB" } });
    expect((await listBriefs(store.db, workspace)).find((b) => b.body.name === "shipped")!.id).toBe(
      shipped.id,
    );
  });
});
