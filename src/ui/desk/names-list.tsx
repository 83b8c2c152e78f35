"use client";

/** Every name before a run, with what is worth knowing of it. */
import { useVirtualizer } from "@tanstack/react-virtual";
import { useMemo, useRef } from "react";
import { resolveBrief } from "@/core/brief";
import { writtenKind } from "@/core/plan";
import { kindOfName, nameNoteWords, type PlannedName, planNames, type WrittenKind } from "@/core/plan/names";
import type { BatchView } from "../api";

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
        (row.steps.length && row.checks.length && row.outputName && kindOfName(row.outputName)) ||
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

export function NamesList({ batch, pattern }: { batch: BatchView; pattern: string | null }) {
  const names = useMemo(() => namesFor(batch, pattern), [batch, pattern]);
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
