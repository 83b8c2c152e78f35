/** A database of its own for a test file, and a file store in a temporary folder. */
import { randomBytes } from "node:crypto";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pg from "pg";
import { readSource } from "@/imaging/source";
import { openStore, type Store } from "@/store";
import { addPhoto, type BatchRow, getBatch, keepBytes } from "@/store/queries";

export async function freshStore(): Promise<{ store: Store; close: () => Promise<void> }> {
  const server = process.env.ZUMBREL_TEST_DATABASE!;
  const name = `t${randomBytes(6).toString("hex")}`;
  const admin = new pg.Client({ connectionString: server });
  await admin.connect();
  await admin.query(`create database ${name} template template_migrated`);
  await admin.end();
  const dataDir = await mkdtemp(join(tmpdir(), "zumbrel-store-"));
  const store = openStore({ database: server.replace(/\/zumbrel$/, `/${name}`), dataDir });
  return {
    store,
    close: async () => {
      await store.pool.end();
      await rm(dataDir, { recursive: true, force: true });
    },
  };
}

export async function bringIn(
  store: Store,
  workspaceId: string,
  batchId: string,
  name: string,
  bytes: Buffer,
) {
  const { sha256, bytes: size } = await keepBytes(store, bytes);
  const { facts } = await readSource(bytes);
  const batch: BatchRow = (await getBatch(store.db, workspaceId, batchId))!;
  return addPhoto(store.db, batch, { name, sha256, bytes: size, facts });
}
