"use client";

/** Totals, names, and the one button that says what it will do. */
import { Download } from "lucide-react";
import { formatBytes } from "@/core/units";
import { call, useChange } from "../api/client";
import type { BatchView } from "../api/contract";
import { Button } from "../parts/button";
import { ProgressBar } from "../parts/progress-bar";
import { rowState } from "./row-state";

export function RunBar({ batch }: { batch: BatchView }) {
  const { rows, run } = batch;
  const start = useChange(() => call("POST", `batches/${batch.id}/runs`, {}));
  const states = rows.map(rowState);
  const able = rows.filter((row, i) => row.revisionId !== null && states[i].state !== "cannot");
  const asked = batch.briefs.length > 0;
  const waiting = states.filter((s) => s.state === "needs").length;
  const about = able.some((row) => row.figure === "about");
  const before = rows.reduce((sum, row) => sum + row.before.bytes, 0);
  const after = able.reduce((sum, row) => sum + ((row.made?.state === "done" ? row.made.bytes : row.bytes) ?? 0), 0);
  const names = rows.find((row) => row.outputName)?.outputName ?? "–";
  const made = rows.filter((row) => row.made?.state === "done").length;
  const busy = run !== null && !run.finished;
  const allMade = made > 0 && made === able.length;
  const files = (n: number) => `${n} ${n === 1 ? "file" : "files"}`;
  return (
    <footer aria-label="Run" className="col-span-2 col-start-2 flex h-[68px] items-center gap-7 border-t border-rule bg-sheet px-[18px] max-[1150px]:gap-4">
      <Figure title="Now" value={formatBytes(before)} />
      <Figure title={allMade ? "After" : "Will be"} value={able.length && asked ? `${about ? "about " : ""}${formatBytes(after)}` : "–"} />
      <Figure title={rows.length > 1 ? "Names, the first" : "Name"} value={names} grow />
      {waiting > 0 && !allMade && <Figure title="Waiting for you" value={`${waiting} to look at`} />}
      <div className="ml-auto flex items-center gap-3">
        {busy ? (
          <div role="status" className="w-56">
            <span className="text-small">
              {run.done + run.failed} of {files(run.total)} made
            </span>
            <ProgressBar label="Files made" value={run.done + run.failed} max={run.total} />
          </div>
        ) : allMade && run ? (
          <>
            <Button kind="quiet" disabled={start.isPending} onClick={() => start.mutate(undefined)}>
              Make again
            </Button>
            <a
              href={made === 1 ? `/api/items/${rows.find((row) => row.made?.state === "done")!.made!.itemId}/file` : `/api/runs/${run.id}/zip`}
              download
              className="inline-flex h-11 items-center gap-2 rounded-box bg-plum px-5 text-[15px] font-semibold whitespace-nowrap text-white hover:bg-plum-deep"
            >
              <Download size={16} aria-hidden /> {made === 1 ? "Download the file" : `Download ${files(made)} as ZIP`}
            </a>
          </>
        ) : (
          <Button kind="main" disabled={able.length === 0 || start.isPending || !asked} onClick={() => start.mutate(undefined)}>
            {!asked ? "Say what is asked first" : able.length ? `Make ${files(able.length)}` : "Nothing can be made"}
          </Button>
        )}
      </div>
    </footer>
  );
}

function Figure({ title, value, grow = false }: { title: string; value: string; grow?: boolean }) {
  return (
    <div className={grow ? "min-w-0 shrink" : "shrink-0"}>
      <span className="block text-tiny text-second">{title}</span>
      <span className="figures block truncate text-[14px] font-semibold" title={value}>
        {value}
      </span>
    </div>
  );
}
