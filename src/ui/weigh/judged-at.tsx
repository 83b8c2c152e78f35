"use client";

/** At which size trials are judged; the view of the brief, which can be changed here. */
import { type Brief, rebased, resolveBrief } from "@/core/brief";
import { viewWords } from "@/core/coding";
import { formatSize } from "@/core/units";
import { useBriefEdit, type WeighView } from "../api";
import { ChipPopover, chipOf } from "../clauses";

interface Props {
  batchId: string;
  rowId: string;
  brief: Brief;
  view: WeighView;
}

export function JudgedAt({ batchId, rowId, brief, view }: Props) {
  const edit = useBriefEdit(batchId);
  const { width, height } = view.seenAs ?? view.geometry;
  const words = view.seenAs ? viewWords(resolveBrief(brief).view) : "at 100 %";
  return (
    <p className="text-small text-second">
      1.0 is what a careful eye can just see.{" "}
      <ChipPopover
        chip={chipOf("view")}
        brief={brief}
        onSave={(next, said) =>
          edit.mutate({ change: (now) => rebased(brief, next, now), words: said, row: rowId })
        }
        trigger={
          <button type="button" data-chip="view" className="press hover:underline" disabled={edit.isPending}>
            Judged {words}
          </button>
        }
      />
      <span className="figures whitespace-nowrap"> ({formatSize(width, height)} px)</span>. Click the chart to
      have a size tried.
    </p>
  );
}
