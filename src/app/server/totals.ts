/** Limits on the whole, for the Desk: what they are, what the photos take now, and what was settled. */
import { LRUCache } from "lru-cache";
import { limitsWhole, resolveBrief } from "@/core/brief";
import type { Limit } from "@/core/budget";
import { fileBytesWithin } from "@/core/delivery/mail";
import { countedAs, overheadOf } from "@/delivery";
import type { Database } from "@/store";
import type { BatchRow, listRows } from "@/store/queries";
import { sharesOf } from "@/store/queries";
import type { BriefInUse, TotalView } from "@/ui/api";

type StoredRow = Awaited<ReturnType<typeof listRows>>[number];

export async function totalViews(
  db: Database,
  batch: BatchRow,
  briefs: readonly BriefInUse[],
  rows: readonly StoredRow[],
): Promise<TotalView[]> {
  const limited = briefs.filter((brief) => limitsWhole(brief.body) && brief.rows > 0);
  if (!limited.length) return [];
  const states = await sharesOf(db, batch.id);
  return Promise.all(
    limited.map(async ({ revisionId, body }) => {
      const { max, counted } = resolveBrief(body).total!;
      const limit: Limit = { max, counted, messages: counted === "mail" ? batch.messages : 1 };
      const mine = rows.filter((row) => row.revisionId === revisionId);
      const now = mine.map((row) => row.facts.bytes);
      const fixed = await overhead(
        limit,
        body.name,
        mine.map((row) => row.name),
      );
      const each = countedAs(limit);
      const common = {
        revisionId,
        limit,
        photos: mine.length,
        now: now.reduce((sum, bytes) => sum + each(bytes), fixed),
        room: counted === "mail" ? fileBytesWithin(max * limit.messages - fixed) : max,
      };
      const state = states.get(revisionId);
      const current =
        state && state.limit.max === limit.max && state.limit.messages === limit.messages ? state : null;
      // Files that a share was settled for and are all made: what they really take.
      const measured = mine.flatMap((row) => (row.measured?.bytes != null ? [row.measured.bytes] : []));
      const bytes =
        current &&
        current.state !== "settling" &&
        current.state !== "cannot" &&
        measured.length === mine.length
          ? measured.reduce((sum, one) => sum + each(one), fixed)
          : (current?.total ?? null);
      return {
        ...common,
        state: current?.state ?? "settling",
        waiting: current?.waiting ?? mine.length,
        level: current?.level ?? null,
        side: current?.side ?? null,
        bytes,
        why: current?.why ?? null,
        offers: current?.offers ?? [],
      };
    }),
  );
}

/** The same names give the same bytes of headers: worked out once, not at every look. */
const known = new LRUCache<string, Promise<number>>({ max: 50 });

function overhead(limit: Limit, subject: string, names: readonly string[]): Promise<number> {
  const key = JSON.stringify([limit.counted, limit.messages, subject, names]);
  const found = known.get(key) ?? overheadOf(limit, subject, names);
  known.set(key, found);
  found.catch(() => known.delete(key));
  return found;
}
