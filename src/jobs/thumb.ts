/** The small picture of a photo for the grid. */
import { eq } from "drizzle-orm";
import { preview } from "@/imaging/shown";
import type { Store } from "@/store";
import { announce, batchPhotos, photos } from "@/store";
import { keepBytes } from "@/store/queries";

/** Longest side in px: twice what the grid shows, for dense screens. */
const SIDE = 112;

export async function thumb(store: Store, photoId: string): Promise<void> {
  const [photo] = await store.db
    .select({ sha256: photos.sha256, thumb: photos.thumbSha256 })
    .from(photos)
    .where(eq(photos.id, photoId));
  if (!photo || photo.thumb) return;
  const { sha256 } = await keepBytes(store, await preview(await store.files.read(photo.sha256), SIDE));
  await store.db.update(photos).set({ thumbSha256: sha256 }).where(eq(photos.id, photoId));
  const placed = await store.db
    .select({ id: batchPhotos.batchId })
    .from(batchPhotos)
    .where(eq(batchPhotos.photoId, photoId));
  for (const { id } of placed) await announce(store.db, id);
}
