/** The workspace everything belongs to; one called local for now. */
import { eq } from "drizzle-orm";
import { settings, workspaces } from "../schema";
import type { Executor } from "../store";

export async function localWorkspace(db: Executor): Promise<string> {
  await db.insert(workspaces).values({ name: "local" }).onConflictDoNothing();
  const [row] = await db.select({ id: workspaces.id }).from(workspaces).where(eq(workspaces.name, "local"));
  return row.id;
}

export async function getSetting(db: Executor, key: string): Promise<unknown> {
  const [row] = await db.select({ value: settings.value }).from(settings).where(eq(settings.key, key));
  return row?.value ?? null;
}

export async function putSetting(db: Executor, key: string, value: unknown): Promise<void> {
  await db
    .insert(settings)
    .values({ key, value })
    .onConflictDoUpdate({ target: settings.key, set: { value } });
}
