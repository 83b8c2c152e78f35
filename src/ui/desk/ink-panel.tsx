"use client";

/** What was found as ink, shown on the photo, with the two things that can be set about it. */
import { useState } from "react";
import { DEFAULT_INK } from "@/core/ink/types";
import { trimNumber } from "@/core/units";
import { call, useChange } from "../api/client";
import type { RowView } from "../api/contract";

interface Props {
  batchId: string;
  row: RowView;
  /** The ink is marked on the photo above. */
  marked: boolean;
  onMark: (on: boolean) => void;
}

export function InkPanel({ batchId, row, marked, onMark }: Props) {
  const set = useChange((ink: { strength: number; margin: number }) => call("PUT", `batches/${batchId}/frame`, { rowId: row.id, frame: { ...row.frame, ink }, accepted: false }));
  const now = row.frame.ink ?? DEFAULT_INK;
  const { ink } = row;
  return (
    <section aria-label="Ink" className="mb-3 rounded-box border border-rule px-3 py-2">
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={marked} onChange={(event) => onMark(event.target.checked)} className="size-4 accent-plum" />
        Mark what is taken as ink
      </label>
      <Slide key={`s${now.strength}`} label="Strength" value={now.strength} max={100} say={String} onSet={(strength) => set.mutate({ ...now, strength })} />
      <Slide key={`m${now.margin}`} label="Margin" value={now.margin} max={40} say={(value) => `${value} %`} onSet={(margin) => set.mutate({ ...now, margin })} />
      {ink && (
        <p className="figures mt-1 text-tiny text-second">
          Ink {trimNumber(ink.share * 100, 1)} % of the photo, strokes {trimNumber(ink.stroke, 1)} px{ink.lines > 0 && `, ${ink.lines} ${ink.lines === 1 ? "line" : "lines"} of the paper left out`}
        </p>
      )}
    </section>
  );
}

interface SlideProps {
  label: string;
  value: number;
  max: number;
  say: (value: number) => string;
  onSet: (value: number) => void;
}

/** Takes effect when it is let go: each change is worked out on the whole photo. */
function Slide({ label, value, max, say, onSet }: SlideProps) {
  const [at, setAt] = useState(value);
  const settle = () => at !== value && onSet(at);
  return (
    <label className="mt-1.5 grid grid-cols-[58px_minmax(0,1fr)_38px] items-center gap-2 text-small">
      <span>{label}</span>
      <input type="range" min={0} max={max} value={at} aria-valuetext={say(at)} onChange={(event) => setAt(Number(event.target.value))} onPointerUp={settle} onKeyUp={settle} onBlur={settle} className="h-6 w-full min-w-0 accent-plum" />
      <span className="figures text-right">{say(at)}</span>
    </label>
  );
}
