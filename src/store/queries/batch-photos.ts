import { and, eq, isNull, sql } from "drizzle-orm";
import type { Facts } from "@/core/proof";
import { addJobs, addThumbs, PRIORITY } from "../queue";
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
  const [same] = await db
    .insert(photos)
    .values({ workspaceId: batch.workspaceId, sha256: photo.sha256, facts: photo.facts })
    // Nothing changes; it gives back the row that is there.
    .onConflictDoUpdate({ target: [photos.workspaceId, photos.sha256], set: { sha256: photo.sha256 } })
    .returning({ id: photos.id, fresh: sql<boolean>`xmax = 0` });
  const here = !same.fresh && (await isThere(db, batch.id, same.id));
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
    .returning({ id: batchPhotos.id, own: batchPhotos.revisionId });
  // One that comes back after its bytes were given up has lost its small picture too.
  const [lost] = same.fresh
    ? [same]
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
  // What a photo shows is proposed for a document as soon as it is there.
  if (batch.slots.length) await addJobs(db, "thumb", [same.id], PRIORITY.thumb);
  else if (lost) await addThumbs(db, batch.id);
  const revisionId = placed.own ?? batch.revisionId;
  if (revisionId) await assign({ db, batchId: batch.id, revisionId, from: null, only: placed.id });
  return { batchPhotoId: placed.id, photoId: same.id, here };
}

async function isThere(db: Executor, batchId: string, photoId: string): Promise<boolean> {
  const found = await db
    .select({ id: batchPhotos.id })
    .from(batchPhotos)
    .where(
      and(
        eq(batchPhotos.batchId, batchId),
        eq(batchPhotos.photoId, photoId),
        eq(batchPhotos.copy, 0),
        isNull(batchPhotos.deletedAt),
      ),
    );
  return found.length > 0;
}

/** Photos of a batch that have no small picture yet, in its order. */
export async function photosWithoutThumb(db: Executor, batchId: string): Promise<string[]> {
  const rows = await db
    .select({ id: photos.id })
    .from(photos)
    .innerJoin(batchPhotos, eq(batchPhotos.photoId, photos.id))
    .where(and(eq(batchPhotos.batchId, batchId), isNull(batchPhotos.deletedAt), isNull(photos.thumbSha256)))
    .orderBy(batchPhotos.position);
  return rows.map((row) => row.id);
}

/** What a photo shows, in words. False where it is not in the batch. */
export async function setAlt(
  db: Executor,
  batchId: string,
  batchPhotoId: string,
  alt: string,
): Promise<boolean> {
  const rows = await db
    .update(batchPhotos)
    .set({ alt })
    .where(
      and(eq(batchPhotos.id, batchPhotoId), eq(batchPhotos.batchId, batchId), isNull(batchPhotos.deletedAt)),
    )
    .returning({ id: batchPhotos.id });
  return rows.length > 0;
}
