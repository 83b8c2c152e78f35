"use client";

/** The shelf of briefs: search, choose, bring in. */
import { type ReactNode, useState } from "react";
import type { ShelfBrief } from "../api";
import { briefSummary } from "../clauses";

interface Props {
  briefs: readonly ShelfBrief[] | null;
  error: Error | null;
  chosen: string | null;
  /** Briefs read from a wording that are not kept yet. */
  drafts: number;
  onChoose: (id: string) => void;
  onDrafts: () => void;
  onPaste: () => void;
  onOpen: () => void;
  /** The hidden file input that opens with it. */
  input: ReactNode;
}

export function Shelf({ briefs, error, chosen, drafts, onChoose, onDrafts, onPaste, onOpen, input }: Props) {
  const [search, setSearch] = useState("");
  const wanted = search.trim().toLowerCase();
  const found = (briefs ?? []).filter(
    ({ body }) =>
      !wanted || `${body.name} ${body.from ?? ""} ${briefSummary(body)}`.toLowerCase().includes(wanted),
  );
  return (
    <aside aria-label="Shelf" className="flex min-h-0 flex-col border-r border-rule bg-rail">
      <div className="px-[18px] pt-3.5 pb-2">
        <h2 className="text-small font-semibold text-second">Briefs</h2>
        <input
          type="search"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
          placeholder="Search the shelf"
          aria-label="Search the shelf"
          className="box mt-1.5 h-7 w-full px-2"
        />
      </div>
      <ul className="min-h-0 flex-1 overflow-y-auto px-3 pb-3">
        {error && <li className="p-2 text-not">{error.message}</li>}
        {drafts > 0 && (
          <li>
            <Entry
              on={chosen === null}
              name="From pasted wording"
              second={`${drafts} ${drafts === 1 ? "brief" : "briefs"}, not kept yet`}
              onClick={onDrafts}
            />
          </li>
        )}
        {found.map((brief) => (
          <li key={brief.id}>
            <Entry
              on={brief.id === chosen}
              name={brief.body.name}
              second={briefSummary(brief.body)}
              onClick={() => onChoose(brief.id)}
            />
          </li>
        ))}
        {briefs && found.length === 0 && (
          <li className="px-2.5 py-2 text-small text-second">
            {wanted
              ? `Nothing on the shelf has “${search.trim()}” in it.`
              : "The shelf is empty. Paste a receiver's wording below."}
          </li>
        )}
      </ul>
      <div className="p-3">
        {input}
        <div className="rounded-box border border-dashed border-[#9a9a98] px-2 py-3.5 text-center">
          <button type="button" onClick={onPaste} className="press w-full rounded-box hover:underline">
            Paste a receiver&apos;s wording
          </button>
          <span className="block text-small">
            or drop a .brief.json,{" "}
            <button type="button" onClick={onOpen} className="press hover:underline">
              choose one
            </button>
          </span>
        </div>
      </div>
    </aside>
  );
}

function Entry({
  on,
  name,
  second,
  onClick,
}: {
  on: boolean;
  name: string;
  second: string;
  onClick: () => void;
}) {
  return (
    <button
      type="button"
      aria-current={on}
      onClick={onClick}
      className={`mb-1 w-full rounded-box border px-2.5 py-1.5 text-left ${on ? "border-rule bg-sheet" : "border-transparent hover:bg-thin"}`}
    >
      <span className="line-clamp-2 font-semibold [overflow-wrap:anywhere]">{name}</span>
      <span className="figures block truncate text-tiny text-second">{second}</span>
    </button>
  );
}
