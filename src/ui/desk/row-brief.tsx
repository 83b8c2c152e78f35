"use client";

/** Which brief a photo is held against: that of its batch, or one of its own. */
import { ChevronDown } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { BatchView, DeskView, RowView } from "../api";
import { call, useChange } from "../api";

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
  const Item = ({ id, children }: { id: string | null; children: React.ReactNode }) => (
    <DropdownMenu.Item
      onSelect={() => choose.mutate(id)}
      className="rounded px-3 py-1.5 data-[highlighted]:bg-wash data-[highlighted]:outline-none"
    >
      {children}
    </DropdownMenu.Item>
  );
  return (
    <div className="flex items-baseline gap-2 border-b border-thin px-4 py-2">
      <span className="shrink-0 text-small text-second">
        {chosen.length > 1 ? `${chosen.length} photos` : "Brief"}
      </span>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          className="press flex min-w-0 items-center gap-1 text-left hover:underline"
          aria-label={chosen.length > 1 ? `Brief for ${chosen.length} photos` : "Brief for this photo"}
        >
          <span className="truncate" title={name}>
            {name}
          </span>
          <ChevronDown size={13} aria-hidden className="shrink-0" />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            className="box z-40 max-h-80 max-w-xs overflow-y-auto p-1"
          >
            {batch.rows.length > 1 && (
              <DropdownMenu.Label className="px-3 py-1 text-tiny text-second">
                Shift with ↑ ↓ or a click marks several photos
              </DropdownMenu.Label>
            )}
            <Item id={null}>
              {batch.brief ? `As the batch: ${batch.brief.body.name}` : "As the batch, which has none yet"}
            </Item>
            {inUse.map((brief) => (
              <Item key={brief.revisionId} id={brief.revisionId}>
                {brief.body.name}
              </Item>
            ))}
            {others.length > 0 && <DropdownMenu.Separator className="my-1 border-t border-thin" />}
            {others.map((brief) => (
              <Item key={brief.revisionId} id={brief.revisionId}>
                {brief.name}
              </Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
}
