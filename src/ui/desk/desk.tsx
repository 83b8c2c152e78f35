"use client";

/** The Desk: the whole job on one screen. */
import dynamic from "next/dynamic";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { SAMPLE_BATCH } from "@/core/brief";
import type { BatchView, RowView } from "../api";
import {
  type Arrival,
  call,
  sendPhoto,
  useBatch,
  useChange,
  useDesk,
  useEvents,
  useStepEdit,
  useUploads,
} from "../api";
import { SlotsStrip } from "../documents";
import { FileInput, Header, useDrop, useRemembered, useStepKeys } from "../parts";
import { say, sayError } from "../say";
import { BatchRail } from "./batch-rail";
import { BriefStrip } from "./brief-strip";
import { ComplianceGrid } from "./compliance-grid";
import { EmptyBatch, Welcome } from "./empty";
import { RunBar } from "./run-bar";
import { SampleGuide } from "./sample-guide";

/** After the rows, whose clauses and states come first. */
const PhotoPane = dynamic(() => import("./photo-pane").then((part) => part.PhotoPane), {
  ssr: false,
  loading: () => <aside className="border-l border-rule" />,
});

const NONE: ReadonlySet<string> = new Set();
const NO_ROWS: RowView[] = [];

/**
 * The chosen batch lives in the address, so that a reload comes back to it; the way from another screen
 * leads back to the last one.
 */
function useChosenBatch(ids: string[] | null): [string | null, (id: string) => void] {
  const [last, setLast] = useRemembered("batch", (value) => (typeof value === "string" ? value : null));
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => setAddress(new URLSearchParams(window.location.search).get("batch")), []);
  const chosen = address ?? last;
  const choose = useCallback(
    (id: string) => {
      setAddress(id);
      setLast(id);
      window.history.replaceState(null, "", `?batch=${id}`);
    },
    [setLast],
  );
  const valid = ids === null ? chosen : chosen !== null && ids.includes(chosen) ? chosen : (ids[0] ?? null);
  return [valid, choose];
}

function sayKnown({ known }: Arrival): void {
  if (known)
    say(
      known === 1
        ? "One of these photos was here already; it is not taken twice."
        : `${known} of these photos were here already; they are not taken twice.`,
    );
}

