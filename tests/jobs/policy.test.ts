/** Trouble of the machine is tried again, is never written onto a photo as its own fault, and always ends in a state. */
import { eq, sql } from "drizzle-orm";
import pg from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { MachineError, PhotoError, troubleOf } from "@/core/photo";
import { sentence } from "@/imaging/source";
import { measure } from "@/jobs/measure";
import { type Kind, underPolicy } from "@/jobs/policy";
import type { Store } from "@/store";
import { assignments, runItems, runs } from "@/store";
import {
  addLostJobs,
  beat,
  buryInstance,
  countDeath,
  finishItem,
  getBatch,
  keepFailure,
  startRun,
} from "@/store/queries";
import { deaths } from "@/store/schema";
import type { BatchView } from "@/ui/api";
import { jpegPhoto } from "../support/photos";
import { type Routes, startRoutes } from "../support/routes";

let routes: Routes;
let store: Store;
let id: string;

const view = async () => (await routes.call("GET", "batches/[id]", { id })).body as BatchView;
const jobs = async (key: string) =>
  (
    await store.db.execute<{ attempts: number }>(
      sql`select attempts from graphile_worker._private_jobs where key = ${key} and attempts < max_attempts`,
    )
  ).rows;

beforeAll(async () => {
  routes = await startRoutes();
  store = routes.store;
  id = await routes.newBatch("Policies", {
    "a.jpg": await jpegPhoto(300, 200, 601),
    "b.jpg": await jpegPhoto(300, 200, 602),
  });
  const fresh = { zumbrelBrief: 1, name: "b", format: ["jpeg"], longSide: { max: 150 } };
  await routes.call("PUT", "batches/[id]/brief", { id }, { fresh, words: "a brief" });
});
afterAll(() => routes.close());

const coded = (code: string, message = "x") => Object.assign(new Error(message), { code });
/** As the database layer throws it. */
const query = (cause: Error) =>
  Object.assign(new Error("Failed query: update assignments set secret = $1", { cause }), {
    name: "DrizzleQueryError",
  });

describe("whose fault an error is", () => {
  it.each([
    [new PhotoError("It is cut short."), "photo"],
    [new MachineError("It was ended from outside."), "machine"],
    [coded("ENOSPC"), "disk"],
    // Codes from appendix A of PostgreSQL's manual.
    [query(coded("53100")), "disk"],
    [query(coded("57P01")), "database"],
    [query(coded("40P01")), "database"],
    [coded("ECONNREFUSED"), "database"],
    [new Error("Connection terminated unexpectedly"), "database"],
    [new TypeError("x is not a function"), "machine"],
  ] as const)("%s: %s", (error, trouble) => {
    expect(troubleOf(error)).toBe(trouble);
  });

  it("is said without the words of the database", () => {
    expect(sentence(query(coded("57P01")))).toBe(
      "The database did not answer; nothing is wrong with the photo. Try again.",
    );
  });
});

