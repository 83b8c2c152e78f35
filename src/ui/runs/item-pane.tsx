"use client";

/** The chosen file of a run: how it looks, its proof, and what only a person can check. */
import { Download } from "lucide-react";
import { formatBytes, formatSize } from "@/core/units";
import type { RunItemView } from "../api";
import { ProofLines, TickList } from "../parts";

interface Props {
  item: RunItemView;
  filesGone: boolean;
  runId: string;
}

export function ItemPane({ item, filesGone, runId }: Props) {
  const name = item.name ?? item.source;
  const there = item.state === "done" && !filesGone;
  return (
    <aside aria-label="Chosen file" className="flex min-h-0 flex-col border-l border-rule">
      <figure className="shrink-0 bg-ground">
        <div className="grid h-[220px] place-items-center p-4">
          {there ? (
            <img
              key={item.id}
              src={`/api/items/${item.id}/file?look=1`}
              alt={`${name}, as it was made`}
              className="max-h-[188px] max-w-full"
            />
          ) : (
            item.photoId && (
              <img
                key={item.id}
                src={`/api/photos/${item.photoId}/thumb`}
                alt={`${item.source}, the original, small`}
              />
            )
          )}
        </div>
        <figcaption className="figures px-3 pb-2 text-tiny">
          {item.after
            ? `${formatSize(item.after.width, item.after.height)} px`
            : `${formatSize(item.before.width, item.before.height)} px, the original`}
        </figcaption>
      </figure>
      <div
        tabIndex={0}
        role="region"
        aria-label="Proof of the chosen file"
        className="min-h-0 flex-1 overflow-y-auto px-4 py-3 outline-offset-[-2px]"
      >
        <div className="flex items-start justify-between gap-2">
          <h3 className="font-semibold [overflow-wrap:anywhere]">{name}</h3>
          {there && (
            <a
              href={`/api/items/${item.id}/file`}
              download
              aria-label={`Take ${name}`}
              className="box press inline-flex h-7 shrink-0 items-center gap-1.5 px-2.5 whitespace-nowrap hover:bg-wash"
            >
              <Download size={14} aria-hidden /> Take it
            </a>
          )}
        </div>
        {item.name && item.name.split("/").pop() !== item.source && (
          <p className="mt-0.5 text-small text-second [overflow-wrap:anywhere]">from {item.source}</p>
        )}
        <p className="figures mt-1 text-small text-second">
          {formatSize(item.before.width, item.before.height)} px, {formatBytes(item.before.bytes)} before
        </p>
        {item.error && (
          <p role="alert" className="mt-3 border-l-[3px] border-not bg-not-wash px-3 py-1.5">
            {item.error}
          </p>
        )}
        {item.state === "done" && (
          <section aria-label="Proof" className="mt-3">
            <h4 className="text-small font-semibold text-second">Proof, read back from the file</h4>
            <ProofLines
              checks={item.checks}
              bytes={item.bytes}
              dropped={item.dropped}
              unchanged={item.unchanged}
            />
          </section>
        )}
        {item.notes.map((note) => (
          <p key={note} className="mt-2 text-small text-second">
            {note}
          </p>
        ))}
        {item.state === "done" && (
          <TickList runId={runId} itemId={item.id} rules={item.onlyYou} ticks={item.ticks} />
        )}
      </div>
    </aside>
  );
}
