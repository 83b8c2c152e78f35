"use client";

/** A row a photo, a column a clause: now, what it will be, and the gauge. */
import { useVirtualizer } from "@tanstack/react-virtual";
import { ChevronDown, ChevronRight } from "lucide-react";
import { type KeyboardEvent, type MouseEvent, useEffect, useMemo, useRef, useState } from "react";
import { resolveBrief } from "@/core/brief";
import type { BatchView, RowView } from "../api";
import { call, useChange } from "../api";
import { dragRow } from "../documents";
import { columnsOf } from "./grid-cells";
import { SET_LINE, SetFiles } from "./set-files";

interface Props {
  batch: BatchView;
  chosen: string | null;
  /** Rows marked together with the chosen one. */
  marked: ReadonlySet<string>;
  onChoose: (id: string, marked?: ReadonlySet<string>) => void;
}

const ROW = 62;
const GROUP = 30;

type Item =
  | { kind: "group"; name: string; count: number }
  | { kind: "row"; row: RowView }
  /** The files of the set above. */
  | { kind: "files"; row: RowView };

const heightOf = (item: Item | undefined): number =>
  item?.kind === "group" ? GROUP : item?.kind === "files" ? filesHeight(item.row) : ROW;

/** Lines, and a little room around them. */
const filesHeight = ({ set }: RowView): number => (set?.length ?? 0) * SET_LINE + 14;

/** With the files under each row that is unfolded. */
const unfolded = (items: readonly Item[], open: ReadonlySet<string>): Item[] =>
  items.flatMap((item) =>
    item.kind === "row" && item.row.set && open.has(item.row.id)
      ? [item, { kind: "files", row: item.row }]
      : [item],
  );

/** Rows in the order shown: under a heading each where several briefs serve the batch. */
function arrange(batch: BatchView): { items: Item[]; rows: RowView[] } {
  const used = [...batch.briefs.filter((brief) => brief.rows > 0).map((brief) => brief.revisionId), null];
  const groups = used
    .map((id) => ({ id, rows: batch.rows.filter((row) => row.revisionId === id) }))
    .filter((group) => group.rows.length > 0);
  const rows = groups.flatMap((group) => group.rows);
  if (groups.length < 2) return { items: rows.map((row) => ({ kind: "row", row })), rows };
  const items = groups.flatMap(({ id, rows: mine }): Item[] => {
    const name =
      batch.briefs.find((brief) => brief.revisionId === id)?.body.name ??
      (batch.slots.length ? "For no document yet" : "No brief yet");
    return [
      { kind: "group", name, count: mine.length },
      ...mine.map((row) => ({ kind: "row" as const, row })),
    ];
  });
  return { items, rows };
}

