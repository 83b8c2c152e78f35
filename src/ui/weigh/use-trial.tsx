"use client";

/** Taking the active pane's trial: for this photo, or for the whole batch. One undo takes either back. */
import { useEffect } from "react";
import { formatName } from "@/core/brief";
import { formatOf, type Choice } from "@/core/search";
import { formatBytes } from "@/core/units";
import { call, useChange } from "../api/client";
import type { BatchView, RowView, WeighView } from "../api/contract";
import { Button } from "../parts/button";
import { trialOf, type PaneOf } from "./panes";

/** Why the brief does not allow a trial, in a few words; null where it does. */
function refusal(choice: Choice, view: WeighView, bytes: number | null): string | null {
  const format = formatOf(choice);
  if (format && !view.formats.includes(format)) return `The brief asks for ${view.formats.map(formatName).join(" or ")}`;
  const { min, max } = view.range;
  if (bytes !== null && max !== null && bytes > max) return `Above the ceiling of ${formatBytes(max)}`;
  if (bytes !== null && min !== null && bytes < min) return `Below the floor of ${formatBytes(min)}`;
  return null;
}

export function UseTrial({ batch, row, view, pane, number }: { batch: BatchView; row: RowView; view: WeighView; pane: PaneOf; number: number }) {
  const take = useChange((change: { choice: Choice | null; rows?: string[] }) => call("PUT", `batches/${batch.id}/choice`, change));
  const choice = typeof pane === "string" ? null : pane;
  const why = choice ? refusal(choice, view, trialOf(pane, view)?.bytes ?? null) : "Choose a pane with a trial";
  const able = choice !== null && why === null && !take.isPending;
  const { mutate } = take;
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.closest("input, textarea, select, [role=dialog], [role=menu]");
      if (typing || event.ctrlKey || event.metaKey || event.altKey || !able) return;
      if (event.key === "u") mutate({ choice, rows: [row.id] });
      if (event.key === "U" && batch.rows.length > 1) mutate({ choice });
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, [able, choice, row.id, batch.rows.length, mutate]);
  return (
    <div className="flex shrink-0 items-center gap-2">
      {row.choice ? (
        <Button kind="quiet" disabled={take.isPending} onClick={() => mutate({ choice: null, rows: [row.id] })}>
          Leave it to Zumbrel
        </Button>
      ) : (
        why && <span className="max-w-40 text-right text-tiny text-second">{why}</span>
      )}
      {batch.rows.length > 1 && !why && (
        <Button keyHint="Shift U" disabled={!able} onClick={() => mutate({ choice })}>
          Use {number} for the batch
        </Button>
      )}
      <Button kind="main" keyHint="U" disabled={!able} onClick={() => mutate({ choice, rows: [row.id] })}>
        Use {number} here
      </Button>
    </div>
  );
}
