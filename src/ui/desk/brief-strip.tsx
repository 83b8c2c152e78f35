"use client";

/** The brief of the chosen photo: its clauses as chips, and where they contradict each other. */
import { type Brief, rebased, resolveBrief } from "@/core/brief";
import { CLEAN } from "@/core/difference";
import type { BatchView, DeskView, RowView } from "../api";
import { briefOf, call, NO_BRIEF, useBriefEdit, useChange } from "../api";
import { AddClauses, ChipButton, DisagreementList, statedChips } from "../clauses";
import { Button } from "../parts";
import { ChooseBrief } from "./choose-brief";
import { PaperPixels } from "./paper-pixels";
import { PasteWording } from "./paste-wording";
import { TotalNote } from "./total-note";

interface Props {
  batch: BatchView;
  briefs: DeskView["briefs"];
  row: RowView | null;
  /** The document without a photo that is chosen. */
  slot: string | null;
  /** Rows that a pasted brief can be for: the chosen one and those marked with it. */
  chosen: string[];
}

/** Its file was made, meets the brief and shows no loss. */
const isClean = ({ figure, verdict, difference }: RowView): boolean =>
  figure === "measured" && verdict?.state === "meets" && difference !== null && difference <= CLEAN;

export function BriefStrip({ batch, briefs, row, slot, chosen }: Props) {
  const edit = useBriefEdit(batch.id);
  const keep = useChange((use: { briefId: string; revisionId: string }) =>
    call("PUT", `briefs/${use.briefId}`, { revisionId: use.revisionId }),
  );
  const rowId = slot ?? row?.id ?? null;
  const use = briefOf(batch, rowId);
  // What was just said is shown at once, not when the server has answered: chips that move later are missed
  // by the pointer.
  const now = use?.body ?? NO_BRIEF;
  // The photo that an edit was made for may not have been there yet: what counts is whose brief it is.
  const edits = edit.isPending && briefOf(batch, edit.variables.row)?.revisionId === use?.revisionId;
  const brief = edits ? edit.variables.change(now) : now;
  const save = (next: Brief, words: string) =>
    edit.mutate({ change: (then) => rebased(brief, next, then), words, row: rowId });
  const note = use ? resolveBrief(brief).fileSize.note : null;
  const several = batch.briefs.length > 1;
  const total = batch.totals.find((one) => one.revisionId === use?.revisionId) ?? null;
  return (
    <section
      aria-label="Brief"
      className="max-h-[44vh] overflow-y-auto border-b border-rule px-[18px] pt-3 pb-3"
    >
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-[16px] font-bold [overflow-wrap:anywhere]">{brief.name}</h2>
        <ChooseBrief batch={batch} briefs={briefs} />
        <PasteWording batch={batch} chosen={chosen} subject={rowId} />
        {use && !use.onShelf && !edit.isPending && (
          <Button kind="quiet" className="h-auto" onClick={() => keep.mutate(use)}>
            Keep on the shelf
          </Button>
        )}
        {several && use && use.rows > 0 && (
          <span className="figures text-small text-second">{`for ${use.rows} of ${batch.rows.length} photos`}</span>
        )}
        {brief.from && <span className="text-small text-second">from {brief.from}</span>}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {statedChips(brief).map((chip) => (
          <ChipButton key={chip.key} chip={chip} brief={brief} onSave={save} />
        ))}
        <AddClauses brief={brief} onSave={save} />
        {row && (
          <PaperPixels key={`${row.id} ${use?.revisionId ?? ""}`} row={row} brief={brief} onSave={save} />
        )}
      </div>
      <DisagreementList
        brief={brief}
        photo={row?.before ?? null}
        dotScreen={row?.dotScreen ?? null}
        clean={row !== null && isClean(row)}
        onSave={save}
      />
      {total && use && <TotalNote batch={batch} total={total} brief={brief} onSave={save} />}
      {note && (
        <p role="note" className="mt-2.5 border-l-[3px] border-needs bg-needs-wash px-3 py-1.5">
          {note}
        </p>
      )}
    </section>
  );
}