export function Desk() {
  useEvents();
  const desk = useDesk();
  const ids = useMemo(() => desk.data?.batches.map((batch) => batch.id) ?? null, [desk.data]);
  const [batchId, choose] = useChosenBatch(ids);
  const { data: batch } = useBatch(batchId);
  const [rowId, setRowId] = useState<string | null>(null);
  const [marked, setMarked] = useState<ReadonlySet<string>>(NONE);
  const select = useCallback((id: string, marks: ReadonlySet<string> = NONE) => {
    setRowId(id);
    setMarked(marks);
  }, []);
  const { uploads, bring, dismiss } = useUploads(sayKnown);
  const input = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  /** The document that a file is being dropped on. */
  const aimed = useRef<string | null>(null);
  const shown = batch && batch.id === batchId ? batch : null;
  const rows = shown?.rows ?? NO_ROWS;
  const slot = shown?.slots.find((one) => one.id === rowId && !one.row) ?? null;
  const row = slot ? null : (rows.find((r) => r.id === rowId) ?? rows[0] ?? null);
  const picked = useMemo(
    () => (row ? [...new Set([row.id, ...rows.filter((r) => marked.has(r.id)).map((r) => r.id)])] : []),
    [row, rows, marked],
  );

  const accept = useCallback(
    async (files: File[]) => {
      if (!files.length) return;
      try {
        const day = new Date().toLocaleDateString("en-GB", { day: "numeric", month: "long" });
        const id =
          batchId ?? (await call<{ id: string }>("POST", "batches", { name: `Photos of ${day}` })).id;
        if (!batchId) choose(id);
        const place = aimed.current;
        aimed.current = null;
        const [first, ...others] = files;
        if (!place) return await bring(id, files);
        const {
          rows: [only],
        } = await sendPhoto({ batchId: id, file: first, folder: "", at: Date.now() });
        if (only) await call("PUT", `batches/${id}/slots`, { fill: { [place]: only } });
        await bring(id, others);
      } catch (error) {
        sayError(error instanceof Error ? error.message : String(error));
      }
    },
    [batchId, bring, choose],
  );
  const drop = useDrop((files) => void accept(files));
  const choosePhotos = () => input.current?.click();
  const sample = useChange(async () => choose((await call<{ id: string }>("POST", "sample", {})).id));

  useEffect(() => {
    const paste = (event: ClipboardEvent) => void accept([...(event.clipboardData?.files ?? [])]);
    window.addEventListener("paste", paste);
    return () => window.removeEventListener("paste", paste);
  }, [accept]);

  const { mutate: stepEdit } = useStepEdit(batchId);
  useStepKeys(batchId ? stepEdit : null);

  const none = desk.data !== undefined && desk.data.batches.length === 0 && uploads.length === 0;
  return (
    <div {...drop.props} className="relative grid h-screen grid-rows-[46px_1fr] overflow-hidden">
      <Header
        undo={shown?.undo?.words ?? null}
        redo={shown?.redo?.words ?? null}
        onStep={(direction) => stepEdit(direction)}
        status={statusOf(shown)}
      />
      <div className="grid min-h-0 grid-cols-[204px_minmax(0,1fr)_300px] grid-rows-[minmax(0,1fr)_auto] max-[1150px]:grid-cols-[160px_minmax(0,1fr)_252px]">
        <BatchRail
          desk={desk.data ?? null}
          error={desk.error}
          chosen={batchId}
          onChoose={choose}
          uploads={uploads}
          onDismiss={dismiss}
          onOpen={choosePhotos}
          onFolder={() => folder.current?.click()}
          input={
            <>
              <FileInput label="Choose photos" input={input} onFiles={(files) => void accept(files)} />
              <FileInput
                label="Choose a folder"
                input={folder}
                folders
                onFiles={(files) => void accept(files)}
              />
            </>
          }
        />
        <main
          className={`grid min-h-0 min-w-0 grid-rows-[auto_auto_minmax(0,1fr)] ${none ? "col-span-2" : ""}`}
        >
          {none && desk.data ? (
            <Welcome
              onOpen={choosePhotos}
              onSample={() => sample.mutate(undefined)}
              demoComing={desk.data.demoComing}
            />
          ) : (
            <>
              {shown ? (
                <BriefStrip
                  batch={shown}
                  briefs={desk.data?.briefs ?? []}
                  row={row}
                  slot={slot?.id ?? null}
                  chosen={picked}
                />
              ) : (
                <div />
              )}
              {shown && shown.name === SAMPLE_BATCH ? (
                <SampleGuide batch={shown} />
              ) : shown && shown.slots.length > 0 ? (
                <SlotsStrip
                  batch={shown}
                  chosen={slot?.id ?? row?.id ?? null}
                  onChoose={select}
                  onFile={(id) => {
                    aimed.current = id;
                  }}
                />
              ) : (
                <div />
              )}
              {shown && rows.length === 0 && !uploads.length ? (
                <EmptyBatch onOpen={choosePhotos} demoComing={desk.data?.demoComing ?? false} />
              ) : (
                shown && (
                  <ComplianceGrid batch={shown} chosen={row?.id ?? null} marked={marked} onChoose={select} />
                )
              )}
            </>
          )}
        </main>
        {shown && row && (
          <PhotoPane key={row.id} batch={shown} row={row} briefs={desk.data?.briefs ?? []} chosen={picked} />
        )}
        {!none && !row && (
          <aside aria-label="Selected photo" className="border-l border-rule bg-ground p-5">
            {slot && `${slot.name} has no photo yet. Drop one on its place, or choose one there.`}
          </aside>
        )}
        {shown && rows.length > 0 && <RunBar batch={shown} />}
      </div>
      {drop.over && (
        <div className="pointer-events-none absolute inset-0 z-50 grid place-items-center border-4 border-dashed border-plum bg-wash/80">
          <p className="text-xl font-semibold text-plum">Drop them: originals are only read, never changed</p>
        </div>
      )}
    </div>
  );
}

/** What is under way for a batch, in the header. */
function statusOf(batch: BatchView | null): string {
  const run = batch?.run;
  if (run && !run.finished)
    return `${run.paused ? "Paused" : "Making files"}: ${run.done + run.failed} of ${run.total}`;
  return batch?.totals.some((one) => one.state === "settling")
    ? "Sharing the limit on the whole"
    : "Nothing running";
}
