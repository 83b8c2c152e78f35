"use client";

/**
 * What the files will be called: the pattern, and every name before a run, with what is worth knowing of it.
 */
import { ChevronUp } from "lucide-react";
import { useState } from "react";
import type { BatchView } from "../api";
import { useBriefEdit } from "../api";
import { Button, late, Pop, useWanted } from "../parts";

const list = late(() => import("./names-list").then((part) => part.NamesList));

export function NamesPanel({ batch }: { batch: BatchView }) {
  const [open, setOpen] = useState(false);
  const NamesList = useWanted(list, open, () => setOpen(false));
  const [pattern, setPattern] = useState<string | null>(null);
  const edit = useBriefEdit(batch.id);
  const save = (names: string) =>
    edit.mutate({
      change: (brief) => ({ ...brief, names }),
      words: `names ${names}`.slice(0, 300),
      row: null,
    });
  const current = batch.brief?.body.names ?? "{name}";
  const first = batch.rows.find((row) => row.outputName)?.outputName ?? "–";
  const odd = batch.rows.filter((row) => row.nameNotes.some((note) => note.kind !== "pattern")).length;
  return (
    <Pop
      open={open && NamesList !== null}
      onOpen={(next) => {
        setOpen(next);
        setPattern(null);
      }}
      trigger={
        <button
          type="button"
          className="group min-w-0 shrink text-left"
          aria-label={`Names of the files: ${first}${odd ? `, ${odd} to look at` : ""}`}
        >
          <span className="block truncate text-tiny text-second">
            {batch.rows.length > 1 ? "Names, the first" : "Name"}
            {odd > 0 && <b className="text-needs"> · {odd} to look at</b>}
          </span>
          <span className="flex items-center gap-1">
            <span className="figures truncate text-[14px] font-semibold" title={first}>
              {first}
            </span>
            <ChevronUp size={13} aria-hidden className="shrink-0 text-plum" />
          </span>
        </button>
      }
      side="top"
      sideOffset={10}
      label="Names of the files"
      className="flex max-h-[70vh] w-[560px] flex-col"
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (pattern?.trim() && pattern.trim() !== current) save(pattern.trim());
          setOpen(false);
        }}
      >
        <label className="block font-semibold" htmlFor="pattern">
          Each file is called
        </label>
        <div className="mt-1 flex gap-2">
          <input
            id="pattern"
            value={pattern ?? current}
            maxLength={200}
            onChange={(event) => setPattern(event.target.value)}
            disabled={!batch.brief}
            autoComplete="off"
            className="box figures h-8 min-w-0 flex-1 px-2"
          />
          <Button
            kind="plain"
            type="submit"
            className="h-8"
            disabled={!batch.brief || !(pattern ?? current).trim()}
          >
            Use this
          </Button>
        </div>
        <p className="mt-1.5 text-small text-second">
          {"{name} the photo's name, {n} or {n:3} a counter, {w} {h} its pixels, {date}, " +
            "{brief}. The ending follows the format."}
        </p>
      </form>
      {NamesList && <NamesList batch={batch} pattern={pattern?.trim() || null} />}
    </Pop>
  );
}
