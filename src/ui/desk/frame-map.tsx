"use client";

/** The whole photo, small, with the frame on it: drag or use the arrow keys to move it. */
import { useDrag } from "@use-gesture/react";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import type { Frame } from "@/core/photo";
import type { RowView } from "../api";
import { call, useChange } from "../api";

const LONGEST = 76;
const clamp = (value: number) => Math.min(1, Math.max(0, value));

export function FrameMap({ row, batchId }: { row: RowView; batchId: string }) {
  const { before, geometry } = row;
  const [frame, setFrame] = useState<Frame>(row.frame);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const move = useChange((next: Frame) =>
    call("PUT", `batches/${batchId}/frame`, { rowId: row.id, frame: next, accepted: true }),
  );
  useEffect(() => setFrame(row.frame), [row.frame.x, row.frame.y]);
  const scale = LONGEST / Math.max(before.width, before.height);
  const [width, height] = [before.width * scale, before.height * scale];
  const [fw, fh] = [geometry!.crop.width * scale, geometry!.crop.height * scale];
  const free = { x: width - fw, y: height - fh };
  const keep = (next: Frame) => {
    const rounded: Frame = {
      ...frame,
      auto: undefined,
      x: Number(clamp(next.x).toFixed(6)),
      y: Number(clamp(next.y).toFixed(6)),
    };
    setFrame(rounded);
    return rounded;
  };

  const drag = useDrag(({ first, last, movement: [mx, my], memo }) => {
    const from = first ? frame : (memo as Frame);
    const next = keep({
      ...frame,
      x: free.x > 0.5 ? from.x + mx / free.x : from.x,
      y: free.y > 0.5 ? from.y + my / free.y : from.y,
    });
    if (last && (next.x !== from.x || next.y !== from.y)) move.mutate(next);
    return from;
  });
  // One photo pixel an arrow key, ten with shift; saved when the keys rest.
  const nudge = (event: KeyboardEvent<HTMLDivElement>) => {
    const by = event.shiftKey ? 10 : 1;
    const steps: Record<string, [number, number]> = {
      ArrowLeft: [-by, 0],
      ArrowRight: [by, 0],
      ArrowUp: [0, -by],
      ArrowDown: [0, by],
    };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    const room = { x: before.width - geometry!.crop.width, y: before.height - geometry!.crop.height };
    const next = keep({
      ...frame,
      x: room.x > 0.5 ? frame.x + step[0] / room.x : frame.x,
      y: room.y > 0.5 ? frame.y + step[1] / room.y : frame.y,
    });
    if (timer.current) clearTimeout(timer.current);
    timer.current = setTimeout(() => move.mutate(next), 400);
  };

  return (
    <div className="text-right">
      <div
        role="slider"
        tabIndex={0}
        aria-label="Frame on the photo: arrow keys move it a pixel, with shift ten"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round((free.x > free.y ? frame.x : frame.y) * 100)}
        {...drag()}
        onKeyDown={nudge}
        className="relative cursor-move touch-none"
        style={{
          width,
          height,
          backgroundImage: `url(/api/photos/${row.photoId}/thumb)`,
          backgroundSize: "100% 100%",
        }}
      >
        <div
          className="absolute border-2 border-white outline-1 outline-ink"
          style={{ left: free.x * frame.x, top: free.y * frame.y, width: fw, height: fh }}
        />
      </div>
    </div>
  );
}
