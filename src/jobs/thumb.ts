/** The small picture of a photo for the grid, and what it shows where a batch asks for documents. */
import { eq } from "drizzle-orm";
import { photoKind, preview } from "@/imaging/shown";
import type { Store } from "@/store";
import { announce, batches, batchPhotos, photos } from "@/store";
import { keepBytes } from "@/store/queries";

/** Longest side in px: twice what the grid shows, for dense screens. */
const SIDE = 112;

export async function thumb(store: Store, photoId: string): Promise<void> {
  const [photo] = await store.db
    .select({ sha256: photos.sha256, thumb: photos.thumbSha256, kind: photos.kind })
    .from(photos)
    .where(eq(photos.id, photoId));
  if (!photo) return;
  const placed = await store.db
    .select({ id: batches.id, slots: batches.slots })
    .from(batchPhotos)
    .innerJoin(batches, eq(batches.id, batchPhotos.batchId))
    .where(eq(batchPhotos.photoId, photoId));
  const tell = async () => {
    for (const { id } of placed) await announce(store.db, id);
  };
  const bytes = () => store.files.read(photo.sha256);
  if (!photo.thumb) {
    const { sha256 } = await keepBytes(store, await preview(await bytes(), SIDE));
    await store.db.update(photos).set({ thumbSha256: sha256 }).where(eq(photos.id, photoId));
    await tell();
  }
  if (!photo.kind && placed.some(({ slots }) => slots.length > 0)) {
    const kind = await photoKind(await bytes());
    await store.db.update(photos).set({ kind }).where(eq(photos.id, photoId));
    await tell();
  }
}
