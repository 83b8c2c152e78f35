/** Kill what you like: each process and the database are started again by themselves, and nothing is lost. */
import { readdirSync, readFileSync } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type APIRequestContext, expect, test } from "@playwright/test";
import { jpegPhoto } from "../tests/support/photos";
import { startZumbrel } from "./support/start";

/** Processes of this data folder by what their command line says. */
function pidsOf(dataDir: string, what: RegExp): number[] {
  const read = (path: string) => {
    try {
      return readFileSync(path, "utf8").replaceAll("\0", " ");
    } catch {
      // It has ended meanwhile.
      return "";
    }
  };
  return readdirSync("/proc")
    .filter((name) => /^\d+$/.test(name))
    .map((name) => ({ name, command: read(`/proc/${name}/cmdline`) }))
    .filter(
      ({ name, command }) =>
        what.test(command) && (command + read(`/proc/${name}/environ`)).includes(dataDir),
    )
    .map(({ name }) => Number(name));
}

const PHOTOS = 10;

async function begin(request: APIRequestContext, address: string) {
  const { id } = (await (
    await request.post(`${address}/api/batches`, { data: { name: "Hard times" } })
  ).json()) as {
    id: string;
  };
  for (let i = 0; i < PHOTOS; i += 1)
    await request.post(`${address}/api/batches/${id}/photos?name=p${i}.jpg`, {
      data: await jpegPhoto(1200, 900, 300 + i),
      headers: { "content-type": "application/octet-stream" },
    });
  const fresh = {
    zumbrelBrief: 1,
    name: "hard",
    format: ["jpeg"],
    longSide: { exact: 1000 },
    fileSize: { max: "90kB" },
  };
  await request.put(`${address}/api/batches/${id}/brief`, { data: { fresh, words: "a brief" } });
  return id;
}

test("worker, web and database killed in the middle of a run: all heals by itself, nothing is lost or doubled", async ({
  request,
  page,
}) => {
  test.setTimeout(720_000);
  const dataDir = await mkdtemp(join(tmpdir(), "zumbrel-faults-"));
  const app = await startZumbrel(dataDir, ["--empty"]);
  const { address } = app;
  try {
    const id = await begin(request, address);
    expect((await request.post(`${address}/api/batches/${id}/runs`, { data: {} })).ok()).toBe(true);
    const answers = () =>
      request.get(`${address}/api/desk`, { timeout: 5000 }).then(
        (response) => response.status(),
        () => 0,
      );
    const kill = (what: RegExp) => {
      const pids = pidsOf(dataDir, what);
      expect(pids.length, String(what)).toBeGreaterThan(0);
      for (const pid of pids) process.kill(pid, "SIGKILL");
      return pids;
    };
    for (const what of [
      /\.build\/worker\.mjs/,
      /postgres -D|bin\/postgres/,
      /\.build\/web\.mjs/,
      /\.build\/worker\.mjs/,
    ]) {
      const before = kill(what);
      await expect
        .poll(() => pidsOf(dataDir, what).filter((pid) => !before.includes(pid)).length, { timeout: 90_000 })
        .toBeGreaterThan(0);
      await expect.poll(answers, { timeout: 90_000 }).toBe(200);
    }
    interface Run {
      finished: boolean;
      items: { state: string; error: string | null; name: string }[];
    }
    const runs = async () =>
      ((await (await request.get(`${address}/api/runs`)).json()) as { runs: { id: string }[] }).runs;
    const [{ id: runId }] = await runs();
    const run = async () =>
      (await (await request.get(`${address}/api/runs/${runId}`, { maxRetries: 3 })).json()) as Run;
    await expect
      .poll(async () => (await run()).items.filter((item) => item.state === "done").length, {
        timeout: 240_000,
      })
      .toBe(PHOTOS);
    const { items } = await run();
    expect(new Set(items.map(({ name }) => name)).size).toBe(PHOTOS);
    const check = (await (
      await request.post(`${address}/api/storage`, { data: { do: "check" } })
    ).json()) as {
      missing: number;
    };
    expect(check.missing).toBe(0);

    // A page that is open says what is going on, and comes back.
    await page.goto(address);
    await expect(page.getByRole("button", { name: /^Hard times/ })).toBeVisible();
    const postmaster = pidsOf(dataDir, /bin\/postgres/);
    for (const pid of postmaster) process.kill(pid, "SIGSTOP");
    for (const pid of postmaster) process.kill(pid, "SIGKILL");
    await page.getByRole("button", { name: /^Hard times/ }).click();
    await expect(page.getByText(/being started again/)).toHaveCount(0, { timeout: 90_000 });
    await expect(page.getByRole("grid").getByText("p3.jpg", { exact: true })).toBeVisible({
      timeout: 90_000,
    });
    expect(app.process.exitCode).toBeNull();
  } finally {
    await app.stop();
    await rm(dataDir, { recursive: true, force: true });
  }
});
