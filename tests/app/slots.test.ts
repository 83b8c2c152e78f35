/** Documents of a batch through the routes: asked, proposed, filled, emptied, undone, made. */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { readWording } from "@/core/brief/read";
import { make } from "@/jobs/make";
import { measure } from "@/jobs/measure";
import { thumb } from "@/jobs/thumb";
import { assignments, runItems } from "@/store";
import { listRows } from "@/store/queries";
import type { BatchView, BroughtIn } from "@/ui/api";
import { signaturePhoto } from "../support/ink";
import { jpegPhoto } from "../support/photos";
import { type Routes, startRoutes } from "../support/routes";

let routes: Routes;
beforeAll(async () => {
  routes = await startRoutes();
});
afterAll(() => routes.close());

const ask = async <T = { error?: string }>(
  method: string,
  path: string,
  id: string,
  body?: unknown,
  query = "",
): Promise<{ status: number; body: T }> => {
  const response = await routes.raw(method, `batches/[id]/${path}`, { id }, body, query);
  return { status: response.status, body: (await response.json()) as T };
};
const view = async (id: string) =>
  (await (await routes.raw("GET", "batches/[id]", { id })).json()) as BatchView;
const bring = async (id: string, name: string, bytes: Buffer): Promise<string> =>
  (await ask<BroughtIn>("POST", "photos", id, bytes, `?name=${name}`)).body.rows[0];
const look = async (id: string) => {
  for (const row of await listRows(routes.store.db, id)) await thumb(routes.store, row.photoId);
};

const WORDING = `Please send us:
- Portrait: 240 x 300 px, JPG, 10 KB to 60 KB
- Signature: 300 x 120 px, JPG, 4 KB to 20 KB
- Proof of address: PDF, at most 300 KB`;

async function begun(name: string): Promise<{ id: string; slots: Record<string, string> }> {
  const id = await routes.newBatch(name, {});
  const { briefs } = readWording(WORDING);
  expect(briefs.map((brief) => brief.name)).toEqual(["Portrait", "Signature", "Proof of address"]);
  expect((await ask("POST", "slots", id, { briefs })).status).toBe(200);
  const slots = Object.fromEntries((await view(id)).slots.map((slot) => [slot.name, slot.id]));
  return { id, slots };
}

