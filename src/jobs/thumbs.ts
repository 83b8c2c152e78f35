/** Small pictures of all photos that came into a batch: a job each, after what somebody looks at. */
import type { Store } from "@/store";
import { addJobs, PRIORITY } from "@/store";
import { photosWithoutThumb } from "@/store/queries";

export async function thumbs({ db }: Store, batchId: string): Promise<void> {
  await addJobs(db, "thumb", await photosWithoutThumb(db, batchId), PRIORITY.laterThumb);
}
