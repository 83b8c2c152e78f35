"use client";

/** The lines on crown, eyes and chin, over the photo: dragged, or moved with the arrow keys. */
import type { KeyboardEvent } from "react";
import { seenMarks } from "@/core/geometry";
import { turnedSize } from "@/core/photo";
import { MARK_NAMES, MARKS, type Mark, nudgeMark } from "./head";
import type { FrameEditor } from "./use-frame";

interface Props {
  editor: FrameEditor;
  /** Screen px for one of the photo's. */
  scale: number;
  /** How far the photo leans on the screen, in degrees. */
  angle: number;
  /** Width of the frame on the screen. */
  width: number;
}

const STEPS: Record<string, readonly [number, number]> = {
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
};

export function HeadLines({ editor, scale, angle, width }: Props) {
  const { frame, editing, edit } = editor;
  if (!frame.marks) return null;
  const seen = turnedSize(editing.photo, frame);
  const at = seenMarks(frame.marks, editing.photo, frame);
  const long = Math.max(48, width * 0.5);
  const key = (mark: Mark) => (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const by = event.shiftKey ? 10 : 1;
    edit((e, f) => nudgeMark(e, f, mark, step[0] * by, step[1] * by));
  };
  return MARKS.map((mark) => {
    const point = at[mark];
    if (!point) return null;
    return (
      <div
        key={mark}
        role="slider"
        tabIndex={0}
        data-mark={mark}
        aria-label={MARK_NAMES[mark]}
        aria-orientation="vertical"
        aria-valuemin={0}
        aria-valuemax={Math.round(seen.height)}
        aria-valuenow={Math.round(point.y)}
        aria-valuetext={`${Math.round(point.y)} px from the top, ${Math.round(point.x)} px from the left`}
        onKeyDown={key(mark)}
        className="absolute z-10 flex h-6 cursor-ns-resize touch-none items-center"
        style={{
          left: point.x * scale - long / 2,
          top: point.y * scale - 12,
          width: long,
          transform: angle ? `rotate(${angle}deg)` : undefined,
        }}
      >
        <span aria-hidden className="pointer-events-none h-[3px] flex-1 border-y border-white bg-plum" />
        <span
          aria-hidden
          className="pointer-events-none rounded-[4px] border border-white bg-plum px-1.5 text-tiny leading-5 text-white"
        >
          {MARK_NAMES[mark]}
        </span>
      </div>
    );
  });
}
