/** Loads Quillmoor's batches: the generator's pictures become photos like any others. */
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { DEMO_BATCHES, DEMO_VERSION } from "@demo/batches";
import { STARTER_BRIEFS } from "@demo/briefs";
import { readSource } from "@/imaging/source";
import type { Store } from "@/store";
import { announce } from "@/store";
import {
  addPhoto,
  createBatch,
  createBrief,
  getBatch,
  keepBytes,
  listBriefs,
  localWorkspace,
  putDemoAway,
  putSetting,
} from "@/store/queries";
import { demoPictures } from "./demo-pictures";

/** Where the pictures are kept between loads. */
export const demoFolder = (dataDir: string): string => join(dataDir, "demo", DEMO_VERSION);

/** Puts the shipped briefs on the shelf, once. */
export async function shipBriefs(store: Store): Promise<void> {
  const workspaceId = await localWorkspace(store.db);
  const names = new Set((await listBriefs(store.db, workspaceId)).map((brief) => brief.body.name));
  for (const brief of STARTER_BRIEFS)
    if (!names.has(brief.name)) await createBrief(store.db, workspaceId, brief, { shipped: true });
}

/**
 * Makes the demo's batches anew; earlier ones are put away. Answers the pictures that were left out because
 * no maker for them is at hand.
 */
export async function loadDemo(store: Store, root: string, dataDir: string): Promise<string[]> {
  const folder = demoFolder(dataDir);
  const pictures = demoPictures(root, folder);
  const missing: string[] = [];
  const workspaceId = await localWorkspace(store.db);
  await shipBriefs(store);
  const shelf = await listBriefs(store.db, workspaceId);
  await putDemoAway(
    store.db,
    workspaceId,
    DEMO_BATCHES.flatMap((batch) => batch.photos),
  );
  for (const batch of DEMO_BATCHES) {
    // One batch after the other, as their pictures are made: the first is there after seconds.
    const made: string[] = [];
    for (const name of batch.photos) {
      if (await pictures.there(name)) made.push(name);
      else missing.push(name);
    }
    const revision = batch.brief === null ? null : shelf.find((brief) => brief.body.name === batch.brief);
    const id = await createBatch(store.db, {
      workspaceId,
      name: batch.name,
      revisionId: revision?.id ?? null,
      demo: true,
    });
    const row = await getBatch(store.db, workspaceId, id);
    for (const name of made) {
      const bytes = await readFile(join(folder, name));
      const { sha256, bytes: size } = await keepBytes(store, bytes);
      const { facts } = await readSource(bytes);
      await store.db.transaction((tx) => addPhoto(tx, row!, { name, sha256, bytes: size, facts }));
      await announce(store.db, id);
    }
    await announce(store.db, null);
  }
  await putSetting(store.db, "demo", DEMO_VERSION);
  await announce(store.db, null);
  return [...new Set(missing)];
}
