/** Rows of stored bytes. */
import { eq } from "drizzle-orm";
import { files } from "../schema";
import type { Executor } from "../store";

/** Says that these bytes are on disk: a new row, or one whose bytes had been given up. */
export async function rememberFile(
  db: Executor,
  { sha256, bytes }: { sha256: string; bytes: number },
): Promise<void> {
  await db
    .insert(files)
    .values({ sha256, bytes })
    .onConflictDoUpdate({ target: files.sha256, set: { gone: false } });
}

/** Whether a file may be taken away again because its row does not exist. */
export async function isRemembered(db: Executor, sha256: string): Promise<boolean> {
  const [row] = await db.select({ gone: files.gone }).from(files).where(eq(files.sha256, sha256));
  return row !== undefined && !row.gone;
}
