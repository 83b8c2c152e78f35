/** Brings the database to the newest schema, the queue's tables included. */
import { join } from "node:path";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import { Logger, runMigrations } from "graphile-worker";
import type { Store } from "./store";

/** `root` is the folder of the clone. */
export async function migrateStore(store: Store, root: string): Promise<void> {
  await migrate(store.db, { migrationsFolder: join(root, "src/store/migrations") });
  await runMigrations({ pgPool: store.pool, logger: new Logger(() => () => undefined) });
}
