import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type Brief, parseBriefText } from "@/core/brief";
import type { BatchView, DeskView, ShelfBrief } from "@/ui/api";
import { jpegPhoto } from "../support/photos";
import { type Routes, startRoutes } from "../support/routes";

let routes: Routes;
const plain = (name: string, clauses: Partial<Brief> = {}): Brief => ({ zumbrelBrief: 1, name, ...clauses });

beforeAll(async () => {
  routes = await startRoutes();
});
afterAll(() => routes.close());

const shelf = async () => ((await routes.call("GET", "briefs")).body as { briefs: ShelfBrief[] }).briefs;
const names = async () => (await shelf()).map((brief) => brief.body.name);
const keep = async (...briefs: unknown[]) =>
  (await routes.call("POST", "briefs", {}, { briefs })) as {
    status: number;
    body: { ids: string[]; error?: string };
  };

describe("the shelf", () => {
  it("keeps several briefs at once, or none where one is wrong", async () => {
    const { body } = await keep(plain("One"), plain("Two", { width: { exact: 5 } }));
    expect(body.ids).toHaveLength(2);
    expect(await names()).toEqual(["One", "Two"]);
    const wrong = await keep(plain("Three"), { ...plain("Four"), widht: 5 });
    expect([wrong.status, wrong.body.error]).toEqual([
      422,
      'The brief has an unknown key "widht". Remove it or correct its spelling.',
    ]);
    expect(await names()).toEqual(["One", "Two"]);
  });

  it("changes, deletes, brings back and hands out a brief", async () => {
    const { body } = await keep(plain("Banner/“wide”", { shape: "3:1", wording: "Banner: 3:1" }));
    const id = body.ids[0];
    await routes.call("PUT", "briefs/[id]", { id }, { brief: plain("Banner/“wide”", { shape: "4:1" }) });
    expect((await shelf()).find((brief) => brief.id === id)!.body.shape).toBe("4:1");
    const file = await routes.raw("GET", "briefs/[id]/file", { id });
    expect(file.headers.get("content-disposition")).toContain("Banner%20%E2%80%9Cwide%E2%80%9D.brief.json");
    expect(parseBriefText(await file.text()).shape).toBe("4:1");
    await routes.call("DELETE", "briefs/[id]", { id });
    expect(await names()).not.toContain("Banner/“wide”");
    expect((await routes.call("PUT", "briefs/[id]", { id }, { brief: plain("x") })).status).toBe(404);
    expect((await routes.raw("GET", "briefs/[id]/file", { id })).status).toBe(404);
    await routes.call("POST", "briefs/[id]/restore", { id });
    expect((await shelf()).find((brief) => brief.id === id)!.body.shape).toBe("4:1");
    expect((await routes.call("DELETE", "briefs/[id]", { id: crypto.randomUUID() })).status).toBe(404);
  });
});

describe("several briefs in one batch", () => {
  const view = async (id: string) => (await routes.call("GET", "batches/[id]", { id })).body as BatchView;

  it("lets rows have briefs of their own, revises one for its rows alone, and undoes each step", async () => {
    const { body } = await keep(
      plain("Portrait", { width: { exact: 60 }, height: { exact: 75 } }),
      plain("Mark", { width: { exact: 50 }, height: { exact: 20 } }),
    );
    const all = await shelf();
    const [portrait, mark] = body.ids.map((id) => all.find((brief) => brief.id === id)!.revisionId);
    const id = await routes.newBatch("Both", {
      "a.jpg": await jpegPhoto(90, 100, 601),
      "b.jpg": await jpegPhoto(90, 100, 602),
      "c.jpg": await jpegPhoto(90, 100, 603),
    });
    await routes.call("PUT", "batches/[id]/brief", { id }, { revisionId: portrait });
    const [, b, c] = (await view(id)).rows.map((row) => row.id);
    await routes.call("PUT", "batches/[id]/brief", { id }, { revisionId: mark, rows: [b, c] });
    let now = await view(id);
    expect(now.briefs.map((brief) => [brief.body.name, brief.rows, brief.onShelf])).toEqual([
      ["Portrait", 1, true],
      ["Mark", 2, true],
    ]);
    expect(now.rows.map((row) => [row.own, row.geometry!.width])).toEqual([
      [false, 60],
      [true, 50],
      [true, 50],
    ]);
    expect(now.undo?.words).toBe("choosing Mark for 2 photos");

    await routes.call(
      "PUT",
      "batches/[id]/brief",
      { id },
      {
        brief: plain("Mark", { width: { exact: 40 }, height: { exact: 20 } }),
        words: "changing pixels",
        of: mark,
      },
    );
    now = await view(id);
    expect(now.rows.map((row) => row.geometry!.width)).toEqual([60, 40, 40]);
    expect(now.briefs[1]).toMatchObject({ onShelf: false, rows: 2 });
    // The shelf has still what it had.
    expect((await shelf()).find((brief) => brief.revisionId === mark)!.body.width).toEqual({ exact: 50 });
    await routes.call(
      "PUT",
      "briefs/[id]",
      { id: now.briefs[1].briefId },
      { revisionId: now.briefs[1].revisionId },
    );
    expect((await view(id)).briefs[1].onShelf).toBe(true);

    await routes.call("PUT", "batches/[id]/brief", { id }, { revisionId: null, rows: [c] });
    expect((await view(id)).rows.map((row) => row.geometry!.width)).toEqual([60, 40, 60]);
    await routes.step(id);
    await routes.step(id);
    expect((await view(id)).rows.map((row) => row.geometry!.width)).toEqual([60, 50, 50]);
    await routes.step(id);
    expect((await view(id)).rows.map((row) => row.own)).toEqual([false, false, false]);
    await routes.step(id, "redo");
    expect((await view(id)).rows.map((row) => row.geometry!.width)).toEqual([60, 50, 50]);
  });

  it("takes a brief that was read from a wording, without putting it on the shelf", async () => {
    const id = await routes.newBatch("Pasted", { "a.jpg": await jpegPhoto(90, 100, 604) });
    const before = await names();
    await routes.call(
      "PUT",
      "batches/[id]/brief",
      { id },
      { fresh: plain("Pasted brief", { longSide: { max: 40 } }), words: "reading Pasted brief" },
    );
    expect((await view(id)).brief).toMatchObject({ body: { name: "Pasted brief" }, onShelf: false });
    expect(await names()).toEqual(before);
    expect(((await routes.call("GET", "desk")).body as DeskView).briefs.map((brief) => brief.name)).toEqual(
      before,
    );
  });

  it("says what is wrong with a request about rows", async () => {
    const id = await routes.newBatch("Wrong", { "a.jpg": await jpegPhoto(90, 100, 605) });
    const put = (body: unknown) => routes.call("PUT", "batches/[id]/brief", { id }, body);
    const [brief] = await shelf();
    expect(await put({ revisionId: brief.revisionId, rows: [crypto.randomUUID()] })).toMatchObject({
      status: 404,
      body: { error: "One of these photos is no longer in the batch." },
    });
    expect((await put({ revisionId: null })).status).toBe(400);
    expect((await put({ brief: plain("x"), words: "changing pixels", of: brief.revisionId })).status).toBe(
      409,
    );
    expect((await put({ fresh: { ...plain("x"), width: { exact: 0 } }, words: "reading" })).status).toBe(422);
  });
});
