/** Watched folders: what may be watched, and the processes that look after them. */
import { mkdir, mkdtemp, readdir, realpath, rm, symlink, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { Watches } from "@/jobs/watches";
import { createBrief } from "@/store/queries";
import type { WatchesView } from "@/ui/api";
import { jpegPhoto } from "../support/photos";
import { type Routes, startRoutes } from "../support/routes";

let routes: Routes;
let place: string;
let watched: string;
let out: string;
let revisionId: string;

const brief = (over = {}) => ({
  zumbrelBrief: 1 as const,
  name: "form",
  format: ["jpeg" as const],
  width: { exact: 120 },
  height: { exact: 150 },
  fileSize: { max: "40KB" },
  ...over,
});
const add = (from: string, to = "", revision = revisionId, root = watched) =>
  routes.call(
    "POST",
    "watches",
    {},
    {
      from: { root, folder: from },
      out: { root: out, folder: to },
      revisionId: revision,
    },
  );
const view = async () => (await routes.call("GET", "watches")).body as WatchesView;

beforeAll(async () => {
  routes = await startRoutes();
  place = await realpath(await mkdtemp(join(tmpdir(), "zumbrel-watches-")));
  [watched, out] = [join(place, "in"), join(place, "out")];
  await mkdir(join(watched, "form"), { recursive: true });
  await mkdir(out);
  Object.assign(process.env, {
    ZUMBREL_WATCH_ROOTS: JSON.stringify([watched]),
    ZUMBREL_OUT_ROOTS: JSON.stringify([out]),
  });
  revisionId = (await createBrief(routes.store.db, routes.workspaceId, brief())).id;
});
afterAll(async () => {
  await routes.close();
  await rm(place, { recursive: true, force: true });
});

describe("watched folders", () => {
  it("are refused with a sentence where they were not allowed, are not there, or do not go together", async () => {
    const said = async (answer: ReturnType<typeof add>) => {
      const { status, body } = await answer;
      return `${status} ${(body as { error?: string }).error ?? ""}`;
    };
    expect(await said(add("", "", revisionId, "/etc"))).toMatch(/^403 .*--watch-root/);
    expect(await said(add("nowhere"))).toMatch(/^400 There is no folder ".*nowhere" to look at/);
    await symlink("/tmp", join(watched, "away"));
    expect(await said(add("away"))).toMatch(/^403/);
    const limited = await createBrief(routes.store.db, routes.workspaceId, brief({ total: { max: "1MB" } }));
    expect(await said(add("form", "", limited.id))).toMatch(/^400 The brief limits all files together/);
    expect(await said(add("form", "", "00000000-0000-4000-8000-000000000000"))).toMatch(/^404/);
    expect((await view()).watches).toEqual([]);
  });

  it("are looked after by processes, begun again when they are killed; nothing is made twice", async () => {
    expect((await add("form", "../ready")).status).toBe(200);
    expect(await add("form", "ready")).toMatchObject({ status: 409 });
    const dataDir = join(place, "data");
    const watches = new Watches(routes.store, dataDir);
    const until = async (found: (one: WatchesView["watches"][number]) => boolean) => {
      for (let n = 0; n < 600; n += 1) {
        await watches.sync();
        const [one] = (await view()).watches;
        if (found(one)) return one;
        await new Promise((done) => setTimeout(done, 100));
      }
      throw new Error(`never came: ${JSON.stringify(await view())}`);
    };
    try {
      await writeFile(join(watched, "form", "a.jpg"), await jpegPhoto(300, 400, 91));
      const one = await until(({ ready }) => ready === 1);
      expect(one).toMatchObject({ needsYou: 0, problem: null, brief: "form", out: join(out, "ready") });
      const [child] = (
        watches as unknown as { running: Map<string, { kill(how: string): void }> }
      ).running.values();
      child.kill("SIGKILL");
      await until(({ problem }) => problem !== null);
      await writeFile(join(watched, "form", "b.jpg"), await jpegPhoto(300, 400, 92));
      await writeFile(join(watched, "form", "c.jpg"), Buffer.from("no picture"));
      expect(await until(({ ready, needsYou }) => ready === 2 && needsYou === 1)).toMatchObject({
        problem: null,
      });
      const made = (await readdir(join(out, "ready"))).filter((name) => !name.startsWith("."));
      expect(made.sort()).toEqual(["a.jpg", "b.jpg", "needs-you"]);
      const { id } = (await view()).watches[0];
      expect((await routes.raw("DELETE", "watches/[id]", { id })).ok).toBe(true);
      expect((await routes.raw("DELETE", "watches/[id]", { id })).status).toBe(404);
      await watches.sync();
      expect((await view()).watches).toEqual([]);
    } finally {
      watches.end();
    }
  }, 120_000);
});
