/** Batches through the routes: what comes in, what is taken away, and what is asked wrongly. */
import { mkdtemp, readdir, readFile, rm, symlink, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import JSZip from "jszip";
import { PDFDocument } from "pdf-lib";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { make } from "@/jobs/make";
import { measure } from "@/jobs/measure";
import { thumb } from "@/jobs/thumb";
import { runItems } from "@/store";
import { createBrief, listRows } from "@/store/queries";
import type { BatchView, BroughtIn, DeskView, RunDetail, RunView, StorageView } from "@/ui/api";
import { jpegPhoto, pngPhoto } from "../support/photos";
import { type Routes, startRoutes } from "../support/routes";

let routes: Routes;
let revisionId: string;
let out: string;

beforeAll(async () => {
  routes = await startRoutes();
  out = await mkdtemp(join(tmpdir(), "zumbrel-allowed-"));
  process.env.ZUMBREL_OUT_ROOTS = JSON.stringify([out]);
  const brief = await createBrief(routes.store.db, routes.workspaceId, {
    zumbrelBrief: 1,
    name: "Card",
    format: ["jpeg"],
    longSide: { exact: 100 },
    onlyYou: ["Taken this year."],
  });
  revisionId = brief.id;
});
afterAll(async () => {
  await routes.close();
  await rm(out, { recursive: true, force: true });
});

const ask = async <T>(
  method: string,
  path: string,
  params: Record<string, string>,
  body?: unknown,
  query = "",
): Promise<{ status: number; body: T }> => {
  const response = await routes.raw(method, path, params, body, query);
  return { status: response.status, body: (await response.json()) as T };
};
const bring = (id: string, bytes: Buffer, query: string) =>
  ask<BroughtIn & { error?: string }>("POST", "batches/[id]/photos", { id }, bytes, query);
const view = async (id: string) => (await ask<BatchView>("GET", "batches/[id]", { id })).body;

/** A finished run of two photos in folders. */
async function finished(): Promise<{ id: string; runId: string; photos: Buffer[] }> {
  const photos = [await jpegPhoto(200, 150, 81), await pngPhoto(160, 120, 82)];
  const id = await routes.newBatch("Taken away", {});
  await bring(id, photos[0], "?name=a.JPG&folder=north");
  await bring(id, photos[1], "?name=a.png&folder=south/day+2&at=9999999999999");
  expect((await ask("PUT", "batches/[id]/brief", { id }, { revisionId })).status).toBe(200);
  const { runId } = (await ask<{ runId: string }>("POST", "batches/[id]/runs", { id }, {})).body;
  for (const row of await listRows(routes.store.db, id)) await thumb(routes.store, row.photoId);
  for (const item of await routes.store.db.select().from(runItems)) await make(routes.store, item.id);
  return { id, runId, photos };
}

describe("photos that come in", () => {
  it("at the same time and with the same bytes are one photo, under one of the names", async () => {
    const id = await routes.newBatch("Twice", {});
    const photo = await jpegPhoto(180, 120, 83);
    const answers = await Promise.all(
      ["a.jpg", "b.jpg", "c.jpg", "d.jpg"].map((name) => bring(id, photo, `?name=${name}`)),
    );
    expect(answers.map((answer) => answer.status)).toEqual([200, 200, 200, 200]);
    expect((await view(id)).rows).toHaveLength(1);
    expect((await bring(id, photo, "?name=e.jpg")).body).toMatchObject({
      added: 0,
      known: 1,
      refused: [],
      refusedCount: 0,
    });
  });

  it("keep their folder, and no path leads out of it", async () => {
    const id = await routes.newBatch("Folders", {});
    await bring(
      id,
      await jpegPhoto(60, 40, 84),
      `?name=${encodeURIComponent("../../x.jpg")}&folder=${encodeURIComponent("../day 1//./night")}`,
    );
    expect((await view(id)).rows[0]).toMatchObject({ name: "x.jpg", folder: "day 1/night" });
  });

  it("of a ZIP stand in its order; what is no picture is refused by name, and an empty one as a whole", async () => {
    const id = await routes.newBatch("Package", {});
    const zip = new JSZip();
    zip
      .file("2.jpg", await jpegPhoto(60, 40, 85))
      .file("1/1.png", await pngPhoto(50, 40, 86))
      .file("broken.jpg", "not a picture at all");
    const { status, body } = await bring(
      id,
      await zip.generateAsync({ type: "nodebuffer" }),
      "?name=night.ZIP&folder=box&at=5",
    );
    expect(status).toBe(200);
    expect(body).toMatchObject({
      added: 2,
      known: 0,
      refusedCount: 1,
      refused: [{ name: "broken.jpg", why: expect.stringMatching(/^This is a text file/) }],
    });
    expect((await view(id)).rows.map((row) => [row.folder, row.name])).toEqual([
      ["box", "2.jpg"],
      ["box/1", "1.png"],
    ]);
    expect(
      await bring(id, await new JSZip().generateAsync({ type: "nodebuffer" }), "?name=none.zip"),
    ).toMatchObject({ status: 422, body: { error: "There is no picture in this ZIP." } });
    expect((await bring(id, Buffer.from("PK no"), "?name=bad.zip")).body.error).toMatch(
      /is damaged, or it is none/,
    );
    // What a package was unpacked from does not stay.
    expect(await readdir(join(routes.store.files.root, "part"))).toEqual([]);
  });
});

describe("a batch", () => {
  it("is renamed, removed and brought back", async () => {
    const id = await routes.newBatch("One name", { "a.jpg": await jpegPhoto(60, 40, 87) });
    expect((await ask("PUT", "batches/[id]", { id }, { name: " Another " })).status).toBe(200);
    expect((await view(id)).name).toBe("Another");
    expect((await ask("PUT", "batches/[id]", { id }, { name: "  " })).status).toBe(400);
    expect((await ask("DELETE", "batches/[id]", { id })).status).toBe(200);
    expect((await ask("GET", "batches/[id]", { id })).status).toBe(404);
    expect((await ask("DELETE", "batches/[id]", { id })).status).toBe(404);
    expect((await ask("POST", "batches/[id]/restore", { id })).status).toBe(200);
    expect(
      (await ask<DeskView>("GET", "desk", {})).body.batches.find((batch) => batch.id === id),
    ).toMatchObject({ name: "Another", photos: 1 });
    expect((await ask("POST", "batches/[id]/restore", { id })).status).toBe(404);
  });

  it("says how many messages share its limit, and undo takes it back", async () => {
    const id = await routes.newBatch("Messages", { "a.jpg": await jpegPhoto(60, 40, 88) });
    const total = { zumbrelBrief: 1, name: "m", total: { max: "1MB", counted: "mail" } };
    expect((await ask("PUT", "batches/[id]/brief", { id }, { fresh: total, words: "a limit" })).status).toBe(
      200,
    );
    expect((await view(id)).totals[0]).toMatchObject({
      limit: { max: 1_000_000, counted: "mail", messages: 1 },
      state: "settling",
      photos: 1,
    });
    expect((await ask("PUT", "batches/[id]/messages", { id }, { messages: 3 })).status).toBe(200);
    const [shown] = (await view(id)).totals;
    expect(shown.limit.messages).toBe(3);
    // Three messages of a million bytes, in lines of 76 characters, without headers.
    expect(shown.room).toBeGreaterThan(3_000_000 * 0.725);
    expect(shown.room).toBeLessThan(3_000_000 * 0.7309);
    for (const messages of [0, 21, 1.5, "2"])
      expect((await ask("PUT", "batches/[id]/messages", { id }, { messages })).status).toBe(400);
    expect((await routes.step(id)).status).toBe(200);
    expect((await view(id)).totals[0].limit.messages).toBe(1);
    // Before the limit is shared out no run begins.
    expect(await ask("POST", "batches/[id]/runs", { id }, {})).toMatchObject({
      status: 409,
      body: { error: expect.stringMatching(/still being shared out/) },
    });
  });
});

describe("a finished run", () => {
  it("gives its files in folders, with the size told beforehand, a list, and the originals under their names", async () => {
    const { runId, photos } = await finished();
    const answer = await routes.raw("GET", "runs/[id]/zip", { id: runId }, undefined, "?manifest=1");
    const bytes = Buffer.from(await answer.arrayBuffer());
    expect(answer.headers.get("content-length")).toBe(String(bytes.length));
    const zip = await JSZip.loadAsync(bytes, { checkCRC32: true });
    expect(Object.keys(zip.files).filter((name) => !name.endsWith("/"))).toEqual([
      "north/a.JPG",
      "south/day 2/a.jpg",
      "manifest.csv",
      "manifest.json",
    ]);
    const { files } = JSON.parse(await zip.file("manifest.json")!.async("string")) as {
      files: { source: string; output: string; met: boolean; difference: number }[];
    };
    expect(files.map((file) => [file.source, file.output, file.met])).toEqual([
      ["a.JPG", "north/a.JPG", true],
      ["a.png", "south/day 2/a.jpg", true],
    ]);
    for (const file of files) expect(file.difference).toBeGreaterThanOrEqual(0);

    const originals = await JSZip.loadAsync(
      Buffer.from(
        await (
          await routes.raw("GET", "runs/[id]/zip", { id: runId }, undefined, "?of=originals")
        ).arrayBuffer(),
      ),
    );
    // A PNG that became a JPEG keeps its own ending among the originals.
    expect(Object.keys(originals.files).filter((name) => !name.endsWith("/"))).toEqual([
      "north/a.JPG",
      "south/day 2/a.png",
    ]);
    expect((await originals.file("north/a.JPG")!.async("nodebuffer")).equals(photos[0])).toBe(true);
  });

  it("has a proof sheet with a page, its pictures and its names", async () => {
    const { runId } = await finished();
    const answer = await routes.raw("GET", "runs/[id]/sheet", { id: runId });
    const pdf = await PDFDocument.load(await answer.arrayBuffer());
    expect(pdf.getTitle()).toBe("Taken away · Card");
    expect(pdf.getPageCount()).toBe(1);
    // ISO 216: A4 is 210 mm × 297 mm.
    const { width, height } = pdf.getPage(0).getSize();
    expect([width * (25.4 / 72), height * (25.4 / 72)].map(Math.round)).toEqual([210, 297]);
    const images = pdf.context
      .enumerateIndirectObjects()
      .filter(([, object]) => object.toString().includes("/Subtype /Image"));
    expect(images).toHaveLength(2);
  });

  it("is listed with its totals, and shown with every proof", async () => {
    const { id, runId } = await finished();
    const { runs } = (await ask<{ runs: RunView[] }>("GET", "runs", {})).body;
    expect(runs[0]).toMatchObject({
      id: runId,
      batchId: id,
      title: "Taken away · Card",
      filesGone: false,
      progress: { total: 2, done: 2, failed: 0, finished: true, paused: null, secondsLeft: null },
    });
    const detail = (await ask<RunDetail>("GET", "runs/[id]", { id: runId })).body;
    expect(
      detail.items.map((item) => [item.name, item.ok, item.checks.map((check) => check.clause)]),
    ).toEqual([
      ["north/a.JPG", true, ["format", "longSide"]],
      ["south/day 2/a.jpg", true, ["format", "longSide"]],
    ]);
    expect(detail.before).toBe(detail.items.reduce((sum, item) => sum + item.before.bytes, 0));
    expect(detail.after).toBe(detail.items.reduce((sum, item) => sum + item.bytes!, 0));
    expect(detail).toMatchObject({ limit: null, total: null, outRoots: [out] });
    expect(detail.items.map((item) => item.onlyYou)).toEqual([["Taken this year."], ["Taken this year."]]);
  });

  it("goes into a folder that was allowed, over nothing that is there, and into no other", async () => {
    const { runId } = await finished();
    const put = (root: string, folder: string) =>
      ask<{ written: number; renamed: number; error?: string }>(
        "POST",
        "runs/[id]/out",
        { id: runId },
        { root, folder },
      );
    expect((await put(out, "visit")).body).toEqual({ written: 2, renamed: 0 });
    await writeFile(join(out, "visit/north/a.JPG"), "mine");
    expect((await put(out, "visit")).body).toEqual({ written: 2, renamed: 2 });
    expect(await readFile(join(out, "visit/north/a.JPG"), "utf8")).toBe("mine");
    expect(await readdir(join(out, "visit/north"))).toEqual(["a-2.JPG", "a.JPG"]);
    expect(await put("/etc", "x")).toMatchObject({
      status: 403,
      body: { error: expect.stringMatching(/was not allowed/) },
    });
    expect((await put(out, "../../escape")).status).toBe(200);
    expect(await readdir(join(out, "escape"))).toEqual(["north", "south"]);
    await symlink(tmpdir(), join(out, "link"));
    expect(await put(out, "link")).toMatchObject({
      status: 422,
      body: { error: expect.stringMatching(/leads out of the one that was allowed/) },
    });
  });

  it("gives its files up and takes that back; wrong asks are refused in one sentence", async () => {
    const { runId } = await finished();
    expect((await ask("DELETE", "runs/[id]", { id: runId })).status).toBe(200);
    for (const path of ["runs/[id]/zip", "runs/[id]/mail"])
      expect(await ask("GET", path, { id: runId })).toMatchObject({
        status: 404,
        body: { error: expect.stringMatching(/has no files now/) },
      });
    expect((await ask<RunDetail>("GET", "runs/[id]", { id: runId })).body.filesGone).toBe(true);
    expect((await ask("PUT", "runs/[id]", { id: runId })).status).toBe(200);
    expect((await routes.raw("GET", "runs/[id]/zip", { id: runId })).status).toBe(200);
    expect(await ask("POST", "runs/[id]/state", { id: runId }, { to: "retry" })).toMatchObject({
      status: 409,
    });
    expect((await ask("POST", "runs/[id]/state", { id: runId }, { to: "fly" })).status).toBe(400);
    expect(await ask("GET", "runs/[id]/mail", { id: runId }, undefined, "?n=7")).toMatchObject({
      status: 404,
      body: { error: "There are 1 messages; there is no number 7." },
    });
    expect((await ask("GET", "runs/[id]", { id: "00000000-0000-4000-8000-000000000000" })).status).toBe(404);
  });
});

describe("a run that is under way", () => {
  it("tells about how long it still takes, pauses, goes on and is cancelled", async () => {
    const id = await routes.newBatch("Going", {});
    for (let i = 0; i < 4; i += 1) await bring(id, await jpegPhoto(90, 60, 90 + i), `?name=${i}.jpg&at=${i}`);
    await ask("PUT", "batches/[id]/brief", { id }, { revisionId });
    const { runId } = (await ask<{ runId: string }>("POST", "batches/[id]/runs", { id }, {})).body;
    const items = async () => (await ask<RunDetail>("GET", "runs/[id]", { id: runId })).body.items;
    const progress = async () => (await view(id)).run!;
    const state = (to: string) => ask("POST", "runs/[id]/state", { id: runId }, { to });
    const list = await items();
    await make(routes.store, list[0].id);
    expect(await progress()).toMatchObject({ done: 1, secondsLeft: null, finished: false });
    await make(routes.store, list[1].id);
    expect((await progress()).secondsLeft).toBeGreaterThanOrEqual(1);
    await state("pause");
    expect(await progress()).toMatchObject({ paused: "asked", secondsLeft: null });
    await state("resume");
    expect(await progress()).toMatchObject({ paused: null });
    await state("cancel");
    expect(await progress()).toMatchObject({ done: 2, cancelled: 2, finished: true });
    expect((await view(id)).rows.map((row) => row.made?.state ?? null)).toEqual(["done", "done", null, null]);
  });
});

describe("storage", () => {
  it("says what is used, frees what can be made again, and holds rows against bytes", async () => {
    const id = await routes.newBatch("Kept", { "a.jpg": await jpegPhoto(120, 90, 99) });
    await ask("PUT", "batches/[id]/brief", { id }, { revisionId });
    const [row] = await listRows(routes.store.db, id);
    await measure(routes.store, row.assignmentId!);
    const before = (await ask<StorageView>("GET", "storage", {})).body;
    expect(before.originals).toBeGreaterThan(0);
    expect(before.total).toBe(
      before.originals + before.runs + before.ready + before.trials + before.leftovers + before.planned,
    );
    expect((await ask<{ bytes: number }>("POST", "storage", {}, { do: "free" })).status).toBe(200);
    expect(await ask("POST", "storage", {}, { do: "check" })).toMatchObject({
      status: 200,
      body: { missing: 0 },
    });
    expect((await ask("POST", "storage", {}, { do: "nothing" })).status).toBe(400);
    expect(await routes.store.files.has(row.sha256)).toBe(true);
  });
});

describe("two windows", () => {
  const open = async () => {
    const id = await routes.newBatch("Two windows", {
      "a.jpg": await jpegPhoto(400, 300, 811),
      "b.jpg": await jpegPhoto(400, 300, 812),
    });
    const fresh = {
      zumbrelBrief: 1,
      name: "b",
      format: ["jpeg"],
      width: { exact: 200 },
      height: { exact: 200 },
    };
    await routes.call("PUT", "batches/[id]/brief", { id }, { fresh, words: "a brief" });
    const look = async () => (await routes.call("GET", "batches/[id]", { id })).body as BatchView;
    const move = async (row: number, x: number) =>
      routes.call(
        "PUT",
        "batches/[id]/frame",
        { id },
        {
          rowId: (await look()).rows[row].id,
          frame: { x, y: 0.5 },
          accepted: false,
        },
      );
    const undo = (edit: number) => routes.call("POST", "batches/[id]/undo", { id }, { edit });
    return { id, look, move, undo };
  };

  it("undo what each of them means: another photo's edits do not disturb, later ones of the same are told", async () => {
    const { look, move, undo } = await open();
    await move(0, 0.1);
    const mine = (await look()).undo!.edit;
    await move(1, 0.9);
    expect((await undo(mine)).body).toMatchObject({
      done: true,
      undo: { words: "moving the frame of b.jpg" },
    });
    expect((await look()).rows.map(({ frame }) => frame.x)).toEqual([0.5, 0.9]);
    // Pressed in both at once, it is undone once.
    const theirs = (await look()).undo!.edit;
    const both = await Promise.all([undo(theirs), undo(theirs)]);
    expect(both.map(({ body }) => (body as { done: boolean }).done).sort()).toEqual([false, true]);
    expect((await look()).undo?.words).toBe("a brief");
    await move(0, 0.2);
    const older = (await look()).undo!.edit;
    await move(0, 0.3);
    const refused = await undo(older);
    expect(refused.status).toBe(409);
    expect(refused.body).toEqual({
      error: "Since then: moving the frame of a.jpg. Undo that first; nothing was changed.",
    });
    expect((await look()).rows[0].frame.x).toBe(0.3);
  });

  it("an old view does not put a frame back by accepting what it shows", async () => {
    const { id, look, move } = await open();
    const [old] = (await look()).rows;
    await move(0, 0.7);
    const accept = { rowId: old.id, frame: old.frame, accepted: true, seen: old.frame };
    const late = await routes.call("PUT", "batches/[id]/frame", { id }, accept);
    expect([late.status, late.body]).toEqual([
      409,
      { error: "The frame was changed meanwhile; nothing was accepted. Look at it again." },
    ]);
    const [now] = (await look()).rows;
    expect(now.frame.x).toBe(0.7);
    const fresh = { rowId: now.id, frame: now.frame, accepted: true, seen: now.frame };
    expect((await routes.call("PUT", "batches/[id]/frame", { id }, fresh)).status).toBe(200);
  });
});

describe("lights above white", () => {
  it("are set for all photos under one brief with one edit, and come back with one undo", async () => {
    const id = await routes.newBatch("Bright", {
      "a.jpg": await jpegPhoto(90, 60, 91),
      "b.jpg": await jpegPhoto(90, 60, 92),
      "c.jpg": await jpegPhoto(90, 60, 93),
    });
    const fresh = { zumbrelBrief: 1, name: "Bright", format: ["avif"], colour: { light: "hdr" } };
    await ask("PUT", "batches/[id]/brief", { id }, { fresh, words: "light" });
    const [first, second] = (await view(id)).rows;
    const light = { strength: 40, start: 80, peak: 6 };
    const frame = { ...first.frame, light };
    await ask("PUT", "batches/[id]/frame", { id }, { rowId: first.id, frame, accepted: false });
    expect((await ask("PUT", "batches/[id]/light", { id }, { rowId: first.id })).status).toBe(200);
    const after = await view(id);
    expect(after.rows.map((row) => row.frame.light)).toEqual([light, light, light]);
    expect(after.undo?.words).toBe("setting the lights of 2 photos");
    await routes.step(id);
    expect((await view(id)).rows.map((row) => row.frame.light ?? null)).toEqual([light, null, null]);
    // From a photo that has none of its own, all are as they were.
    await ask("PUT", "batches/[id]/light", { id }, { rowId: second.id });
    expect((await view(id)).rows.map((row) => row.frame.light ?? null)).toEqual([null, null, null]);
    expect((await ask("PUT", "batches/[id]/light", { id }, { rowId: id })).status).toBe(404);
  });
});
