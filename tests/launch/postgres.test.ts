import { spawn } from "node:child_process";
import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pg from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { dataFolder } from "@/launch/places";
import { freePort, Postgres } from "@/launch/postgres";

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "zumbrel-pg-"));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

async function ask(url: string, text: string): Promise<unknown> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return Object.values((await client.query<Record<string, unknown>>(text)).rows[0] ?? {})[0];
  } finally {
    await client.end();
  }
}

describe("the database server", () => {
  it("listens on loopback with a password, is taken over while it runs, and comes back after it was killed", async () => {
    const first = await Postgres.start(folder);
    expect(await ask(first.url, "show listen_addresses")).toBe("127.0.0.1");
    expect(await ask(first.url, "show unix_socket_directories")).toBe("");
    await ask(first.url, "create table kept as select 42 as answer");
    await expect(ask(first.url.replace(/:[0-9a-f]{48}@/, ":wrong@"), "select 1")).rejects.toThrow(/password/);

    const second = await Postgres.start(folder);
    expect(second.port).toBe(first.port);

    const pid = Number((await readFile(join(folder, "db/postmaster.pid"), "utf8")).split("\n")[0]);
    process.kill(pid, "SIGKILL");
    await expect
      .poll(() => readFile(`/proc/${pid}/cmdline`, "utf8").catch(() => ""), { timeout: 10_000 })
      .toBe("");
    const third = await Postgres.start(folder);
    expect(await ask(third.url, "select answer from kept")).toBe(42);
    await third.stop();

    // A number of a process that is somebody else's is no server of ours.
    const stranger = spawn("sleep", ["60"]);
    const lines = [
      String(stranger.pid),
      join(folder, "db"),
      "0",
      String(await freePort()),
      "",
      "127.0.0.1",
      "",
    ].join("\n");
    await writeFile(join(folder, "db/postmaster.pid"), lines);
    const fourth = await Postgres.start(folder);
    expect(await ask(fourth.url, "select answer from kept")).toBe(42);
    expect(stranger.exitCode).toBeNull();
    stranger.kill();
    await fourth.stop();
    await expect(ask(fourth.url, "select 1")).rejects.toThrow();
  });

  it("gives each clone a place of its own", () => {
    const own = process.env.ZUMBREL_DATA;
    delete process.env.ZUMBREL_DATA;
    expect(dataFolder("/a")).not.toBe(dataFolder("/b"));
    expect(dataFolder("/a")).toBe(dataFolder("/a"));
    process.env.ZUMBREL_DATA = "/elsewhere";
    expect(dataFolder("/a")).toBe("/elsewhere");
    if (own === undefined) delete process.env.ZUMBREL_DATA;
    else process.env.ZUMBREL_DATA = own;
  });
});
