"use client";

/** A row a photo, a column a clause: now, what it will be, and the gauge. */
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef, type KeyboardEvent } from "react";
import { formatName, resolveBrief, type Brief, type ResolvedBrief } from "@/core/brief";
import { formatBytes, formatPpi, formatSize } from "@/core/units";
import { call, useChange } from "../api/client";
import type { BatchView, RowView } from "../api/contract";
import { Gauge } from "../parts/gauge";
import { STATE_INK, STATE_WORDS, StateMark } from "../parts/state-mark";
import { pixelGauge, rowState, toneOf } from "./row-state";

interface Props {
  batch: BatchView;
  chosen: string | null;
  onChoose: (id: string) => void;
}

const ROW = 62;

interface Column {
  key: string;
  title: string;
  width: string;
  cell: (row: RowView) => React.ReactNode;
}

function columnsOf(brief: Brief | null, resolved: ResolvedBrief | null): Column[] {
  const columns: Column[] = [{ key: "photo", title: "Photo", width: "minmax(90px,1fr)", cell: (row) => <PhotoCell row={row} /> }];
  if (brief?.format) columns.push({ key: "format", title: "Format", width: "44px", cell: (row) => <FormatCell row={row} brief={brief} /> });
  columns.push({ key: "pixels", title: "Pixels", width: "minmax(92px,158px)", cell: (row) => <PixelCell row={row} brief={resolved} /> });
  columns.push({ key: "size", title: "File size", width: "minmax(86px,114px)", cell: (row) => <SizeCell row={row} brief={resolved} /> });
  if (brief?.resolution) columns.push({ key: "resolution", title: "Resolution", width: "74px", cell: (row) => <ResolutionCell row={row} /> });
  columns.push({ key: "verdict", title: "Verdict", width: "minmax(84px,110px)", cell: (row) => <VerdictCell row={row} /> });
  return columns;
}

