import { createReadStream } from "node:fs";
import { join } from "node:path";
import { bring, getStore, getWorkspace, route } from "@/app/server";
import { SAMPLE_BATCH } from "@/core/brief";
import { announce } from "@/store";
import { createBatch } from "@/store/queries";

/** The made-up portrait that ships with the application. */
const PHOTO = "docs/example/portrait.jpg";

/** A batch with one photo, to try everything on. */
export const POST = route(async () => {
  const { db } = getStore();
  const id = await createBatch(db, {
    workspaceId: await getWorkspace(),
    name: SAMPLE_BATCH,
    revisionId: null,
  });
  await bring(
    id,
    new URLSearchParams({ name: "portrait.jpg" }),
    createReadStream(join(process.cwd(), PHOTO)),
  );
  await announce(db, null);
  return { id };
});
