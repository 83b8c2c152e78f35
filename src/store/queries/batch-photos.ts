import { and, eq, isNull, sql } from "drizzle-orm";
import type { Facts } from "@/core/proof";
import { addJobs, PRIORITY } from "../queue";
import { batchPhotos, photos } from "../schema";
import type { Executor } from "../store";
import { assign } from "./batch-briefs";
import type { BatchRow } from "./batch-rows";
import { claimFiles } from "./files";

export interface NewPhoto {
  name: string;
  /** Below the folder that was brought in, parted by "/". */
  folder?: string;
  /** Photos of a batch are shown in this order; milliseconds since 1970 where nobody says. */
  position?: number;
  sha256: string;
  bytes: number;
  facts: Facts;
}

/**
 * Brings a stored file into a batch. The same bytes twice are one photo, under the name that came first; a
 * removed one comes back. `here`: the batch had it.
 */
export async function addPhoto(
  db: Executor,
  batch: BatchRow,
  photo: NewPhoto,
): Promise<{ batchPhotoId: string; photoId: string; here: boolean }> {
  await claimFiles(db, [photo.sha256]);
  const [fresh] = await db
    .insert(photos)
    .values({ workspaceId: batch.workspaceId, sha256: photo.sha256, facts: photo.facts })
    .onConflictDoNothing()
    .returning({ id: photos.id });
  const [same] = await db
    .select({ id: photos.id })
    .from(photos)
    .where(and(eq(photos.workspaceId, batch.workspaceId), eq(photos.sha256, photo.sha256)));
  const [before] = await db
    .select({ id: batchPhotos.id })
    .from(batchPhotos)
    .where(
      and(
        eq(batchPhotos.batchId, batch.id),
        eq(batchPhotos.photoId, same.id),
        eq(batchPhotos.copy, 0),
        isNull(batchPhotos.deletedAt),
      ),
    );
  const [placed] = await db
    .insert(batchPhotos)
    .values({
      batchId: batch.id,
      photoId: same.id,
      name: photo.name,
      folder: photo.folder ?? "",
      position: photo.position ?? Date.now(),
    })
    .onConflictDoUpdate({
      target: [batchPhotos.batchId, batchPhotos.photoId, batchPhotos.copy],
      set: { deletedAt: null },
    })
    .returning({ id: batchPhotos.id });
  // One that comes back after its bytes were given up has lost its small picture too.
  const [lost] = fresh
    ? [fresh]
    : await db
        .update(photos)
        .set({ thumbSha256: null })
        .where(
          and(
            eq(photos.id, same.id),
            sql`exists (select 1 from files f where f.sha256 = ${photos.thumbSha256} and f.gone)`,
          ),
        )
        .returning({ id: photos.id });
  if (lost || batch.slots.length) await addJobs(db, "thumb", [same.id], PRIORITY.thumb);
  const [row] = await db
    .select({ own: batchPhotos.revisionId })
    .from(batchPhotos)
    .where(eq(batchPhotos.id, placed.id));
  const revisionId = row.own ?? batch.revisionId;
  if (revisionId) await assign({ db, batchId: batch.id, revisionId, from: null, only: placed.id });
  return { batchPhotoId: placed.id, photoId: same.id, here: before !== undefined };
}
