"use client";

/**
 * Layers: what a file of layers or pages holds, what weighs how much in it, which of it takes part, and how
 * it becomes lighter.
 */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { BatchView, LayersView, RowView } from "../api";
import { call, NO_BRIEF, useBriefEdit } from "../api";
import { Button, Header, usePhotoScreen } from "../parts";
import { LayerTree } from "./layer-tree";
import { Measures } from "./measures";
import { WeightTable } from "./weight-table";

const layered = ({ before, assignmentId }: RowView) =>
  assignmentId !== null && (before.format === "ora" || (before.format === "tiff" && before.pages > 1));

export function LayersScreen() {
  const { batch, row, rows, at, back, undo, missing } = usePhotoScreen(layered);
  return (
    <div className="grid h-screen grid-rows-[46px_minmax(0,1fr)] overflow-hidden">
      <Header {...undo} status={row ? `${row.name}, ${at + 1} of ${rows.length} with layers or pages` : ""}>
        <Button keyHint="Esc" onClick={back}>
          Back to the Desk
        </Button>
      </Header>
      {batch && row?.assignmentId ? (
        <Opened key={row.id} batch={batch} row={row} assignmentId={row.assignmentId} />
      ) : (
        <main className="grid place-items-center text-second">
          <p>
            {missing(
              "There is nothing in layers or pages here. Go back to the Desk and choose a photo that is.",
            )}
          </p>
        </main>
      )}
    </div>
  );
}

function Opened({ batch, row, assignmentId }: { batch: BatchView; row: RowView; assignmentId: string }) {
  const { data: view, error } = useQuery({
    queryKey: ["layers", assignmentId],
    queryFn: () => call<LayersView>("GET", `assignments/${assignmentId}/layers`),
    placeholderData: keepPreviousData,
  });
  const [lit, setLit] = useState<string | null>(null);
  if (!view)
    return (
      <main className="grid place-items-center text-second">
        {error ? error.message : "Reading its layers."}
      </main>
    );
  return (
    <main className="grid min-h-0 grid-cols-[300px_minmax(0,1fr)_360px] max-[1150px]:grid-cols-[240px_minmax(0,1fr)_320px]">
      <section aria-label="What takes part" className="flex min-h-0 flex-col border-r border-rule">
        <LayerTree batchId={batch.id} row={row} view={view} lit={lit} onLit={setLit} />
        <figure className="mt-auto shrink-0 border-t border-rule bg-ground p-3">
          {row.figure === "measured" ? (
            <img
              src={`/api/assignments/${row.assignmentId}/output`}
              alt={`${row.name} as it will be`}
              className="mx-auto max-h-[190px] max-w-full"
            />
          ) : (
            <p className="py-8 text-center text-small text-second">
              {row.verdict?.reason ?? "The result is being measured."}
            </p>
          )}
        </figure>
      </section>
      <WeightTable view={view} lit={lit} onLit={setLit} />
      <Aim batch={batch} row={row} view={view} />
    </main>
  );
}

/** The two aims: one picture, or layers that weigh less. It is the brief that says which. */
function Aim({ batch, row, view }: { batch: BatchView; row: RowView; view: LayersView }) {
  const brief = batch.briefs.find((b) => b.revisionId === row.revisionId)?.body;
  const what = view.format === "ora" ? "layers" : "pages";
  const edit = useBriefEdit(batch.id);
  const keeps = edit.isPending ? edit.variables.change(brief ?? NO_BRIEF).layers === "keep" : view.keeps;
  const put = (layers: "flatten" | "keep") =>
    edit.mutate({
      change: (now) => ({ ...now, layers }),
      words: layers === "keep" ? "keeping layers" : "flattening layers",
      row: row.id,
    });
  const ruledOut = brief?.format && !(view.format === "tiff" && brief.format.includes("tiff"));
  return (
    <aside
      aria-label="What becomes of it"
      className="flex min-h-0 flex-col overflow-y-auto border-l border-rule px-4 py-3"
    >
      <fieldset>
        <legend className="text-[16px] font-bold">What becomes of it</legend>
        {(["flatten", "keep"] as const).map((layers) => (
          <label key={layers} className="flex min-h-6 items-center gap-2">
            <input
              type="radio"
              name="aim"
              checked={keeps === (layers === "keep")}
              disabled={layers === "keep" && Boolean(ruledOut)}
              onChange={() => put(layers)}
              className="size-4 accent-plum"
            />
            {layers === "flatten"
              ? view.format === "ora"
                ? "One picture, its layers flattened"
                : "One picture, the chosen page"
              : `It keeps its ${what}, and weighs less`}
          </label>
        ))}
        <p className="mt-1 text-small text-second">
          {ruledOut
            ? `The brief asks for other formats, which hold no ${what}.`
            : "This is a clause of the brief, so it holds for all photos under it."}
        </p>
      </fieldset>
      {view.keeps && <Measures batchId={batch.id} row={row} view={view} />}
    </aside>
  );
}
