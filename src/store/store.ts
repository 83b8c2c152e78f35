/** One handle on database and files, shared by everything in a process. */
import { join } from "node:path";
import { drizzle, type NodePgDatabase } from "drizzle-orm/node-postgres";
import pg from "pg";
import type { Environment } from "./env";
import { FileStore } from "./file-store";
import * as schema from "./schema";

export type Database = NodePgDatabase<typeof schema>;
/** The database, or a transaction on it. */
export type Executor = Pick<
  Database,
  "select" | "selectDistinct" | "insert" | "update" | "delete" | "execute"
>;

export interface Store {
  db: Database;
  pool: pg.Pool;
  files: FileStore;
  dataDir: string;
}

/**
 * `relaxed`: commits do not wait for the disk. For work that is done anew where a loss of power takes it away, because
 * its job ends by a commit that does wait, and what comes later in the log is never kept without what came before.
 */
export function openStore(
  environment: Pick<Environment, "database" | "dataDir">,
  { relaxed = false }: { relaxed?: boolean } = {},
): Store {
  const pool = new pg.Pool({
    connectionString: environment.database,
    max: 10,
    options: relaxed ? "-c synchronous_commit=off" : undefined,
  });
  // An idle connection that breaks must not end the process; the next query says what is wrong.
  pool.on("error", () => undefined);
  pool.on("connect", (client) => client.on("error", () => undefined));
  return {
    pool,
    db: drizzle(pool, { schema }),
    files: new FileStore(join(environment.dataDir, "files")),
    dataDir: environment.dataDir,
  };
}
