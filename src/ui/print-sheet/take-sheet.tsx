"use client";

/** The sheet as a file: a PDF at its exact size, or a picture for kiosks that take nothing else. */
import { Download } from "lucide-react";
import { useState } from "react";
import type { SheetTask } from "@/core/delivery/print-sheet";

export function TakeSheet({
  runId,
  task,
  n,
  sheets,
}: {
  runId: string;
  task: SheetTask;
  n: number;
  sheets: number;
}) {
  const [ppi, setPpi] = useState("300");
  const value = Number(ppi);
  const right = Number.isFinite(value) && value >= 50 && value <= 2400;
  const query = (as: string) =>
    `/api/runs/${runId}/print?as=${as}&ppi=${right ? value : 300}&sheet=${n}&task=${encodeURIComponent(JSON.stringify(task))}`;
  return (
    <div className="ml-auto flex items-center gap-2">
      <label className="flex items-center gap-1.5 text-small text-second">
        As a picture at
        <input
          className={`box figures h-7 w-16 px-1.5 text-right text-ink ${right ? "" : "border-not"}`}
          inputMode="numeric"
          aria-invalid={!right}
          aria-label="Resolution of the sheet as a picture, in ppi"
          value={ppi}
          onChange={(event) => setPpi(event.target.value)}
        />
        ppi
      </label>
      {(["jpeg", "tiff"] as const).map((as) => (
        <a
          key={as}
          href={right ? query(as) : undefined}
          aria-disabled={!right}
          download
          className="box press inline-flex h-9 items-center px-3 hover:bg-wash"
        >
          {as.toUpperCase()}
        </a>
      ))}
      <a
        href={query("pdf")}
        download
        className="inline-flex h-11 items-center gap-2 rounded-box bg-plum px-5 text-[15px] font-semibold whitespace-nowrap text-white hover:bg-plum-deep"
      >
        <Download size={16} aria-hidden /> {sheets > 1 ? `${sheets} sheets as PDF` : "The sheet as PDF"}
      </a>
    </div>
  );
}
