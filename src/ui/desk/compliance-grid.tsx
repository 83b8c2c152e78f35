"use client";

/** A row a photo, a column a clause: now, what it will be, and the gauge. */
import { useVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, type MouseEvent, useEffect, useMemo, useRef } from "react";
import { type Brief, type ClauseKey, formatName, type ResolvedBrief, resolveBrief } from "@/core/brief";
import { nameNoteWords } from "@/core/plan/names";
import { pixelGauge } from "@/core/proof/gauge";
import { formatBytes, formatPpi, formatSize, trimNumber } from "@/core/units";
import type { BatchView, RowView } from "../api";
import { call, useChange } from "../api";
import { dragRow } from "../documents";
import { Gauge, rowState, STATE_INK, STATE_WORDS, StateMark, toneOf } from "../parts";

interface Props {
  batch: BatchView;
  chosen: string | null;
  /** Rows marked together with the chosen one. */
  marked: ReadonlySet<string>;
  onChoose: (id: string, marked?: ReadonlySet<string>) => void;
}

const ROW = 62;
const GROUP = 30;

interface Column {
  key: string;
  title: string;
  width: string;
  cell: (row: RowView, brief: ResolvedBrief | null) => React.ReactNode;
}

/** A column a clause: those that any brief of the batch states. */
function columnsOf(briefs: readonly Brief[]): Column[] {
  const stated = (...keys: ClauseKey[]) =>
    briefs.some((brief) => keys.some((key) => brief[key] !== undefined));
  const columns: Column[] = [
    { key: "photo", title: "Photo", width: "minmax(90px,1fr)", cell: (row) => <PhotoCell row={row} /> },
  ];
  if (stated("format"))
    columns.push({ key: "format", title: "Format", width: "44px", cell: (row) => <FormatCell row={row} /> });
  columns.push({
    key: "pixels",
    title: "Pixels",
    width: "minmax(92px,158px)",
    cell: (row, brief) => <PixelCell row={row} brief={brief} />,
  });
  columns.push({
    key: "size",
    title: "File size",
    width: "minmax(86px,114px)",
    cell: (row, brief) => <SizeCell row={row} brief={brief} />,
  });
  if (stated("paper"))
    columns.push({
      key: "paper",
      title: "Paper",
      width: "84px",
      cell: (row, brief) => <PaperCell row={row} brief={brief} />,
    });
  else if (stated("resolution"))
    columns.push({
      key: "resolution",
      title: "Resolution",
      width: "74px",
      cell: (row) => <ResolutionCell row={row} />,
    });
  if (stated("quality"))
    columns.push({
      key: "quality",
      title: "Quality",
      width: "50px",
      cell: (row, brief) => <QualityCell row={row} brief={brief} />,
    });
  columns.push({
    key: "verdict",
    title: "Verdict",
    width: "minmax(84px,110px)",
    cell: (row) => <VerdictCell row={row} />,
  });
  return columns;
}

type Item = { kind: "group"; name: string; count: number } | { kind: "row"; row: RowView };

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
  const { items, rows } = useMemo(() => arrange(batch), [batch]);
  const columns = useMemo(() => columnsOf(batch.briefs.map((brief) => brief.body)), [batch.briefs]);
  const resolved = useMemo(
    () => new Map(batch.briefs.map((brief) => [brief.revisionId, resolveBrief(brief.body)])),
    [batch.briefs],
  );
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroll.current,
    estimateSize: (i) => (items[i]?.kind === "group" ? GROUP : ROW),
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
                className="grid h-11 w-[46px] place-items-center overflow-hidden rounded-[4px] bg-ground"
              >
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

function PhotoCell({ row }: { row: RowView }) {
  const second =
    row.made?.state === "done"
      ? `made: ${row.made.name}`
      : row.nameNotes.some((note) => note.kind !== "pattern")
        ? nameNoteWords(row.nameNotes.find((note) => note.kind !== "pattern")!)
        : row.verdict?.state === "meets" && row.verdict.reason
          ? row.verdict.reason
          : firstStep(row);
  return (
    <>
      <span
        className="block truncate font-semibold"
        title={row.folder ? `${row.folder}/${row.name}` : row.name}
      >
        {row.name}
      </span>
      <span className="block truncate text-small text-second" title={second}>
        {second}
      </span>
    </>
  );
}

const firstStep = (row: RowView): string =>
  row.steps[0] ? row.steps[0].do[0].toLowerCase() + row.steps[0].do.slice(1) : "";

/** Kinds whose names are too long for their column. */
const SHORT: Record<string, string> = { raw: "raw", ora: "ORA" };

