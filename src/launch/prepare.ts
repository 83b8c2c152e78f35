/** Sets the database's cluster up while pages are still being built; whatever is wrong is said by the start. */
import { dataFolder } from "./places";
import { Postgres } from "./postgres";

await Postgres.prepare(dataFolder(process.cwd())).catch(() => undefined);