export function ComplianceGrid({ batch, chosen, onChoose }: Props) {
  const scroll = useRef<HTMLDivElement>(null);
  const { rows } = batch;
  const brief = batch.brief?.body ?? null;
  const columns = useMemo(() => columnsOf(brief, brief && resolveBrief(brief)), [brief]);
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => scroll.current, estimateSize: () => ROW, overscan: 6 });
  const items = virtual.getVirtualItems();
  useSight(batch, items.map((item) => item.index));
  const leaveOut = useChange((row: RowView) => call("POST", `batches/${batch.id}/remove`, { ids: [row.id], words: `leaving out ${row.name}`.slice(0, 300) }));

  const at = Math.max(0, rows.findIndex((row) => row.id === chosen));
  const go = (index: number) => {
    const next = Math.min(rows.length - 1, Math.max(0, index));
    onChoose(rows[next].id);
    virtual.scrollToIndex(next);
  };
  const keys: Record<string, () => void> = {
    ArrowDown: () => go(at + 1),
    ArrowUp: () => go(at - 1),
    PageDown: () => go(at + 8),
    PageUp: () => go(at - 8),
    Home: () => go(0),
    End: () => go(rows.length - 1),
    Delete: () => leaveOut.mutate(rows[at]),
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const act = keys[event.key];
    if (!act || !rows.length) return;
    event.preventDefault();
    act();
  };
  const template = `46px ${columns.map((column) => column.width).join(" ")}`;
  return (
    <div
      ref={scroll}
      role="grid"
      aria-label="Photos against the brief"
      aria-rowcount={rows.length + 1}
      aria-activedescendant={rows[at] ? `row-${rows[at].id}` : undefined}
      tabIndex={0}
      onKeyDown={onKeyDown}
      className="min-h-0 overflow-y-auto outline-offset-[-2px]"
    >
      <div role="row" aria-rowindex={1} className="sticky top-0 z-10 grid gap-x-2.5 border-b border-rule bg-rail px-3.5 py-1.5 text-small font-semibold text-second" style={{ gridTemplateColumns: template }}>
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
        {items.map((item) => {
          const row = rows[item.index];
          const on = row.id === rows[at]?.id;
          return (
            <div
              key={row.id}
              id={`row-${row.id}`}
              role="row"
              aria-rowindex={item.index + 2}
              aria-selected={on}
              onClick={() => onChoose(row.id)}
              className={`absolute inset-x-0 grid cursor-pointer items-center gap-x-2.5 border-b border-thin px-3.5 ${on ? "bg-wash shadow-[inset_3px_0_0_var(--color-plum)]" : "hover:bg-rail"}`}
              style={{ gridTemplateColumns: template, height: ROW, transform: `translateY(${item.start}px)` }}
            >
              <span role="gridcell" className="grid h-11 w-[46px] place-items-center overflow-hidden rounded-[4px] bg-ground">
                {row.thumb && <img src={`/api/photos/${row.photoId}/thumb`} alt="" className="max-h-11 max-w-[46px]" />}
              </span>
              {columns.map((column) => (
                <div key={column.key} role="gridcell" className="min-w-0">
                  {column.cell(row)}
                </div>
              ))}
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** Tells the server which rows are in sight and not measured yet; those go first. */
function useSight(batch: BatchView, indexes: number[]): void {
  const waiting = indexes.map((i) => batch.rows[i]).filter((row) => row?.figure === "about").map((row) => row.id);
  const key = waiting.join(" ");
  useEffect(() => {
    if (!key) return;
    const timer = setTimeout(() => void call("POST", `batches/${batch.id}/sight`, { ids: key.split(" ") }).catch(() => undefined), 200);
    return () => clearTimeout(timer);
  }, [batch.id, key]);
}

function PhotoCell({ row }: { row: RowView }) {
  const second = row.made?.state === "done" ? `made: ${row.made.name}` : row.verdict?.state === "meets" && row.verdict.reason ? row.verdict.reason : firstStep(row);
  return (
    <>
      <span className="block truncate font-semibold" title={row.name}>
        {row.name}
      </span>
      <span className="block truncate text-small text-second" title={second}>
        {second}
      </span>
    </>
  );
}

const firstStep = (row: RowView): string => (row.steps[0] ? row.steps[0].do[0].toLowerCase() + row.steps[0].do.slice(1) : "");

function FormatCell({ row, brief }: { row: RowView; brief: Brief }) {
  const will = row.outputName?.split(".").pop()?.toLowerCase().replace("jpg", "jpeg") ?? brief.format![0];
  return (
    <>
      <b className="figures block">{formatName(will)}</b>
      <span className="figures block text-small text-second">{formatName(row.before.format)}</span>
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
        <b className="figures whitespace-nowrap">{will ?? (row.verdict?.state === "cannot" ? "cannot" : "–")}</b>
        <span className="figures truncate text-[10.5px] text-second max-[1150px]:hidden">{same ? "as it is" : now.replaceAll(" ", "")}</span>
      </span>
      <Gauge {...pixelGauge(row, brief)} tone={toneOf(row)} width={150} label={`now ${now}, will be ${will ?? "nothing"}`} />
    </>
  );
}

function SizeCell({ row, brief }: { row: RowView; brief: ResolvedBrief | null }) {
  const bytes = row.made?.state === "done" ? row.made.bytes : row.bytes;
  const words = bytes === null ? "–" : formatBytes(bytes);
  return (
    <>
      <span className="flex items-baseline justify-between gap-1">
        <b className={`figures whitespace-nowrap ${row.figure === "about" ? "font-normal text-second" : ""}`}>{row.figure === "about" ? `about ${words}` : words}</b>
        {row.figure !== "about" && <span className="figures text-[10.5px] whitespace-nowrap text-second max-[1150px]:hidden">{formatBytes(row.before.bytes)}</span>}
      </span>
      <Gauge
        min={brief?.fileSize.min ?? null}
        max={brief?.fileSize.max ?? null}
        now={row.before.bytes}
        will={bytes}
        tone={toneOf(row)}
        width={110}
        label={`now ${formatBytes(row.before.bytes)}, will be ${row.figure === "about" ? "about " : ""}${words}`}
      />
    </>
  );
}

function ResolutionCell({ row }: { row: RowView }) {
  return (
    <>
      <b className="figures block whitespace-nowrap">{row.ppi === null ? "–" : formatPpi(row.ppi)}</b>
      <span className="figures block truncate text-small text-second">{row.before.resolution ? `now ${Math.round(row.before.resolution[0])}` : "now none"}</span>
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
        <b className={`block ${STATE_INK[state]}`}>{row.made?.state === "done" ? "Met" : STATE_WORDS[state]}</b>
        <span className="block truncate text-tiny text-second" title={reason}>
          {reason}
        </span>
      </span>
    </span>
  );
}
