"use client";

import { useQuery } from "@tanstack/react-query";
/** The documents of a form, prepared together: what is there, what is missing, one button. */
import Link from "next/link";
import { useRef, useState } from "react";
import type { FormRules, Slot } from "@/receivers";
import type { BatchView, ReceiverView, RowView } from "../api";
import { call, sendPhoto, useBatch, useChange } from "../api";
import { briefSummary } from "../clauses";
import { Button, rowState, STATE_INK, StateMark } from "../parts";

export function PackagePanel({ view, rules }: { view: ReceiverView; rules: FormRules }) {
  const pack = view.package;
  const { data } = useBatch(pack?.batchId ?? null);
  const batch = data?.id === pack?.batchId ? (data ?? null) : null;
  const begin = useChange(() => call("POST", `counter/${view.id}/package`, {}));
  const handOver = useChange(() => call("POST", `counter/${view.id}/package/handover`, {}));
  const changed = pack !== null && rules.slots.some((slot) => !(slot.key in pack.slots));
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
  const rows = rules.slots.map((slot) => batch?.rows.find((row) => row.id === pack.slots[slot.key]) ?? null);
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
      <ul className="mt-1.5 divide-y divide-thin border-y border-rule">
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
  const brief = batch?.briefs.find((one) => one.revisionId === row?.revisionId)?.body ?? null;
  const { state, reason } = row ? rowState(row) : { state: null, reason: "" };
  return (
    <li
      aria-label={slot.title}
      className="grid grid-cols-[44px_minmax(0,1fr)_minmax(0,1fr)_auto] items-center gap-3 py-2 max-[1150px]:grid-cols-[44px_minmax(0,1fr)_auto]"
    >
      {row ? (
        <img
          src={`/api/photos/${row.photoId}/thumb`}
          alt=""
          className="h-10 w-11 rounded-[3px] bg-ground object-contain"
        />
      ) : (
        <span aria-hidden className="block h-10 w-11 rounded-[3px] border border-dashed border-[#9a9a98]" />
      )}
      <div className="min-w-0">
        <span className="block font-semibold">{slot.title}</span>
        <span className="figures block truncate text-small text-second">
          {row ? row.name : "no photo yet"}
        </span>
      </div>
      <div className="min-w-0 text-small max-[1150px]:col-start-2">
        {row && !state && <span className="text-second">{reason}</span>}
        {state && (
          <span className={`flex items-center gap-1.5 ${STATE_INK[state]}`}>
            <StateMark small state={state} />
            <span className="truncate" title={reason}>
              {state === "meets" ? "as asked" : reason}
            </span>
          </span>
        )}
        {brief && <span className="figures block truncate text-second">{briefSummary(brief)}</span>}
      </div>
      <div className="flex gap-1.5 max-[1150px]:row-span-2 max-[1150px]:row-start-1 max-[1150px]:col-start-3 max-[1150px]:flex-col">
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
        <Button disabled={bring.isPending} onClick={() => input.current?.click()}>
          {bring.isPending ? "Bringing in" : "Bring in"}
        </Button>
      </div>
    </li>
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
