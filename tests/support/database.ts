/** A PostgreSQL cluster of the tests' own, started once for all test files. */
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Postgres } from "@/launch/postgres";

export default async function setup(): Promise<() => Promise<void>> {
  const folder = await mkdtemp(join(tmpdir(), "zumbrel-test-"));
  const server = await Postgres.start(folder);
  process.env.ZUMBREL_TEST_DATABASE = server.url;
  return async () => {
    await server.stop();
    await rm(folder, { recursive: true, force: true });
  };
}
