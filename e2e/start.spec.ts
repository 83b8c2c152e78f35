import { execFileSync } from "node:child_process";
import { mkdtemp, readFile, rm, stat } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@playwright/test";
import { jpegPhoto } from "../tests/support/photos";
import { startZumbrel } from "./support/start";

/** Processes whose command line or environment names the folder. */
function processesOf(folder: string): number[] {
  const out = execFileSync(
    "bash",
    ["-c", `grep -l -a -- "${folder}" /proc/[0-9]*/environ /proc/[0-9]*/cmdline 2>/dev/null || true`],
    { encoding: "utf8" },
  );
  const ids = new Set([...out.matchAll(/\/proc\/(\d+)\//g)].map((m) => Number(m[1])));
  const commandOf = (id: number) =>
    execFileSync("bash", ["-c", `(tr '\\0' ' ' < /proc/${id}/cmdline) 2>/dev/null || true`], {
      encoding: "utf8",
    });
  // The search itself is over by now and has no command line any more.
  return [...ids].filter(
    (id) => id !== process.pid && commandOf(id) !== "" && !commandOf(id).includes("grep"),
  );
}

test("start, kill -9 of everything, start again: the photo and the run are there", async ({ page }) => {
  test.setTimeout(720_000);
  const dataDir = await mkdtemp(join(tmpdir(), "zumbrel-kill-"));
  try {
    const first = await startZumbrel(dataDir, ["--empty"]);
    const call = (address: string, path: string, data?: unknown) =>
      data === undefined
        ? page.request.get(`${address}/api/${path}`)
        : page.request.post(`${address}/api/${path}`, {
            data: data as Buffer,
            headers: Buffer.isBuffer(data) ? { "content-type": "application/octet-stream" } : {},
          });
    const { id } = (await (await call(first.address, "batches", { name: "Survivor" })).json()) as {
      id: string;
    };
    for (let i = 0; i < 6; i += 1)
      expect(
        (
          await call(
            first.address,
            `batches/${id}/photos?name=p${i}.jpg`,
            await jpegPhoto(2000, 2500, 60 + i),
          )
        ).ok(),
      ).toBe(true);
    const { briefs } = (await (await call(first.address, "desk")).json()) as {
      briefs: { revisionId: string }[];
    };
    expect(
      (
        await page.request.put(`${first.address}/api/batches/${id}/brief`, {
          data: { revisionId: briefs[0].revisionId },
        })
      ).ok(),
    ).toBe(true);
    expect((await call(first.address, `batches/${id}/runs`, {})).ok()).toBe(true);

    const pids = processesOf(dataDir);
    expect(pids.length).toBeGreaterThan(3);
    for (const pid of pids) {
      try {
        process.kill(pid, "SIGKILL");
      } catch {
        // It ended with its parent.
      }
    }
    await expect.poll(() => processesOf(dataDir).length).toBe(0);

    const begun = Date.now();
    const second = await startZumbrel(dataDir, ["--empty"]);
    // 4 to 10 s seen, by how fast the machine is at that moment; a database that is not let go takes a minute.
    expect(Date.now() - begun).toBeLessThan(25_000);
    await expect
      .poll(
        async () =>
          (
            (await (await call(second.address, `batches/${id}`)).json()) as {
              run: { done: number; failed: number; finished: boolean };
            }
          ).run,
        { timeout: 240_000 },
      )
      .toMatchObject({ done: 6, failed: 0, finished: true });

    // A second start from the same data folder says where the first one is.
    await expect(startZumbrel(dataDir)).rejects.toThrow(/running already/);
    const stopping = Date.now();
    await second.stop();
    expect(Date.now() - stopping).toBeLessThan(5_000);
    expect(processesOf(dataDir)).toEqual([]);
    const secret = await stat(join(dataDir, "database.secret"));
    expect(secret.mode & 0o077).toBe(0);
    expect(await readFile(join(dataDir, "db/pg_hba.conf"), "utf8")).toBe(
      "host all all 127.0.0.1/32 scram-sha-256\n",
    );
  } finally {
    await rm(dataDir, { recursive: true, force: true });
  }
});