describe("work under its policy", () => {
  const under = (kind: Kind, subject: string, attempt: number, work: () => Promise<void>) =>
    underPolicy(store, { kind, id: subject, attempt }, work);

  it("waits for a database that is away, without using up an attempt", async () => {
    const [row] = (await view()).rows;
    let calls = 0;
    await under("measure", row.assignmentId!, 1, async () => {
      calls += 1;
      if (calls < 3) throw query(coded("57P01"));
    });
    expect(calls).toBe(3);
    expect((await view()).rows[0].verdict).toBeNull();
  });

  it("goes on with a real connection that is cut in the middle", async () => {
    const admin = new pg.Client({ connectionString: store.pool.options.connectionString });
    await admin.connect();
    const cut = () =>
      admin.query(
        "select pg_terminate_backend(pid) from pg_stat_activity where pid <> pg_backend_pid() and datname = current_database()",
      );
    const [, row] = (await view()).rows;
    let cuts = 0;
    await under("measure", row.assignmentId!, 1, async () => {
      if (cuts < 2) {
        cuts += 1;
        await cut();
      }
      await measure(store, row.assignmentId!);
    });
    await admin.end();
    expect((await view()).rows[1]).toMatchObject({ figure: "measured", verdict: { state: "meets" } });
  });

  it("is tried again by the queue, and at its end is a state that people see and can have tried again", async () => {
    const [row] = (await view()).rows;
    const work = () => Promise.reject(new MachineError("The process was ended from outside. Try again."));
    await expect(under("measure", row.assignmentId!, 1, work)).rejects.toThrow(/ended from outside/);
    expect((await view()).rows[0].verdict).toBeNull();
    await under("measure", row.assignmentId!, 4, work);
    expect((await view()).rows[0]).toMatchObject({
      passing: true,
      verdict: { state: "cannot", reason: "The process was ended from outside. Try again." },
    });
    // The sweep does not take it up again by itself.
    await store.db.execute(sql`delete from graphile_worker._private_jobs`);
    await addLostJobs(store.db);
    expect(await jobs(`measure:${row.assignmentId}`)).toEqual([]);
    expect((await routes.call("POST", "assignments/[id]/again", { id: row.assignmentId! })).status).toBe(200);
    expect(await jobs(`measure:${row.assignmentId}`)).toHaveLength(1);
    expect((await routes.call("POST", "assignments/[id]/again", { id: row.assignmentId! })).status).toBe(409);
    await measure(store, row.assignmentId!);
    expect((await view()).rows[0]).toMatchObject({ passing: false, verdict: { state: "meets" } });
  });

  it("that ended its process twice is set apart, and ordinary stops count for nothing", async () => {
    const [row] = (await view()).rows;
    const subject = row.assignmentId!;
    await store.db
      .update(assignments)
      .set({ measured: null, verdict: null })
      .where(eq(assignments.id, subject));
    await store.db.execute(sql`delete from graphile_worker._private_jobs`);
    await addLostJobs(store.db);
    const hold = async () => {
      await beat(store.db, "slot 0", ["pool-slot"]);
      await store.db.execute(
        sql`update graphile_worker._private_jobs set locked_by = 'pool-slot', locked_at = now(), attempts = attempts + 1 where key = ${`measure:${subject}`}`,
      );
    };
    for (let n = 0; n < 7; n += 1) {
      await hold();
      await buryInstance(store.db, "slot 0");
    }
    expect(await jobs(`measure:${subject}`)).toEqual([{ attempts: 0 }]);
    expect(await store.db.select().from(deaths)).toEqual([]);
    for (let n = 0; n < 2; n += 1) await countDeath(store.db, "measure", subject);
    let called = false;
    await under("measure", subject, 1, async () => {
      called = true;
    });
    expect(called).toBe(false);
    expect((await view()).rows[0].verdict?.reason).toMatch(
      /^Working on it has ended the process that did it twice/,
    );
    await routes.call("POST", "assignments/[id]/again", { id: subject });
    await under("measure", subject, 1, () => measure(store, subject).then(() => undefined));
    expect((await view()).rows[0].verdict).toMatchObject({ state: "meets" });
  });

  it("of a run that lost its job is found, and 'again' makes what failed for no fault of the photo", async () => {
    const batch = (await getBatch(store.db, routes.workspaceId, id))!;
    const runId = (await startRun(store.db, batch))!;
    const items = await store.db.select().from(runItems).where(eq(runItems.runId, runId));
    await store.db.execute(sql`delete from graphile_worker._private_jobs`);
    await addLostJobs(store.db);
    for (const item of items) expect(await jobs(`make:${item.id}`)).toHaveLength(1);
    await keepFailure(store.db, "make", items[0].id, "It was ended from outside. Try again.");
    await finishItem(store.db, items[1].id, { error: "It was ended from outside. Try again." });
    expect((await store.db.select().from(runs).where(eq(runs.id, runId)))[0].finishedAt).not.toBeNull();
    const again = await routes.call("POST", "runs/[id]/state", { id: runId }, { to: "retry" });
    expect(again.status).toBe(200);
    for (const item of items) expect(await jobs(`make:${item.id}`)).toHaveLength(1);
  });
});
