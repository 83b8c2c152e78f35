/** Where this clone keeps its data. */
import { createHash } from "node:crypto";
import { join } from "node:path";

/**
 * As root a folder that PostgreSQL's account can enter, whatever the clone's own
 * permissions are; otherwise inside the clone. `ZUMBREL_DATA` names another, for tests.
 */
export function dataFolder(root: string): string {
  if (process.env.ZUMBREL_DATA) return process.env.ZUMBREL_DATA;
  if (process.getuid?.() !== 0) return join(root, ".data");
  return join("/var/lib/zumbrel", createHash("sha256").update(root).digest("hex").slice(0, 16));
}
