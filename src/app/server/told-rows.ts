/**
 * What the pages were told of a batch's rows. Only rows that were written to since are read anew, and only those that
 * look otherwise are told again.
 */
import { randomUUID } from "node:crypto";
import { LRUCache } from "lru-cache";
import type { PlannedName } from "@/core/plan/names";
import type { Database } from "@/store";
import {
  type BatchRow,
  type ItemRow,
  itemsOf,
  itemVersions,
  type LatestRun,
  listRows,
  newestRun,
  rowVersions,
  type StoredRow,
  type Version,
} from "@/store/queries";
import type { Have, RowView } from "@/ui/api";

/** Things that were read, with the versions that they had then. */
class Known<T extends { id: string }> {
  private readonly held = new Map<string, { version: string; value: T }>();

  /** All of `versions` in that order; `load` is asked for those that are new or were written to. */
  async read(versions: readonly Version[], load: (ids: string[]) => Promise<T[]>): Promise<T[]> {
    const changed = versions.filter(({ id, version }) => this.held.get(id)?.version !== version);
    const fresh = new Map(
      changed.length ? (await load(changed.map(({ id }) => id))).map((value) => [value.id, value]) : [],
    );
    for (const { id, version } of changed) {
      const value = fresh.get(id);
      // It went between the two looks: the next one does not name it any more.
      if (value) this.held.set(id, { version, value });
      else this.held.delete(id);
    }
    const there = new Set(versions.map(({ id }) => id));
    for (const id of this.held.keys()) if (!there.has(id)) this.held.delete(id);
    return versions.flatMap(({ id }) => this.held.get(id)?.value ?? []);
  }
}

/** A batch as it stands in the database. */
export interface Standing {
  rows: StoredRow[];
  run: LatestRun | null;
  items: ItemRow[];
}

/** A row's view as it was worked out last, and what from. */
interface Worked {
  row: StoredRow;
  items: readonly ItemRow[];
  view: RowView;
}

/** A row as pages have it. */
interface Told {
  /** Its view before it was named, and that name. */
  plain: RowView;
  name: string;
  view: RowView;
  text: string;
  stamp: number;
}

export class ToldRows {
  private readonly epoch = randomUUID();
  private stamp = 0;
  private readonly rows = new Known<StoredRow>();
  private readonly items = new Known<ItemRow>();
  private readonly worked = new Map<string, Worked>();
  private readonly told = new Map<string, Told>();
  private order = { ids: "", stamp: 0 };
  private queue: Promise<unknown> = Promise.resolve();

  /** One look at a time, so that none puts back what another has seen to be newer. */
  alone<T>(look: () => Promise<T>): Promise<T> {
    const done = this.queue.then(look);
    this.queue = done.catch(() => undefined);
    return done;
  }

  async standing(db: Database, batch: BatchRow): Promise<Standing> {
    const [versions, run] = await Promise.all([rowVersions(db, batch.id), newestRun(db, batch.id)]);
    const [rows, items] = await Promise.all([
      this.rows.read(versions, (ids) => listRows(db, batch.id, ids)),
      run
        ? this.items.read(await itemVersions(db, run.row.id), (ids) => itemsOf(db, run.row.id, ids))
        : Promise.resolve([]),
    ]);
    return { rows, run, items };
  }

  /** The view of a row, worked out only where its row or its items are others than before. */
  view(row: StoredRow, items: readonly ItemRow[], work: () => RowView): RowView {
    const before = this.worked.get(row.id);
    if (before?.row === row && same(before.items, items)) return before.view;
    const view = work();
    this.worked.set(row.id, { row, items, view });
    return view;
  }

  /** What a page that holds `have` does not know yet; all of it where that is nothing, or of another time. */
  news(
    views: readonly RowView[],
    names: ReadonlyMap<string, PlannedName[]>,
    have: Have | null,
  ): { rows: RowView[]; order: string[] | null; have: Have } {
    const next = this.stamp + 1;
    const told = views.map((view) => this.note(view, names.get(view.id) ?? [], next));
    const there = new Set(views.map(({ id }) => id));
    for (const map of [this.told, this.worked])
      for (const id of map.keys()) if (!there.has(id)) map.delete(id);
    const ids = [...there].join(" ");
    if (ids !== this.order.ids) this.order = { ids, stamp: (this.stamp = next) };
    const since = have?.epoch === this.epoch ? have.stamp : -1;
    return {
      rows: told.filter(({ stamp }) => stamp > since).map(({ view }) => view),
      order: this.order.stamp > since ? [...there] : null,
      have: { epoch: this.epoch, stamp: this.stamp },
    };
  }

  private note(plain: RowView, named: readonly PlannedName[], next: number): Told {
    const { id } = plain;
    const name = JSON.stringify(named);
    const before = this.told.get(id);
    if (before?.plain === plain && before.name === name) return before;
    const view = withNames(plain, named);
    const text = JSON.stringify(view);
    const same = before?.text === text;
    const told = { plain, name, view, text, stamp: same ? before.stamp : (this.stamp = next) };
    this.told.set(id, told);
    return told;
  }
}

const same = (a: readonly ItemRow[], b: readonly ItemRow[]): boolean =>
  a.length === b.length && a.every((one, i) => one === b[i]);

/** One name a file, in their order. */
function withNames(view: RowView, [first, ...others]: readonly PlannedName[]): RowView {
  if (!first) return view;
  const set = view.set?.map((file, i) => ({
    ...file,
    name: file.name ?? (i === 0 ? first : others[i - 1])?.path ?? null,
  }));
  return { ...view, outputName: first.path, nameNotes: first.notes, set: set ?? null };
}

/** The batches that were looked at last. */
const batches = new LRUCache<string, ToldRows>({ max: 8 });

export function toldRows(batchId: string): ToldRows {
  const known = batches.get(batchId) ?? new ToldRows();
  batches.set(batchId, known);
  return known;
}
