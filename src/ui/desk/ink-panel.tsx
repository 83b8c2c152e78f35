"use client";

/** What was found as ink, shown on the photo, with the two things that can be set about it. */
import { DEFAULT_INK } from "@/core/photo";
import { trimNumber } from "@/core/units";
import type { RowView } from "../api";
import { call, useChange } from "../api";
import { Slide } from "../parts";

interface Props {
  batchId: string;
  row: RowView;
  /** The ink is marked on the photo above. */
  marked: boolean;
  onMark: (on: boolean) => void;
}

export function InkPanel({ batchId, row, marked, onMark }: Props) {
  const set = useChange((ink: { strength: number; margin: number }) =>
    call("PUT", `batches/${batchId}/frame`, { rowId: row.id, frame: { ...row.frame, ink }, accepted: false }),
  );
  const now = row.frame.ink ?? DEFAULT_INK;
  const { ink } = row;
  return (
    <section aria-label="Ink" className="mb-3 rounded-box border border-rule px-3 py-2">
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={marked}
          onChange={(event) => onMark(event.target.checked)}
          className="size-4 accent-plum"
        />
        Mark what is taken as ink
      </label>
      <Slide
        label="Strength"
        value={now.strength}
        max={100}
        say={String}
        onSet={(strength) => set.mutate({ ...now, strength })}
      />
      <Slide
        label="Margin"
        value={now.margin}
        max={40}
        say={(value) => `${value} %`}
        onSet={(margin) => set.mutate({ ...now, margin })}
      />
      {ink && (
        <p className="figures mt-1 text-tiny text-second">
          Ink {trimNumber(ink.share * 100, 1)} % of the photo, strokes {trimNumber(ink.stroke, 1)} px
          {ink.lines > 0 && `, ${ink.lines} ${ink.lines === 1 ? "line" : "lines"} of the paper left out`}
        </p>
      )}
    </section>
  );
}
