"use client";

import { useQuery } from "@tanstack/react-query";
/** The documents of a form, prepared together: what is there, what is missing, one button. */
import Link from "next/link";
import { useRef, useState } from "react";
import type { FormRules, Slot } from "@/receivers";
import type { BatchView, ReceiverView, RowView } from "../api";
import { call, sendPhoto, useBatch, useChange } from "../api";
import { SlotCard } from "../documents";
import { Button, rowState } from "../parts";

export function PackagePanel({ view, rules }: { view: ReceiverView; rules: FormRules }) {
  const pack = view.package;
  const { data } = useBatch(pack?.batchId ?? null);
  const batch = data?.id === pack?.batchId ? (data ?? null) : null;
  const begin = useChange(() => call("POST", `counter/${view.id}/package`, {}));
  const handOver = useChange(() => call("POST", `counter/${view.id}/package/handover`, {}));
  const changed = batch !== null && rules.slots.some(({ key }) => !batch.slots.some(({ id }) => id === key));
  if (!pack || changed) {
    return (
      <section
        aria-label="Your documents"
        className="rounded-box border border-dashed border-[#9a9a98] px-4 py-3"
      >
        <p>
          {changed ? "The form asks for other documents now. " : ""}
          Prepare all documents of this form together: each photo gets its document&apos;s rules, and one
          button makes and hands over all of them.
        </p>
        <Button
          className="mt-2 border-plum"
          disabled={begin.isPending}
          onClick={() => begin.mutate(undefined)}
        >
          {changed ? "Begin the documents anew" : `Begin the ${rules.slots.length} documents`}
        </Button>
      </section>
    );
  }
  const rows = rules.slots.map(({ key }) => {
    const own = batch?.slots.find(({ id }) => id === key)?.row;
    return batch?.rows.find((row) => row.id === own) ?? null;
  });
  const missing = rules.slots.filter((_, i) => !rows[i]);
  const broken = rows.filter((row) => row && rowState(row).state === "cannot").length;
  const busy = view.handovers.some((one) => one.state === "waiting" || one.state === "sending");
  return (
    <section aria-label="Your documents">
      <div className="flex items-baseline gap-3">
        <h3 className="font-semibold">Your documents</h3>
        <Link href={`/?batch=${pack.batchId}`} className="press text-small hover:underline">
          All of them on the Desk
        </Link>
        <Button
          kind="quiet"
          className="ml-auto text-small"
          disabled={begin.isPending}
          onClick={() => begin.mutate(undefined)}
        >
          Begin anew
        </Button>
      </div>
      <ul className="mt-1.5 grid grid-cols-[repeat(auto-fill,minmax(230px,1fr))] gap-2">
        {rules.slots.map((slot, i) => (
          <SlotRow
            key={slot.key}
            receiverId={view.id}
            batchId={pack.batchId}
            slot={slot}
            row={rows[i]}
            batch={batch}
          />
        ))}
      </ul>
      <div className="mt-2 flex items-center gap-4">
        <p role="status" className="text-small">
          {missing.length
            ? `Still missing: ${missing.map((slot) => slot.title).join(", ")}.`
            : broken
              ? `${broken} of them cannot be made as asked.`
              : "All documents are there."}
        </p>
        <Button
          kind="main"
          className="ml-auto"
          disabled={missing.length > 0 || broken > 0 || busy || handOver.isPending}
          onClick={() => handOver.mutate(undefined)}
        >
          Make and hand over {rules.slots.length} documents
        </Button>
      </div>
    </section>
  );
}

interface SlotProps {
  receiverId: string;
  batchId: string;
  slot: Slot;
  row: RowView | null;
  batch: BatchView | null;
}

function SlotRow({ receiverId, batchId, slot, row, batch }: SlotProps) {
  const input = useRef<HTMLInputElement>(null);
  const fill = useChange((from: { photoId: string } | { rowId: string }) =>
    call("PUT", `counter/${receiverId}/package`, { slot: slot.key, ...from }),
  );
  const bring = useChange(async (file: File) => {
    const { rows } = await sendPhoto({ batchId, file, folder: "", at: Date.now() });
    await call("PUT", `counter/${receiverId}/package`, { slot: slot.key, rowId: rows[0] });
  });
  const asked = batch?.slots.find(({ id }) => id === slot.key)?.revisionId;
  const brief = batch?.briefs.find((one) => one.revisionId === asked)?.body ?? null;
  return (
    <SlotCard name={slot.title} brief={brief} row={row}>
      <ChoosePhoto
        title={slot.title}
        busy={fill.isPending}
        onChoose={(photoId) => fill.mutate({ photoId })}
      />
      <input
        ref={input}
        type="file"
        accept="image/*"
        className="sr-only"
        tabIndex={-1}
        aria-label={`Photo for ${slot.title}`}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (file) bring.mutate(file);
        }}
      />
      <Button className="ml-auto" disabled={bring.isPending} onClick={() => input.current?.click()}>
        {bring.isPending ? "Bringing in" : "Bring in"}
      </Button>
    </SlotCard>
  );
}

/** One of the photos that are in batches already. */
function ChoosePhoto({
  title,
  busy,
  onChoose,
}: {
  title: string;
  busy: boolean;
  onChoose: (photoId: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const list = useQuery({
    queryKey: ["counter", "photos"],
    queryFn: () =>
      call<{ photos: { photoId: string; name: string; batch: string }[] }>("GET", "counter/photos"),
    enabled: open,
  });
  const batches = [...new Set(list.data?.photos.map((photo) => photo.batch))];
  return (
    <select
      aria-label={`A photo of your batches for ${title}`}
      className="box press h-7 w-32 px-1.5"
      disabled={busy}
      value=""
      onFocus={() => setOpen(true)}
      onPointerEnter={() => setOpen(true)}
      onChange={(event) => event.target.value && onChoose(event.target.value)}
    >
      <option value="">From a batch</option>
      {batches.map((batch) => (
        <optgroup key={batch} label={batch}>
          {list.data?.photos
            .filter((photo) => photo.batch === batch)
            .map((photo) => (
              <option key={photo.photoId} value={photo.photoId}>
                {photo.name}
              </option>
            ))}
        </optgroup>
      ))}
    </select>
  );
}
