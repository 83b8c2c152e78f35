/** A batch is told once; after that a page asks for what has changed since. */
import { call } from "./call";
import type { BatchNews, RowView } from "./contract";

/** The batches that were looked at last, as the server told them. */
const told = new Map<string, BatchNews>();
const MOST = 4;

export async function fetchBatch(id: string): Promise<BatchNews> {
  const before = told.get(id);
  const have = before ? `?have=${encodeURIComponent(`${before.have.epoch} ${before.have.stamp}`)}` : "";
  const news = await call<BatchNews>("GET", `batches/${id}${have}`);
  const now = withNews(told.get(id) ?? before, news);
  told.delete(id);
  told.set(id, now);
  for (const old of told.keys()) if (told.size > MOST) told.delete(old);
  return now;
}

/** What was known with what is new; rows that did not change stay the same objects. */
export function withNews(before: BatchNews | undefined, news: BatchNews): BatchNews {
  // What was asked for later may have come first.
  if (before?.have.epoch === news.have.epoch && before.have.stamp > news.have.stamp) return before;
  const rows = new Map<string, RowView>();
  for (const row of [...(before?.rows ?? []), ...news.rows]) rows.set(row.id, row);
  const order = news.order ?? before?.order ?? [];
  return { ...news, order, rows: order.flatMap((id) => rows.get(id) ?? []) };
}
