import { getStore, requireBatch, route } from "@/app/server";
import { standIn } from "@/imaging/shown";
import { listRows } from "@/store/queries";

/** By row, a small blurred picture as data URI: what a page shows until the file of the set is there. */
export const GET = route(async (_request, { id }): Promise<Record<string, string>> => {
  const batch = await requireBatch(id);
  const { db, files } = getStore();
  const out: Record<string, string> = {};
  for (const row of await listRows(db, batch.id)) {
    // Of the smallest file that every browser knows.
    const [first] = row.measured?.set ?? [];
    const plain = row.measured?.set?.filter(({ part }) => part.format === first.part.format).at(-1);
    if (!plain) continue;
    const bytes = await files.read(plain.outputSha256).catch(() => null);
    if (bytes) out[row.id] = await standIn(bytes);
  }
  return out;
});