export function ComplianceGrid({ batch, chosen, marked, onChoose }: Props) {
  const scroll = useRef<HTMLDivElement>(null);
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const arranged = useMemo(() => arrange(batch), [batch]);
  const { rows } = arranged;
  const items = useMemo(() => unfolded(arranged.items, open), [arranged, open]);
  const fold = (id: string, to?: boolean) =>
    setOpen((before) => {
      const next = new Set(before);
      if (to ?? !before.has(id)) next.add(id);
      else next.delete(id);
      return next;
    });
  const columns = useMemo(() => columnsOf(batch.briefs.map((brief) => brief.body)), [batch.briefs]);
  const resolved = useMemo(
    () => new Map(batch.briefs.map((brief) => [brief.revisionId, resolveBrief(brief.body)])),
    [batch.briefs],
  );
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroll.current,
    estimateSize: (i) => heightOf(items[i]),
    overscan: 6,
  });
  const visible = virtual.getVirtualItems();
  useEffect(() => virtual.measure(), [virtual, items]);
  useSight(
    batch.id,
    visible.flatMap(({ index }) => (items[index]?.kind === "row" ? [items[index].row] : [])),
  );
  const leaveOut = useChange((ids: string[]) =>
    call("POST", `batches/${batch.id}/remove`, {
      ids,
      words: (ids.length > 1
        ? `leaving out ${ids.length} photos`
        : `leaving out ${rows.find((row) => row.id === ids[0])?.name}`
      ).slice(0, 300),
    }),
  );

  const at = Math.max(
    0,
    rows.findIndex((row) => row.id === chosen),
  );
  const between = (from: number, to: number) =>
    new Set(rows.slice(Math.min(from, to), Math.max(from, to) + 1).map((row) => row.id));
  const go = (index: number, marking = false) => {
    const next = Math.min(rows.length - 1, Math.max(0, index));
    onChoose(rows[next].id, marking ? new Set([...marked, ...between(at, next)]) : undefined);
    virtual.scrollToIndex(items.findIndex((item) => item.kind === "row" && item.row.id === rows[next].id));
  };
  // A row that moves under another heading stays in sight.
  const place = items.findIndex((item) => item.kind === "row" && item.row.id === rows[at]?.id);
  useEffect(() => {
    if (place >= 0) virtual.scrollToIndex(place);
  }, [virtual, place]);
  const all = () => [...new Set([...marked, ...(rows[at] ? [rows[at].id] : [])])];
  const keys: Record<string, (shift: boolean) => void> = {
    ArrowDown: (shift) => go(at + 1, shift),
    ArrowUp: (shift) => go(at - 1, shift),
    PageDown: (shift) => go(at + 8, shift),
    PageUp: (shift) => go(at - 8, shift),
    Home: (shift) => go(0, shift),
    End: (shift) => go(rows.length - 1, shift),
    ArrowRight: () => rows[at]?.set && fold(rows[at].id, true),
    ArrowLeft: () => rows[at]?.set && fold(rows[at].id, false),
    Escape: () => go(at),
    Delete: () => leaveOut.mutate(all()),
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const act = keys[event.key];
    if (!act || !rows.length) return;
    event.preventDefault();
    act(event.shiftKey);
  };
  const onClick = (row: RowView, event: MouseEvent) => {
    if (event.shiftKey) onChoose(row.id, new Set([...marked, ...between(at, rows.indexOf(row))]));
    else if (event.ctrlKey || event.metaKey) {
      const next = new Set([...marked, ...(rows[at] ? [rows[at].id] : [])]);
      if (next.has(row.id)) next.delete(row.id);
      else next.add(row.id);
      onChoose(row.id, next);
    } else onChoose(row.id);
  };
  const template = `46px ${columns.map((column) => column.width).join(" ")}`;
  return (
    <div
      ref={scroll}
      role="grid"
      aria-label="Photos against the brief"
      aria-multiselectable
      aria-rowcount={items.length + 1}
      aria-activedescendant={rows[at] ? `row-${rows[at].id}` : undefined}
      tabIndex={0}
      onKeyDown={onKeyDown}
      className="min-h-0 overflow-y-auto outline-offset-[-2px]"
    >
      <div
        role="row"
        aria-rowindex={1}
        className="sticky top-0 z-10 grid gap-x-2.5 border-b border-rule bg-rail px-3.5 py-1.5 text-small font-semibold text-second"
        style={{ gridTemplateColumns: template }}
      >
        <span role="columnheader" className="sr-only">
          Picture
        </span>
        <span aria-hidden />
        {columns.map((column) => (
          <span key={column.key} role="columnheader">
            {column.title}
          </span>
        ))}
      </div>
      <div role="presentation" className="relative" style={{ height: virtual.getTotalSize() }}>
        {visible.map((place) => {
          const item = items[place.index];
          if (!item) return null;
          const where = { transform: `translateY(${place.start}px)` };
          if (item.kind === "group") {
            return (
              <div
                key={`group ${item.name}`}
                role="row"
                aria-rowindex={place.index + 2}
                className="absolute inset-x-0 flex items-end gap-2 border-b border-rule px-3.5 pb-1"
                style={{ ...where, height: GROUP }}
              >
                <span role="gridcell" className="truncate">
                  <b>{item.name}</b>{" "}
                  <span className="figures text-small text-second">{`${item.count} ${item.count === 1 ? "photo" : "photos"}`}</span>
                </span>
              </div>
            );
          }
          const { row } = item;
          if (item.kind === "files")
            return (
              <div
                key={`files ${row.id}`}
                role="row"
                aria-rowindex={place.index + 2}
                className="absolute inset-x-0 border-b border-thin bg-paper"
                style={{ ...where, height: filesHeight(row) }}
              >
                <div role="gridcell" className="pl-[74px]">
                  <SetFiles row={row} />
                </div>
              </div>
            );
          const on = chosen !== null && row.id === rows[at]?.id;
          const picked = on || marked.has(row.id);
          return (
            <div
              key={row.id}
              id={`row-${row.id}`}
              role="row"
              aria-rowindex={place.index + 2}
              aria-selected={picked}
              onClick={(event) => onClick(row, event)}
              className={`absolute inset-x-0 grid cursor-pointer items-center gap-x-2.5 border-b border-thin px-3.5 select-none ${picked ? "bg-wash" : "hover:bg-rail"} ${on ? "shadow-[inset_3px_0_0_var(--color-plum)]" : ""}`}
              style={{ gridTemplateColumns: template, height: ROW, ...where }}
            >
              <span
                role="gridcell"
                draggable={batch.slots.length > 0}
                onDragStart={(event) => dragRow(event, row.id)}
                className="relative grid h-11 w-[46px] place-items-center overflow-hidden rounded-[4px] bg-ground"
              >
                {row.set && (
                  <button
                    type="button"
                    tabIndex={-1}
                    aria-expanded={open.has(row.id)}
                    aria-label={`Files of ${row.name}`}
                    onClick={(event) => {
                      event.stopPropagation();
                      fold(row.id);
                    }}
                    className="absolute bottom-0 left-0 z-[1] grid h-5 min-w-5 place-items-center rounded-tr-[4px] bg-sheet px-1 text-tiny font-semibold text-plum"
                  >
                    {open.has(row.id) ? (
                      <ChevronDown size={13} aria-hidden />
                    ) : (
                      <ChevronRight size={13} aria-hidden />
                    )}
                  </button>
                )}
                {row.thumb && (
                  <img
                    src={`/api/photos/${row.photoId}/thumb`}
                    alt=""
                    draggable={false}
                    className="max-h-11 max-w-[46px]"
                  />
                )}
              </span>
              {columns.map((column) => (
                <div key={column.key} role="gridcell" className="min-w-0">
                  {column.cell(row, (row.revisionId && resolved.get(row.revisionId)) || null)}
                </div>
              ))}
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** Tells the server which rows are in sight and not measured yet, or without their picture; those go first. */
function useSight(batchId: string, rows: readonly RowView[]): void {
  const waiting = rows.filter((row) => row.figure === "about" || !row.thumb).map((row) => row.id);
  const key = waiting.join(" ");
  useEffect(() => {
    if (!key) return;
    const timer = setTimeout(
      () => void call("POST", `batches/${batchId}/sight`, { ids: key.split(" ") }).catch(() => undefined),
      200,
    );
    return () => clearTimeout(timer);
  }, [batchId, key]);
}