function FormatCell({ row }: { row: RowView }) {
  const will = row.outputName?.split(".").pop()?.toLowerCase().replace("jpg", "jpeg") ?? null;
  return (
    <>
      <b className="figures block">{will ? formatName(will) : "–"}</b>
      <span className="figures block truncate text-small text-second" title={formatName(row.before.format)}>
        {SHORT[row.before.format] ?? formatName(row.before.format)}
      </span>
    </>
  );
}

function PixelCell({ row, brief }: { row: RowView; brief: ResolvedBrief | null }) {
  const now = formatSize(row.before.width, row.before.height);
  const will = row.geometry ? formatSize(row.geometry.width, row.geometry.height) : null;
  const same = will === now;
  return (
    <>
      <span className="flex items-baseline justify-between gap-1">
        <b className="figures whitespace-nowrap">
          {will ?? (row.verdict?.state === "cannot" ? "cannot" : "–")}
        </b>
        <span className="figures truncate text-[10.5px] text-second max-[1150px]:hidden">
          {same ? "as it is" : now.replaceAll(" ", "")}
        </span>
      </span>
      <Gauge
        {...pixelGauge(brief, row.before, row.geometry)}
        tone={toneOf(row)}
        width={150}
        label={`now ${now}, will be ${will ?? "nothing"}`}
      />
    </>
  );
}

function SizeCell({ row, brief }: { row: RowView; brief: ResolvedBrief | null }) {
  const bytes = row.made?.state === "done" ? row.made.bytes : row.bytes;
  const words = bytes === null ? "–" : formatBytes(bytes);
  return (
    <>
      <span className="flex items-baseline justify-between gap-1">
        <b className={`figures whitespace-nowrap ${row.figure === "about" ? "font-normal text-second" : ""}`}>
          {row.figure === "about" ? `about ${words}` : words}
        </b>
        {row.figure !== "about" && (
          <span className="figures text-[10.5px] whitespace-nowrap text-second max-[1150px]:hidden">
            {formatBytes(row.before.bytes)}
          </span>
        )}
      </span>
      <Gauge
        min={brief?.fileSize.min ?? null}
        max={brief?.fileSize.max ?? null}
        now={row.before.bytes}
        will={bytes}
        tone={toneOf(row)}
        width={110}
        label={
          `now ${formatBytes(row.before.bytes)}, will be ` +
          `${row.figure === "about" ? "about " : ""}${words}`
        }
      />
    </>
  );
}

function ResolutionCell({ row }: { row: RowView }) {
  return (
    <>
      <b className="figures block whitespace-nowrap">{row.ppi === null ? "–" : formatPpi(row.ppi)}</b>
      <span className="figures block truncate text-small text-second">
        {row.before.resolution ? `now ${Math.round(row.before.resolution[0])}` : "now none"}
      </span>
    </>
  );
}

/** How large it prints at the resolution that it will carry. */
function PaperCell({ row, brief }: { row: RowView; brief: ResolvedBrief | null }) {
  const { geometry, ppi } = row;
  const mm = (px: number) => trimNumber((px / ppi!) * 25.4, px / ppi! < 4 ? 1 : 0);
  return (
    <>
      <b className="figures block whitespace-nowrap">
        {geometry && ppi && (brief?.paper || brief?.resolution)
          ? `${mm(geometry.width)} × ${mm(geometry.height)}`
          : "–"}
      </b>
      <span className="figures block truncate text-small text-second">
        {geometry && ppi ? `${brief?.paper || brief?.resolution ? "mm, " : ""}${Math.round(ppi)} ppi` : ""}
      </span>
    </>
  );
}

function QualityCell({ row, brief }: { row: RowView; brief: ResolvedBrief | null }) {
  const found = [...(row.made?.checks ?? []), ...row.checks].find(
    (check) => check.clause === "quality",
  )?.found;
  return (
    <>
      <b className="figures block whitespace-nowrap">{brief?.quality && found ? found.split(",")[0] : "–"}</b>
      <span className="figures block truncate text-small text-second">
        {row.before.quality !== null ? `now ${row.before.quality}` : ""}
      </span>
    </>
  );
}

function VerdictCell({ row }: { row: RowView }) {
  const { state, reason, working } = rowState(row);
  if (working) return <span className="text-small text-second">{reason}</span>;
  if (!state) return null;
  return (
    <span className="flex items-center gap-1.5">
      <StateMark state={state} />
      <span className="min-w-0">
        <b className={`block ${STATE_INK[state]}`}>
          {row.made?.state === "done" ? "Met" : STATE_WORDS[state]}
        </b>
        <span className="block truncate text-tiny text-second" title={reason}>
          {reason}
        </span>
      </span>
    </span>
  );
}
