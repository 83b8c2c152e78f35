"use client";

/**
 * What the files will be called: the pattern, and every name before a run, with what is worth knowing of it.
 */
import { useVirtualizer } from "@tanstack/react-virtual";
import { ChevronUp } from "lucide-react";
import { Popover } from "radix-ui";
import { useMemo, useRef, useState } from "react";
import { resolveBrief } from "@/core/brief";
import { writtenKind } from "@/core/plan";
import { nameNoteWords, type PlannedName, planNames, type WrittenKind } from "@/core/plan/names";
import type { BatchView } from "../api";
import { useBriefEdit } from "../api";
import { Button } from "../parts";

const LINE = 44;

/** The names that a pattern would give; `pattern` null: those that the briefs ask. */
function namesFor(batch: BatchView, pattern: string | null): (PlannedName & { source: string })[] {
  const briefs = new Map(batch.briefs.map((brief) => [brief.revisionId, brief.body]));
  const rows = batch.rows.filter((row) => row.geometry && row.revisionId && briefs.has(row.revisionId));
  const files = rows.flatMap((row) => (row.set ?? [null]).map((file) => ({ row, file })));
  const names = planNames(
    files.map(({ row, file }) => {
      const brief = briefs.get(row.revisionId!)!;
      const resolved = resolveBrief(brief);
      const changed = pattern !== null && row.revisionId === batch.brief?.revisionId;
      // The ending of the measured file; before that the first format that is tried.
      const format: WrittenKind =
        file?.format ||
        (row.steps.length && row.checks.length && formatOf(row.outputName)) ||
        writtenKind(resolved, row.before);
      return {
        id: row.id,
        pattern: changed ? pattern : resolved.names,
        folder: row.folder,
        source: row.name,
        n: batch.rows.indexOf(row) + 1,
        width: file?.width ?? row.geometry!.width,
        height: file?.height ?? row.geometry!.height,
        date: row.before.date,
        brief: brief.name,
        format,
      };
    }),
  );
  return names.map((name, i) => ({ ...name, source: files[i].row.name }));
}

const ENDINGS: Record<string, WrittenKind> = {
  jpg: "jpeg",
  jpeg: "jpeg",
  jpe: "jpeg",
  jfif: "jpeg",
  png: "png",
  webp: "webp",
  avif: "avif",
  tif: "tiff",
  tiff: "tiff",
  gif: "gif",
  bmp: "bmp",
  dib: "bmp",
  ora: "ora",
  pdf: "pdf",
};
const formatOf = (name: string | null): WrittenKind | null =>
  name ? (ENDINGS[name.split(".").pop()!.toLowerCase()] ?? null) : null;

export function NamesPanel({ batch }: { batch: BatchView }) {
  const [open, setOpen] = useState(false);
  const [pattern, setPattern] = useState<string | null>(null);
  const edit = useBriefEdit(batch.id);
  const save = (names: string) =>
    edit.mutate({
      change: (brief) => ({ ...brief, names }),
      words: `names ${names}`.slice(0, 300),
      row: null,
    });
  const current = batch.brief?.body.names ?? "{name}";
  const names = useMemo(
    () => (open ? namesFor(batch, pattern?.trim() ? pattern.trim() : null) : []),
    [open, batch, pattern],
  );
  const first = batch.rows.find((row) => row.outputName)?.outputName ?? "–";
  const odd = batch.rows.filter((row) => row.nameNotes.some((note) => note.kind !== "pattern")).length;
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        setPattern(null);
      }}
    >
      <Popover.Trigger
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
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="start"
          sideOffset={10}
          aria-label="Names of the files"
          className="box z-40 flex max-h-[70vh] w-[560px] flex-col border-plum p-4"
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
          <NameList names={names} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function NameList({ names }: { names: (PlannedName & { source: string })[] }) {
  const scroll = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: names.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => LINE,
    overscan: 8,
  });
  const kept = names.filter((name) => name.name === name.source).length;
  return (
    <>
      <p className="mt-3 border-b border-rule pb-1.5 text-small">
        {kept === names.length
          ? "All names stay as they are."
          : `${kept} of ${names.length} names stay as they are.`}
      </p>
      <div
        ref={scroll}
        tabIndex={0}
        role="region"
        aria-label="Every name"
        className="min-h-24 overflow-y-auto outline-offset-[-2px]"
        style={{ height: Math.min(320, names.length * LINE) }}
      >
        <ul className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const { id, source, path, name, notes } = names[index];
            const odd = notes.filter((note) => note.kind !== "pattern");
            return (
              <li
                key={id}
                className="absolute inset-x-0 border-b border-thin py-1 pr-2"
                style={{ transform: `translateY(${start}px)`, height: LINE }}
              >
                <span className="figures block truncate text-small" title={path}>
                  {source === name ? path : `${source} → ${path}`}
                </span>
                <span className={`block truncate text-tiny ${odd.length ? "text-needs" : "text-second"}`}>
                  {odd.length
                    ? odd.map(nameNoteWords).join("; ")
                    : source === name
                      ? "the photo's own name"
                      : "by the pattern"}
                </span>
              </li>
            );
          })}
        </ul>
      </div>
    </>
  );
}
