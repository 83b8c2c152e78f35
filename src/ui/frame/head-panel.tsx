"use client";

/** The head as the brief asks it and as it is marked. */
import { type Brief, clauseWords } from "@/core/brief";
import type { Geometry } from "@/core/geometry";
import { checkHead } from "@/core/proof";
import type { RowView } from "../api";
import { Button, STATE_INK, type State, StateMark } from "../parts";
import { begin, unmarked } from "./head";
import type { FrameEditor } from "./use-frame";

interface Props {
  row: RowView;
  brief: Brief;
  editor: FrameEditor;
  geometry: Geometry;
}

export function HeadPanel({ row, brief, editor, geometry }: Props) {
  const { frame, editing, edit } = editor;
  const { width, height } = geometry;
  const { ok, found } = checkHead({
    brief,
    resolved: editing.brief,
    facts: { width, height, resolution: row.ppi === null ? null : [row.ppi, row.ppi] },
    before: editing.photo,
    frame,
  });
  const state: State = ok === null ? "needs" : ok ? "meets" : "cannot";
  return (
    <section aria-label="Head" className="shrink-0 border-t border-rule px-4 py-2.5">
      <p>
        <span className="text-small text-second">Head</span>{" "}
        <b className="figures">{clauseWords(brief, "head")}</b>
      </p>
      <p role="status" className={`mt-1 flex items-start gap-1.5 text-small ${STATE_INK[state]}`}>
        <StateMark small state={state} />
        <span className="figures">{found}</span>
      </p>
      {ok === false && (
        <p className="mt-1 text-small">
          The photo leaves no frame under which it holds: more of the photo is needed around the head.
        </p>
      )}
      <div className="mt-2 flex gap-2">
        {frame.marks ? (
          <Button keyHint="M" onClick={() => edit((_, f) => unmarked(f))}>
            Remove the marks
          </Button>
        ) : (
          <Button keyHint="M" className="border-plum" onClick={() => edit(begin)}>
            {brief.head?.eyes ? "Mark crown, eyes and chin" : "Mark crown and chin"}
          </Button>
        )}
      </div>
    </section>
  );
}
