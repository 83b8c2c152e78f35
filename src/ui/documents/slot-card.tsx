"use client";

/** A document that a form asks for: its name, its brief in a line, the photo that is there for it, and its state. */
import type { DragEvent, ReactNode } from "react";
import type { Brief } from "@/core/brief";
import type { RowView } from "../api";
import { briefSummary } from "../clauses";
import { rowState, STATE_INK, StateMark } from "../parts";

interface Props {
  name: string;
  brief: Brief | null;
  row: RowView | null;
  /** A photo that is likely meant for it. */
  proposed?: RowView | null;
  chosen?: boolean;
  /** Something is dragged over it. */
  onDrag?: (event: DragEvent) => void;
  onDrop?: (event: DragEvent) => void;
  onDragStart?: (event: DragEvent) => void;
  /** What can be done about its photo. */
  children: ReactNode;
}

export function SlotCard({ name, brief, row, proposed = null, chosen = false, children, ...drag }: Props) {
  const summary = brief ? briefSummary(brief) : "";
  const { onDrag, onDrop, onDragStart } = drag;
  return (
    <li
      aria-label={name}
      aria-current={chosen || undefined}
      draggable={row !== null && onDragStart !== undefined}
      onDragStart={onDragStart}
      onDragOver={onDrag}
      onDrop={onDrop}
      className={`grid grid-cols-[46px_minmax(0,1fr)] gap-x-2.5 gap-y-1.5 rounded-box border px-2.5 py-2 ${
        row ? "border-rule bg-sheet" : "border-dashed border-[#8d8d8f]"
      } ${chosen ? "shadow-[inset_3px_0_0_var(--color-plum)]" : ""}`}
    >
      <Picture row={row ?? proposed} proposed={!row} />
      <div className="min-w-0">
        <span className="flex items-baseline gap-2">
          <b className="max-w-[72%] shrink-0 truncate" title={name}>
            {name}
          </b>
          <State row={row} />
        </span>
        <span className="block truncate text-small text-second" title={(row ?? proposed)?.name}>
          {row ? row.name : proposed ? `${proposed.name}, as it seems` : "no photo yet"}
        </span>
        {summary && (
          <span className="figures block truncate text-small" title={summary}>
            {summary}
          </span>
        )}
      </div>
      <div className="col-span-2 flex min-w-0 flex-wrap gap-1.5">{children}</div>
    </li>
  );
}

function Picture({ row, proposed }: { row: RowView | null; proposed: boolean }) {
  if (!row)
    return <span aria-hidden className="block h-11 rounded-[4px] border border-dashed border-[#8d8d8f]" />;
  return (
    <span
      className={`grid h-11 place-items-center overflow-hidden rounded-[4px] bg-ground ${proposed ? "opacity-60" : ""}`}
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
  );
}

function State({ row }: { row: RowView | null }) {
  if (!row) return null;
  const { state, reason } = rowState(row);
  if (!state) return <span className="ml-auto shrink-0 text-small text-second">{reason}</span>;
  const words = state === "meets" ? (reason === "proved" ? "proved" : "as asked") : reason;
  return (
    <span className={`ml-auto flex min-w-0 shrink items-center gap-1 text-small ${STATE_INK[state]}`}>
      <StateMark small state={state} />
      <span className="truncate" title={words}>
        {words}
      </span>
    </span>
  );
}
