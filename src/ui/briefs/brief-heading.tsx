"use client";

/** A brief's name, which can be changed in place, and what can be done with the whole of it. */
import { type FormEvent, useState } from "react";
import type { Brief } from "@/core/brief";
import { statedChips } from "../clauses";
import { Button } from "../parts";

interface Props {
  brief: Brief;
  onSave: (brief: Brief, words: string) => void;
  /** Of a kept brief; a draft has none of these yet. */
  kept?: { id: string; onDuplicate: () => void; onDelete: () => void };
}

export function BriefHeading({ brief, onSave, kept }: Props) {
  const [naming, setNaming] = useState(false);
  const stated = statedChips(brief).length;
  const wishes = new Set(
    (brief.wishes ?? []).map((wish) =>
      ["width", "height", "longSide", "shortSide"].includes(wish) ? "pixels" : wish,
    ),
  ).size;
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const name = String(new FormData(event.currentTarget).get("name")).trim();
    setNaming(false);
    if (name && name !== brief.name) onSave({ ...brief, name }, `renaming ${brief.name}`);
  };
  return (
    <div className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
      {naming ? (
        <form onSubmit={submit} className="flex min-w-0 flex-1 gap-2">
          <input
            name="name"
            defaultValue={brief.name}
            maxLength={200}
            autoFocus
            aria-label="Name of the brief"
            onKeyDown={(event) => event.key === "Escape" && setNaming(false)}
            className="box h-7 min-w-0 flex-1 px-2 font-bold"
          />
          <Button type="submit">Rename</Button>
        </form>
      ) : (
        <>
          <h2 className="text-[15px] font-bold [overflow-wrap:anywhere]">{brief.name}</h2>
          <span className="figures text-small text-second">
            {stated} {stated === 1 ? "clause" : "clauses"}
            {wishes > 0 && `, ${wishes} ${wishes === 1 ? "wish" : "wishes"}`}
          </span>
          {brief.from && <span className="text-small text-second">from {brief.from}</span>}
          <span className="ml-auto flex gap-3">
            <button type="button" onClick={() => setNaming(true)} className="press hover:underline">
              Rename
            </button>
            {kept && (
              <>
                <button type="button" onClick={kept.onDuplicate} className="press hover:underline">
                  Duplicate
                </button>
                <a href={`/api/briefs/${kept.id}/file`} download className="press hover:underline">
                  Save as file
                </a>
                <button type="button" onClick={kept.onDelete} className="press hover:underline">
                  Delete
                </button>
              </>
            )}
          </span>
        </>
      )}
    </div>
  );
}
