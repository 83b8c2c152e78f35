"use client";

/** Which brief a photo is held against: that of its batch, or one of its own. */
import { ChevronDown } from "lucide-react";
import type { BatchView, DeskView, RowView } from "../api";
import { call, useChange } from "../api";
import { Menu } from "../parts";

interface Props {
  batch: BatchView;
  row: RowView;
  briefs: DeskView["briefs"];
  /** The chosen rows; the change is for all of them. */
  chosen: string[];
}

export function RowBrief({ batch, row, briefs, chosen }: Props) {
  const choose = useChange((revisionId: string | null) =>
    call("PUT", `batches/${batch.id}/brief`, { revisionId, rows: chosen }),
  );
  const inUse = batch.briefs.filter((brief) => brief.revisionId !== batch.brief?.revisionId);
  const others = briefs.filter((brief) => !batch.briefs.some((used) => used.revisionId === brief.revisionId));
  const name = batch.briefs.find((brief) => brief.revisionId === row.revisionId)?.body.name ?? "no brief yet";
  const entry = (id: string | null, words: string) => ({
    key: id ?? "batch",
    words,
    onSelect: () => choose.mutate(id),
  });
  return (
    <div className="flex items-baseline gap-2 border-b border-thin px-4 py-2">
      <span className="shrink-0 text-small text-second">
        {chosen.length > 1 ? `${chosen.length} photos` : "Brief"}
      </span>
      <Menu
        align="end"
        className="max-h-80 max-w-xs"
        trigger={
          <button
            type="button"
            className="press flex min-w-0 items-center gap-1 text-left hover:underline"
            aria-label={chosen.length > 1 ? `Brief for ${chosen.length} photos` : "Brief for this photo"}
          >
            <span className="truncate" title={name}>
              {name}
            </span>
            <ChevronDown size={13} aria-hidden className="shrink-0" />
          </button>
        }
        entries={[
          batch.rows.length > 1 && { heading: "Shift with ↑ ↓ or a click marks several photos" },
          entry(
            null,
            batch.brief ? `As the batch: ${batch.brief.body.name}` : "As the batch, which has none yet",
          ),
          ...inUse.map((brief) => entry(brief.revisionId, brief.body.name)),
          others.length > 0 && "line",
          ...others.map((brief) => entry(brief.revisionId, brief.name)),
        ]}
      />
    </div>
  );
}
