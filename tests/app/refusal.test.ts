/** A refusal that is taken: one edit, and only what no longer obeys is made again. */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Brief } from "@/core/brief";
import { readRefusals } from "@/core/brief/refusal";
import { heldAgainst } from "@/core/plan/refusals";
import { make } from "@/jobs/make";
import { measure } from "@/jobs/measure";
import { assignments, runItems } from "@/store";
import type { BatchView, Retaken, RunDetail } from "@/ui/api";
import { jpegPhoto } from "../support/photos";
import { type Routes, startRoutes } from "../support/routes";

let routes: Routes;
beforeAll(async () => {
  routes = await startRoutes();
});
afterAll(() => routes.close());

const ask = async <T>(method: string, path: string, id: string, body?: unknown): Promise<T> => {
  const response = await routes.raw(method, path, { id }, body);
  expect(response.status).toBeLessThan(300);
  return (await response.json()) as T;
};
const view = (id: string) => ask<BatchView>("GET", "batches/[id]", id);
const work = async () => {
  for (const row of await routes.store.db.select().from(assignments)) await measure(routes.store, row.id);
  for (const item of await routes.store.db.select().from(runItems))
    if (item.state === "waiting") await make(routes.store, item.id);
};

/** Two photos under one brief: a plain one whose file is small, and one full of detail that fills the ceiling. */
async function made(): Promise<string> {
  const small = await jpegPhoto(120, 150, 41);
  const id = await routes.newBatch("Permit", {
    "small.jpg": small,
    "large.jpg": await jpegPhoto(900, 1100, 42),
  });
  const brief: Brief = { zumbrelBrief: 1, name: "Portrait", format: ["jpeg"], fileSize: { max: "60KB" } };
  await ask("PUT", "batches/[id]/brief", id, { fresh: brief, words: "a brief" });
  await work();
  await ask("POST", "batches/[id]/runs", id, {});
  await work();
  return id;
}

const take = async (id: string, text: string): Promise<Retaken> => {
  const { brief: use } = await view(id);
  const { brief } = heldAgainst(use!.body, readRefusals(text, [])[0].asked);
  return ask<Retaken>("POST", "batches/[id]/refusal", id, {
    words: "taking a refusal",
    changes: [{ brief, of: use!.revisionId }],
  });
};

describe("a refusal that is taken", () => {
  it("makes again only the file that no longer obeys, with a proof under the new rule for both", async () => {
    const id = await made();
    const first = (await view(id)).rows.map((row) => row.made!);
    const [small, large] = first;
    expect(small.bytes).toBeLessThan(20_000);
    expect(large.bytes).toBeGreaterThan(45_000);
    const taken = await take(id, "Refused: the file has 58 KB, more than the 40 KB that are allowed");
    expect(taken).toMatchObject({ again: 1, kept: 1 });
    await work();
    const run = await ask<RunDetail>("GET", "runs/[id]", taken.runId!);
    const by = new Map(run.items.map((item) => [item.source, item]));
    expect(by.get("small.jpg")!.bytes).toBe(small.bytes);
    expect(by.get("large.jpg")!.bytes).toBeLessThanOrEqual(40_000);
    for (const item of run.items)
      expect(item.checks.find((check) => check.clause === "fileSize")).toMatchObject({
        asked: "at most 40 KB",
        ok: true,
      });
    // One press takes it back.
    await routes.step(id);
    expect((await view(id)).brief!.body.fileSize).toEqual({ max: "60KB" });
  });

  it("keeps every file where all obey, and only changes the brief where nothing was made", async () => {
    const id = await made();
    const taken = await take(id, "Error: 58 KB. The file must not be larger than 62 KB");
    expect(taken).toMatchObject({ again: 0, kept: 2 });
    const bare = await routes.newBatch("Bare", { "a.jpg": await jpegPhoto(300, 200, 43) });
    const brief: Brief = { zumbrelBrief: 1, name: "Mail", total: { max: "31MB", counted: "mail" } };
    await ask("PUT", "batches/[id]/brief", bare, { fresh: brief, words: "a brief" });
    expect(await take(bare, "552 5.3.4 Your message is 31 MB and may not be larger than 23 MB")).toEqual({
      runId: null,
      again: 0,
      kept: 0,
    });
    expect((await view(bare)).brief!.body.total).toEqual({ max: "23MB", counted: "mail" });
  });

  it("makes all again where more changed than a file's facts show", async () => {
    const id = await made();
    const { brief: use } = await view(id);
    const brief = { ...use!.body, border: { px: 2, colour: "#000000" } };
    expect(
      await ask<Retaken>("POST", "batches/[id]/refusal", id, {
        words: "a border",
        changes: [{ brief, of: use!.revisionId }],
      }),
    ).toMatchObject({ again: 2, kept: 0 });
  });
});
