/** What a page is told of a batch step by step is what a new page is told at once. */
import { eq } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { batchView } from "@/app/server";
import { ToldRows } from "@/app/server/told-rows";
import { make } from "@/jobs/make";
import { measure } from "@/jobs/measure";
import { thumb } from "@/jobs/thumb";
import { assignments, runItems } from "@/store";
import { getBatch } from "@/store/queries";
import type { BatchNews } from "@/ui/api";
import { withNews } from "@/ui/api/batch-news";
import { jpegPhoto } from "../support/photos";
import { type Routes, startRoutes } from "../support/routes";

let routes: Routes;

beforeAll(async () => {
  routes = await startRoutes();
});
afterAll(() => routes.close());

/** A page that has `id` open. */
class Page {
  holds: BatchNews | undefined;
  constructor(readonly id: string) {}

  /** Fetches the news; answers the names of the rows that came. */
  async look(): Promise<string[]> {
    const have = this.holds && `${this.holds.have.epoch} ${this.holds.have.stamp}`;
    const query = have ? `?have=${encodeURIComponent(have)}` : "";
    const response = await routes.raw("GET", "batches/[id]", { id: this.id }, undefined, query);
    expect(response.status).toBe(200);
    const news = (await response.json()) as BatchNews;
    this.holds = withNews(this.holds, news);
    await this.expectWhole();
    return news.rows.map(({ name }) => name);
  }

  private async expectWhole(): Promise<void> {
    const { db } = routes.store;
    const batch = (await getBatch(db, routes.workspaceId, this.id))!;
    const whole = await batchView(db, batch, null, new ToldRows());
    // The time that is left runs on.
    const plain = ({ have, run, ...rest }: BatchNews): unknown =>
      JSON.parse(JSON.stringify({ ...rest, run: run && { ...run, secondsLeft: null } }));
    expect(plain(this.holds!)).toEqual(plain(whole));
  }
}

const put = async (path: string, id: string, body: unknown) =>
  expect((await routes.raw("PUT", path, { id }, body)).status).toBe(200);

describe("news of a batch", () => {
  it("are the rows that look otherwise, through everything that is done to it", async () => {
    const { store } = routes;
    const names = ["a.jpg", "b.jpg", "c.jpg", "d.jpg"];
    const photos = await Promise.all(names.map((_, i) => jpegPhoto(200 + 8 * i, 160, 400 + i)));
    const id = await routes.newBatch("News", { "a.jpg": photos[0], "b.jpg": photos[1], "c.jpg": photos[2] });
    const [early, late] = [new Page(id), new Page(id)];
    expect(await early.look()).toEqual(["a.jpg", "b.jpg", "c.jpg"]);
    expect(await early.look()).toEqual([]);

    await routes.raw("POST", "batches/[id]/photos", { id }, photos[3], "?name=d.jpg");
    expect(await early.look()).toEqual(["d.jpg"]);
    const brief = {
      zumbrelBrief: 1,
      name: "Card",
      format: ["jpeg"],
      width: { exact: 100 },
      fileSize: { max: "9KB" },
    };
    await put("batches/[id]/brief", id, { fresh: brief, words: "a card" });
    expect(await early.look()).toEqual(names);
    expect(await late.look()).toEqual(names);

    const [first, second] = early.holds!.rows;
    await measure(store, first.assignmentId!);
    expect(await early.look()).toEqual(["a.jpg"]);
    await thumb(store, second.photoId);
    expect(await early.look()).toEqual(["b.jpg"]);
    await put("batches/[id]/frame", id, {
      rowId: second.id,
      frame: { ...second.frame, auto: undefined, x: 0.2 },
      accepted: false,
    });
    expect(await early.look()).toEqual(["b.jpg"]);
    expect(await late.look()).toEqual(["a.jpg", "b.jpg"]);

    // Two photos of one name under another pattern: names of rows that nobody touched change with it.
    await put("batches/[id]/brief", id, {
      fresh: { ...brief, name: "Plate", names: "plate", width: { exact: 90 } },
      words: "a plate for one",
      rows: [second.id],
    });
    expect(await early.look()).toContain("b.jpg");

    const { runId } = (await (await routes.raw("POST", "batches/[id]/runs", { id }, {})).json()) as {
      runId: string;
    };
    await early.look();
    for (const item of await store.db.select().from(runItems).where(eq(runItems.runId, runId))) {
      await make(store, item.id);
      expect((await early.look()).length).toBe(1);
    }
    await routes.raw("POST", "batches/[id]/remove", { id }, { ids: [first.id], words: "removing a.jpg" });
    expect(await early.look()).not.toContain("a.jpg");
    expect(early.holds!.rows.length).toBe(3);
    await routes.step(id);
    expect(await early.look()).toContain("a.jpg");
    await late.look();
    expect(late.holds!.rows.map(({ name }) => name)).toEqual(names);
  });

  it("begin anew for a page of another time, and an older answer takes nothing back", async () => {
    const id = await routes.newBatch("Anew", { "a.jpg": await jpegPhoto(120, 90, 410) });
    const page = new Page(id);
    await page.look();
    const old = page.holds!;
    page.holds = { ...old, have: { epoch: "of-another-time", stamp: 99 } };
    expect(await page.look()).toEqual(["a.jpg"]);
    const [row] = page.holds!.rows;
    await routes.store.db.update(assignments).set({ accepted: true });
    await thumb(routes.store, row.photoId);
    await page.look();
    expect(page.holds!.rows[0].thumb).toBe(true);
    expect(withNews(page.holds, old).rows[0].thumb).toBe(true);
    const wrong = await routes.call("GET", "batches/[id]", { id });
    expect(wrong.status).toBe(200);
    expect((await routes.raw("GET", "batches/[id]", { id }, undefined, "?have=x")).status).toBe(400);
  });

  it("are told to several pages at once, each what it does not know", async () => {
    const photos = Object.fromEntries(
      await Promise.all([1, 2, 3].map(async (n) => [`${n}.jpg`, await jpegPhoto(100, 80, 420 + n)] as const)),
    );
    const id = await routes.newBatch("Several", photos);
    const pages = [new Page(id), new Page(id), new Page(id)];
    await Promise.all(pages.map((page) => page.look()));
    for (const { photoId } of pages[0].holds!.rows) {
      await thumb(routes.store, photoId);
      await Promise.all(pages.slice(1).map((page) => page.look()));
    }
    expect(await pages[0].look()).toEqual(["1.jpg", "2.jpg", "3.jpg"]);
    expect(await pages[1].look()).toEqual([]);
  });
});
