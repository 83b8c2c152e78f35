/** Processes and the database are started again by themselves, and given up only where that is hopeless. */
import { type ChildProcess, fork } from "node:child_process";
import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { DatabaseWatch } from "@/launch/database-watch";
import { KeptAlive } from "@/launch/kept-alive";
import { Postgres } from "@/launch/postgres";

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "zumbrel-kept-"));
  await writeFile(
    join(folder, "child.mjs"),
    `process.send("ready"); process.on("message", (m) => { if (m === "throw") throw new Error("by itself"); });
     if (process.argv[2] === "ends") process.exit(3); else setInterval(() => {}, 1000);`,
  );
});
afterAll(() => rm(folder, { recursive: true, force: true }));

function kept(how: "stays" | "ends") {
  const children: ChildProcess[] = [];
  const said: string[] = [];
  let ends = 0;
  let given: string | null = null;
  const one = new KeptAlive({
    name: "the worker",
    start: () => {
      const child = fork(join(folder, "child.mjs"), [how], { stdio: ["ignore", "ignore", "ignore", "ipc"] });
      children.push(child);
      return child;
    },
    onEnd: async () => {
      ends += 1;
    },
    say: (text) => said.push(text),
    giveUp: (why) => {
      given = why;
    },
    pauses: [5],
  });
  return { one, children, said, ends: () => ends, given: () => given };
}

describe("a process", () => {
  it("is started again when somebody kills it, and when it ends by itself", async () => {
    const { one, children, said, ends } = kept("stays");
    await one.begin();
    const first = one.pid;
    children[0].kill("SIGKILL");
    await expect.poll(() => children.length).toBe(2);
    expect(one.pid).not.toBe(first);
    expect(ends()).toBe(1);
    expect(said[0]).toBe("the worker has ended (SIGKILL); it is being started again.");
    await new Promise<void>((ready) => children[1].once("message", () => ready()));
    children[1].send("throw");
    await expect.poll(ends).toBe(2);
    expect(said[1]).toBe("the worker has ended (1); it is being started again.");
    await expect.poll(() => children.length).toBe(3);
    await one.stop(2000);
    expect(children[2].killed).toBe(true);
    expect(children.length).toBe(3);
  });

  it("is given up after ten ends right after its start, in a sentence", async () => {
    const { one, children, given } = kept("ends");
    void one.begin();
    await expect
      .poll(given, { timeout: 15_000 })
      .toMatch(/the worker has ended 10 times right after it was started, the last time \(3\)/);
    expect(children.length).toBe(11);
  }, 20_000);
});

describe("the database", () => {
  it("is started again on its port when it was killed while idle", async () => {
    const server = await Postgres.start(folder);
    const { url } = server;
    const said: string[] = [];
    const watch = new DatabaseWatch({
      server,
      dataDir: folder,
      say: (text) => said.push(text),
      giveUp: (why) => said.push(`given up: ${why}`),
      lookMs: 50,
    });
    for (let n = 0; n < 2; n += 1) {
      const pid = Number((await readFile(join(folder, "db/postmaster.pid"), "utf8")).split("\n")[0]);
      process.kill(pid, "SIGKILL");
      await expect.poll(() => said.length, { timeout: 20_000 }).toBe(2 * (n + 1));
      expect(await server.alive()).toBe(true);
    }
    expect(said).toEqual(
      Array.from({ length: 2 }, () => [
        "the database has ended; it is being started again.",
        "the database is there again.",
      ]).flat(),
    );
    expect(server.url).toBe(url);
    await watch.stop();
    await server.stop();
    expect(await server.alive()).toBe(false);
  }, 60_000);

  it("is given up in a sentence where it cannot start", async () => {
    let given = "";
    const server = {
      alive: () => Promise.resolve(false),
      up: () => Promise.reject(new Error("its files are damaged")),
    };
    const watch = new DatabaseWatch({
      server,
      dataDir: folder,
      say: () => undefined,
      giveUp: (why) => {
        given = why;
      },
      lookMs: 1,
      pauses: [1],
    });
    await expect.poll(() => given).toBe("its files are damaged");
    await watch.stop();
  });
});
