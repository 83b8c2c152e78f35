"use client";

/**
 * Taking the active pane's trial: for this photo, or for the whole batch; or its way of taking a raw file.
 * One undo takes either back.
 */
import { useCallback } from "react";
import { formatName } from "@/core/brief";
import { atSide, type Choice, formatOf } from "@/core/coding";
import { longSide } from "@/core/geometry";
import { DEFAULT_RAW, type RawTaking } from "@/core/photo";
import { formatBytes } from "@/core/units";
import type { BatchView, RowView, WeighView } from "../api";
import { call, useChange } from "../api";
import { Button, useKeys } from "../parts";
import { type PaneOf, sizeFor, trialOf } from "./panes";

/** Why the brief does not allow a trial, in a few words; null where it does. */
function refusal(choice: Choice, view: WeighView, bytes: number | null): string | null {
  const format = formatOf(choice);
  if (format && !view.formats.includes(format))
    return `The brief asks for ${view.formats.map(formatName).join(" or ")}`;
  const { min, max } = view.range;
  if (bytes !== null && max !== null && bytes > max) return `Above the ceiling of ${formatBytes(max)}`;
  if (bytes !== null && min !== null && bytes < min) return `Below the floor of ${formatBytes(min)}`;
  return null;
}

/** What is taken of a trial: its pixels too, where the brief allows more. */
function taken(choice: Choice, view: WeighView): Choice {
  const size = sizeFor(choice, view);
  return atSide(choice, size.all ? null : longSide(size));
}

export function UseTrial({
  batch,
  row,
  view,
  pane,
  number,
}: {
  batch: BatchView;
  row: RowView;
  view: WeighView;
  pane: PaneOf;
  number: number;
}) {
  const take = useChange((change: { choice: Choice | null; rows?: string[] }) =>
    call("PUT", `batches/${batch.id}/choice`, change),
  );
  const choice = typeof pane === "string" ? null : taken(pane, view);
  const way = pane === "developed" || pane === "camera" ? pane : null;
  const raw = row.frame.raw ?? DEFAULT_RAW;
  const takeWay = useChange((next: RawTaking["way"]) =>
    call("PUT", `batches/${batch.id}/frame`, {
      rowId: row.id,
      frame: { ...row.frame, raw: { ...raw, way: next } },
      accepted: false,
    }),
  );
  const why = way
    ? raw.way === way
      ? "It is taken in this way now"
      : null
    : choice
      ? refusal(choice, view, trialOf(pane, view)?.bytes ?? null)
      : "Choose a pane with a trial";
  const able = (choice !== null || way !== null) && why === null && !take.isPending && !takeWay.isPending;
  const { mutate } = take;
  const { mutate: mutateWay } = takeWay;
  const here = useCallback(
    () => (way ? mutateWay(way) : mutate({ choice, rows: [row.id] })),
    [way, choice, row.id, mutate, mutateWay],
  );
  useKeys((event) => {
    if (!able) return false;
    if (event.key === "u") here();
    else if (event.key === "U" && batch.rows.length > 1 && choice) mutate({ choice });
    else return false;
    return true;
  });
  return (
    <div className="flex shrink-0 items-center gap-2">
      {row.choice ? (
        <Button
          kind="quiet"
          disabled={take.isPending}
          onClick={() => mutate({ choice: null, rows: [row.id] })}
        >
          Leave it to Zumbrel
        </Button>
      ) : (
        why && <span className="max-w-40 text-right text-tiny text-second">{why}</span>
      )}
      {batch.rows.length > 1 && !why && choice && (
        <Button keyHint="Shift U" disabled={!able} onClick={() => mutate({ choice })}>
          Use {number} for the batch
        </Button>
      )}
      <Button kind="main" keyHint="U" disabled={!able} onClick={here}>
        Use {number} here
      </Button>
    </div>
  );
}
