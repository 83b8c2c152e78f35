"use client";

/** Print sheet: a run's files placed on paper at their exact size, to be printed and cut. */
import Link from "next/link";
import { useEffect, useMemo, useState } from "react";
import { layOut, type Piece, SHEETS, type Sheet, type SheetTask } from "@/core/delivery/print-sheet";
import { paperSize } from "@/core/proof";
import { trimNumber } from "@/core/units";
import type { RunDetail } from "../api";
import { useEvents, useRun } from "../api";
import { Figure, Header } from "../parts";
import { SheetControls } from "./controls";
import { SheetView } from "./sheet-view";
import { TakeSheet } from "./take-sheet";

const START: SheetTask = {
  width: 100,
  height: 150,
  margin: 4,
  gap: 2,
  lines: "corners",
  mode: "fill",
  bleed: 3,
  copies: {},
};

export function SheetScreen() {
  useEvents();
  const [runId, setRunId] = useState<string | null>(null);
  useEffect(() => setRunId(new URLSearchParams(window.location.search).get("run")), []);
  const { data: run, error } = useRun(runId);
  return (
    <div className="grid h-screen grid-rows-[46px_1fr] overflow-hidden">
      <Header undo={null} redo={null} status="" />
      <main className="min-h-0">
        {error && <p className="p-6 text-not">{error.message}</p>}
        {run && run.id === runId && <Laying key={run.id} run={run} />}
      </main>
    </div>
  );
}

function Laying({ run }: { run: RunDetail }) {
  const pieces = useMemo(
    () =>
      run.items.flatMap((item): Piece[] =>
        item.state === "done" && item.after
          ? [{ id: item.id, name: item.name!.split("/").pop()!, ...paperSize(item.after) }]
          : [],
      ),
    [run],
  );
  const undated = run.items.filter((item) => item.after && !item.after.resolution).length;
  // The sheet that holds the first picture, the smallest first.
  const [task, setTask] = useState<SheetTask>(() => ({
    ...START,
    ...startSheet(pieces),
    copies: Object.fromEntries(pieces.slice(0, 12).map((piece) => [piece.id, 1])),
  }));
  const [n, setN] = useState(1);
  const { sheets, error } = useMemo(() => laid(task, pieces), [task, pieces]);
  const shown = sheets[Math.min(n, sheets.length) - 1] ?? null;
  const placed = sheets.reduce((sum, sheet) => sum + sheet.placed.length, 0);
  const file = shown && run.items.find((item) => item.id === shown.placed[0]?.id);
  return (
    <div className="grid h-full min-h-0 grid-cols-[336px_minmax(0,1fr)] max-[1150px]:grid-cols-[292px_minmax(0,1fr)]">
      <aside
        aria-label="What goes onto the sheet"
        className="min-h-0 overflow-y-auto border-r border-rule bg-rail px-[18px] py-3.5"
      >
        <h2 className="text-[16px] font-bold">Print sheet</h2>
        <p className="text-small text-second [overflow-wrap:anywhere]">
          of {run.title.split(" · ")[0]},{" "}
          <Link href={`/runs?run=${run.id}`} className="press hover:underline">
            back to its run
          </Link>
        </p>
        <SheetControls task={task} pieces={pieces} onChange={setTask} />
        {undated > 0 && (
          <p className="mt-3 text-small text-needs">
            {undated} of the files say no resolution; they are printed at 300 ppi.
          </p>
        )}
      </aside>
      <section aria-label="The sheet" className="grid min-h-0 grid-rows-[minmax(0,1fr)_auto]">
        <div className="grid min-h-0 place-items-center overflow-hidden bg-ground p-6">
          {shown ? (
            <SheetView sheet={shown} task={task} />
          ) : (
            <p role="alert" className="max-w-md border-l-[3px] border-not bg-not-wash px-3 py-2">
              {error}
            </p>
          )}
        </div>
        <footer
          aria-label="What the sheet comes to"
          className="flex min-h-[64px] flex-wrap items-center gap-x-7 gap-y-2 border-t py-2 max-[1150px]:gap-x-5 border-rule bg-sheet px-[18px]"
        >
          <Figure
            title="Sheet"
            value={shown ? `${trimNumber(shown.width, 1)} × ${trimNumber(shown.height, 1)} mm` : "–"}
          />
          <Figure title="Pictures" value={String(placed)} />
          <Figure
            title="Resolution"
            value={file?.after?.resolution ? `${trimNumber(file.after.resolution[0], 1)} ppi` : "300 ppi"}
          />
          {sheets.length > 1 && (
            <label className="text-small text-second">
              Shown
              <select
                className="box ml-2 h-7 px-1.5 text-ink"
                value={Math.min(n, sheets.length)}
                onChange={(event) => setN(Number(event.target.value))}
              >
                {sheets.map((_, i) => (
                  <option key={i} value={i + 1}>
                    sheet {i + 1} of {sheets.length}
                  </option>
                ))}
              </select>
            </label>
          )}
          {shown && (
            <TakeSheet runId={run.id} task={task} n={Math.min(n, sheets.length)} sheets={sheets.length} />
          )}
        </footer>
      </section>
    </div>
  );
}

function laid(task: SheetTask, pieces: readonly Piece[]): { sheets: Sheet[]; error: string | null } {
  try {
    return { sheets: layOut(task, pieces), error: null };
  } catch (error) {
    return { sheets: [], error: error instanceof Error ? error.message : String(error) };
  }
}

function startSheet([first]: readonly Piece[]): { width: number; height: number } {
  const fits = (sheet: { width: number; height: number }) =>
    first &&
    Math.max(first.width, first.height) <= Math.max(sheet.width, sheet.height) - 8 &&
    Math.min(first.width, first.height) <= Math.min(sheet.width, sheet.height) - 8;
  const { width, height } = [...SHEETS].sort((a, b) => a.width - b.width).find(fits) ?? SHEETS[0];
  return { width, height };
}
