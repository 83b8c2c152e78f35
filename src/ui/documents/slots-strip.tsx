"use client";

/** The documents that a form asks for, above the grid: what is there, what is proposed, what is missing. */
import type { DragEvent } from "react";
import type { BatchView, RowView, SlotView } from "../api";
import { call, useChange } from "../api";
import { Button } from "../parts";
import { SlotCard } from "./slot-card";

interface Props {
  batch: BatchView;
  /** The row or the empty document that is chosen. */
  chosen: string | null;
  onChoose: (id: string) => void;
  /** A file is dropped on a document; the page takes it from there. */
  onFile: (slot: string) => void;
}

const ROW = "application/x-zumbrel-row";

/** A row that is dragged onto a document. */
export const dragRow = (event: DragEvent, row: string): void => {
  event.dataTransfer.setData(ROW, row);
  event.dataTransfer.effectAllowed = "copyMove";
};

export function SlotsStrip({ batch, chosen, onChoose, onFile }: Props) {
  const { slots } = batch;
  const fill = useChange((rows: Record<string, string | null>) =>
    call("PUT", `batches/${batch.id}/slots`, { fill: rows }),
  );
  const rowOf = (id: string | null) => batch.rows.find((row) => row.id === id) ?? null;
  const proposals = slots.filter((slot) => !slot.row && slot.proposed);
  const missing = slots.filter((slot) => !slot.row);
  const drop = (slot: SlotView) => (event: DragEvent) => {
    const row = event.dataTransfer.getData(ROW);
    if (!row) return onFile(slot.id);
    event.preventDefault();
    const from = slots.find((one) => one.row === row);
    if (from?.id === slot.id) return;
    // What is dragged from one document to another moves; the list beside each gives one photo to several.
    fill.mutate({ ...(from && { [from.id]: null }), [slot.id]: row });
  };
  return (
    <section
      aria-label="Documents"
      className="max-h-[34vh] overflow-y-auto border-b border-rule px-[18px] py-2.5"
    >
      <div className="flex min-h-7 items-center gap-3">
        <h3 className="shrink-0 font-semibold">
          {slots.length === 1 ? "1 document" : `${slots.length} documents`}
        </h3>
        <p role="status" className="min-w-0 truncate text-small text-second" title={said(missing)}>
          {said(missing)}
        </p>
        {proposals.length > 0 && (
          <Button
            className="ml-auto border-plum"
            disabled={fill.isPending}
            onClick={() =>
              fill.mutate(Object.fromEntries(proposals.map(({ id, proposed }) => [id, proposed])))
            }
          >
            {proposals.length === 1
              ? `Take ${rowOf(proposals[0].proposed)?.name ?? "it"} for ${proposals[0].name}`
              : `Take ${proposals.length === 2 ? "both" : `all ${proposals.length}`} as proposed`}
          </Button>
        )}
      </div>
      <ul className="mt-1.5 grid grid-cols-[repeat(auto-fill,minmax(208px,1fr))] gap-2">
        {slots.map((slot) => {
          const row = rowOf(slot.row);
          const brief = batch.briefs.find((one) => one.revisionId === slot.revisionId)?.body ?? null;
          return (
            <SlotCard
              key={slot.id}
              name={slot.name}
              brief={brief}
              row={row}
              proposed={rowOf(slot.proposed)}
              chosen={chosen === (slot.row ?? slot.id)}
              onDrag={(event) => event.preventDefault()}
              onDrop={drop(slot)}
              onDragStart={(event) => row && dragRow(event, row.id)}
            >
              <PhotoChoice
                slot={slot}
                rows={batch.rows}
                busy={fill.isPending}
                onFill={(value) => fill.mutate({ [slot.id]: value })}
              />
              <Button
                className="ml-auto"
                aria-label={`Show ${slot.name}`}
                onClick={() => onChoose(slot.row ?? slot.id)}
              >
                Show
              </Button>
            </SlotCard>
          );
        })}
      </ul>
    </section>
  );
}

const said = (missing: readonly SlotView[]): string =>
  missing.length
    ? `Still missing: ${missing.map((slot) => slot.name).join(", ")}.`
    : "All documents are there.";

interface ChoiceProps {
  slot: SlotView;
  rows: readonly RowView[];
  busy: boolean;
  onFill: (row: string | null) => void;
}

/** The photos of the batch, each once. */
function PhotoChoice({ slot, rows, busy, onFill }: ChoiceProps) {
  const own = rows.find((row) => row.id === slot.row);
  const others = rows.filter(
    (row, i) =>
      row.photoId !== own?.photoId && rows.findIndex((other) => other.photoId === row.photoId) === i,
  );
  return (
    <select
      aria-label={`Photo for ${slot.name}`}
      className="box press h-7 min-w-0 flex-1 px-1.5"
      disabled={busy}
      value={own?.id ?? ""}
      onChange={(event) => onFill(event.target.value || null)}
    >
      <option value="">{own ? "no photo" : rows.length ? "choose a photo" : "drop a photo here"}</option>
      {own && <option value={own.id}>{own.name}</option>}
      {others.map((row) => (
        <option key={row.id} value={row.id}>
          {row.name}
        </option>
      ))}
    </select>
  );
}