describe("the documents of a batch", () => {
  it("are proposed by what the photos show, taken with one press, and made under their names", async () => {
    const { id, slots } = await begun("Application");
    const hand = await bring(id, "IMG_1.jpg", await signaturePhoto());
    const face = await bring(id, "IMG_2.jpg", await jpegPhoto(900, 1200, 31));
    expect((await view(id)).slots.map((slot) => slot.proposed)).toEqual([null, null, null]);
    await look(id);
    const proposed = (await view(id)).slots;
    expect(proposed.map((slot) => [slot.row, slot.proposed])).toEqual([
      [null, face],
      [null, hand],
      [null, null],
    ]);
    await ask("PUT", "slots", id, { fill: { [slots.Portrait]: face, [slots.Signature]: hand } });
    const filled = await view(id);
    expect(filled.slots.map((slot) => slot.row)).toEqual([face, hand, null]);
    expect(filled.undo?.words).toBe("putting 2 photos in their places");
    for (const row of await routes.store.db.select().from(assignments)) await measure(routes.store, row.id);
    await ask("POST", "runs", id, {});
    for (const item of await routes.store.db.select().from(runItems)) await make(routes.store, item.id);
    expect((await view(id)).rows.map(({ made }) => [made?.name, made?.ok]).sort()).toEqual([
      ["Portrait.jpg", true],
      ["Signature.jpg", true],
    ]);
  });

  it("may share a photo, which is there once more for each, and not any longer when it is taken out", async () => {
    const { id, slots } = await begun("Twice");
    const face = await bring(id, "face.jpg", await jpegPhoto(800, 1000, 32));
    await ask("PUT", "slots", id, { fill: { [slots.Portrait]: face } });
    await ask("PUT", "slots", id, { fill: { [slots["Proof of address"]]: face } });
    const both = await view(id);
    const [portrait, , proof] = both.slots;
    expect(portrait.row).toBe(face);
    expect(proof.row).not.toBe(face);
    expect(new Set(both.rows.map((row) => row.photoId)).size).toBe(1);
    expect(both.rows).toHaveLength(2);
    // The same photo brought in once more is still known.
    await bring(id, "again.jpg", await jpegPhoto(800, 1000, 32));
    expect((await view(id)).rows).toHaveLength(2);
    await ask("PUT", "slots", id, { fill: { [slots["Proof of address"]]: null } });
    expect((await view(id)).rows.map((row) => row.id)).toEqual([face]);
    await routes.step(id);
    expect((await view(id)).slots[2].row).toBe(proof.row);
    await routes.step(id);
    const back = await view(id);
    expect(back.rows.map((row) => row.id)).toEqual([face]);
    expect(back.slots.map((slot) => slot.row)).toEqual([face, null, null]);
    await routes.step(id, "redo");
    expect((await view(id)).slots[2].row).toBe(proof.row);
  });

  it("move between documents, keep a changed brief, and are asked anew without losing photos", async () => {
    const { id, slots } = await begun("Moved");
    const face = await bring(id, "face.jpg", await jpegPhoto(800, 1000, 33));
    await ask("PUT", "slots", id, { fill: { [slots.Signature]: face } });
    await ask("PUT", "slots", id, { fill: { [slots.Signature]: null, [slots.Portrait]: face } });
    expect((await view(id)).slots.map((slot) => slot.row)).toEqual([face, null, null]);
    // The brief of a document is changed with and without a photo in it.
    for (const name of ["Portrait", "Signature"]) {
      const before = await view(id);
      const slot = before.slots.find((one) => one.name === name)!;
      const { body } = before.briefs.find((one) => one.revisionId === slot.revisionId)!;
      const brief = { ...body, fileSize: { max: "50KB" } };
      await ask("PUT", "brief", id, { brief, words: "at most 50 KB", of: slot.revisionId });
      const after = await view(id);
      const changed = after.slots.find((one) => one.name === name)!;
      expect(after.briefs.find((one) => one.revisionId === changed.revisionId)?.body.fileSize).toEqual({
        max: "50KB",
      });
      if (changed.row) expect(after.rows[0].revisionId).toBe(changed.revisionId);
    }
    const { briefs } = readWording(WORDING);
    await ask("POST", "slots", id, { briefs: briefs.slice(0, 2) });
    const anew = await view(id);
    expect(anew.slots.map((slot) => slot.row)).toEqual([null, null]);
    expect(anew.rows.map((row) => [row.id, row.revisionId])).toEqual([[face, null]]);
    await routes.step(id);
    expect((await view(id)).slots.map((slot) => slot.row)).toEqual([face, null, null]);
  });

  it("refuse what is not there with one sentence", async () => {
    const { id, slots } = await begun("Wrong");
    const face = await bring(id, "face.jpg", await jpegPhoto(80, 100, 34));
    const other = await bring(await routes.newBatch("Other", {}), "x.jpg", await jpegPhoto(60, 100, 35));
    const answers = [
      await ask("PUT", "slots", id, { fill: { nothing: face } }),
      await ask("PUT", "slots", id, { fill: { [slots.Portrait]: other } }),
      await ask("PUT", "slots", id, { fill: {} }),
      await ask("POST", "slots", id, { briefs: [] }),
      await ask("POST", "slots", id, { briefs: [{ zumbrelBrief: 1, name: "x", width: "wide" }] }),
    ];
    expect(answers.map((answer) => answer.status)).toEqual([404, 404, 400, 400, 422]);
    expect(answers[0].body.error).toMatch(/asks for no such document any more/);
    expect(answers[1].body.error).toMatch(/no longer in the batch/);
    expect((await view(id)).slots.map((slot) => slot.row)).toEqual([null, null, null]);
  });

  it("show a missing photo when it is left out of the batch, and have it again after undo", async () => {
    const { id, slots } = await begun("Left out");
    const face = await bring(id, "face.jpg", await jpegPhoto(80, 100, 36));
    await ask("PUT", "slots", id, { fill: { [slots.Portrait]: face } });
    await ask("POST", "remove", id, { ids: [face], words: "leaving out face.jpg" });
    expect((await view(id)).slots[0].row).toBeNull();
    await routes.step(id);
    expect((await view(id)).slots[0].row).toBe(face);
  });
});
