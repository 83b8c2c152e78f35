"use client";

/** The photo with the output frame on it: drag moves it, wheel and pinch bring it closer. */
import { useGesture } from "@use-gesture/react";
import { useLayoutEffect, useRef, useState } from "react";
import { centreAt, centreOf, type Geometry, seenMarks, zoomBy } from "@/core/geometry";
import { type Point, turnedSize } from "@/core/photo";
import type { RowView } from "../api";
import { turnedStyle } from "../picture";
import { MARKS, type Mark, moveMark } from "./head";
import { HeadLines } from "./head-lines";
import type { FrameEditor } from "./use-frame";

interface Props {
  row: RowView;
  editor: FrameEditor;
  geometry: Geometry;
  guides: boolean;
  round: boolean;
  /** The lines on the head are shown. */
  marked: boolean;
}

/** Where a drag began, in px of the turned photo. */
interface Held extends Point {
  mark: Mark | null;
}

/** Neutral grey around the photo, in px. */
const MARGIN = 28;
/** How much closer a pixel of the wheel brings it; a line of it is so many, a pixel of a pinch so many times as much. */
const CLOSER = 1.0015;
const LINE = 16;
const PINCH = 6;

export function Stage({ row, editor, geometry, guides, round, marked }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState({ width: 640, height: 560 });
  useLayoutEffect(() => {
    const element = box.current!;
    const measure = () => setRoom({ width: element.clientWidth, height: element.clientHeight });
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    measure();
    return () => observer.disconnect();
  }, []);

  const seen = turnedSize(row.before, editor.frame);
  const scale = Math.max(
    0.001,
    Math.min((room.width - 2 * MARGIN) / seen.width, (room.height - 2 * MARGIN) / seen.height),
  );
  const origin = { x: (room.width - seen.width * scale) / 2, y: (room.height - seen.height * scale) / 2 };
  const { crop } = geometry;
  const angle = geometry.angle ?? 0;
  const centre = centreOf(geometry);
  const [cx, cy] = [origin.x + centre.x * scale, origin.y + centre.y * scale];
  const [width, height] = [crop.width * scale, crop.height * scale];

  const { edit } = editor;
  /** What is under the pointer when a drag begins: a mark of the head, or the frame. */
  const heldAt = (target: EventTarget | null): Held => {
    const name = target instanceof Element ? target.closest("[data-mark]")?.getAttribute("data-mark") : null;
    const mark = MARKS.find((one) => one === name) ?? null;
    const at = mark && editor.frame.marks && seenMarks(editor.frame.marks, row.before, editor.frame)[mark];
    return at ? { mark, ...at } : { mark: null, ...centre };
  };
  useGesture(
    {
      onDrag: ({ first, event, movement: [mx, my], pinching, memo }) => {
        const from = first || !memo ? heldAt(event.target) : (memo as Held);
        if (pinching) return from;
        // The photo lies turned by the lean under an upright frame.
        const radians = (angle * Math.PI) / 180;
        const [dx, dy] = [mx / scale, my / scale];
        const px = dx * Math.cos(radians) - dy * Math.sin(radians);
        const py = dx * Math.sin(radians) + dy * Math.cos(radians);
        const { mark } = from;
        if (mark) edit((e, frame) => moveMark(e, frame, mark, { x: from.x + px, y: from.y + py }));
        else edit((e, frame) => centreAt(e, frame, from.x + px, from.y + py));
        return from;
      },
      onPinch: ({ event, offset: [spread], delta: [more] }) => {
        event.preventDefault();
        // A pinch on a touch pad arrives as a wheel with Ctrl, in finer steps.
        const by = event instanceof WheelEvent ? CLOSER ** (-event.deltaY * PINCH) : spread / (spread - more);
        edit((e, frame) => zoomBy(e, frame, by));
      },
      onWheel: ({ event }) => {
        if (event.ctrlKey) return;
        event.preventDefault();
        const amount = event.deltaY * (event.deltaMode === WheelEvent.DOM_DELTA_LINE ? LINE : 1);
        edit((e, frame) => zoomBy(e, frame, CLOSER ** -amount));
      },
    },
    // Arrow keys have their own meaning here.
    { target: box, eventOptions: { passive: false }, drag: { pointer: { keys: false } } },
  );

  /** The photo's box, as it lies under the upright frame. */
  const lying = {
    left: origin.x,
    top: origin.y,
    width: seen.width * scale,
    height: seen.height * scale,
    transform: angle ? `rotate(${-angle}deg)` : undefined,
    transformOrigin: `${centre.x * scale}px ${centre.y * scale}px`,
  };
  const frameBox = { left: cx - width / 2, top: cy - height / 2, width, height };
  return (
    <div
      ref={box}
      data-testid="stage"
      className="relative min-h-0 min-w-0 cursor-move touch-none overflow-hidden bg-ground select-none"
    >
      <div className="absolute" style={lying}>
        <img
          src={`/api/photos/${row.photoId}/view`}
          alt={row.name}
          draggable={false}
          className="absolute max-w-none"
          style={turnedStyle(geometry.turn ?? 0, row.before, scale)}
        />
      </div>
      {geometry.mode === "pad" ? null : (
        <div
          className="pointer-events-none absolute outline-2 outline-white"
          style={{ ...frameBox, boxShadow: "0 0 0 4000px rgb(220 220 220 / 0.72)" }}
        >
          <div className="absolute inset-0 border border-plum" />
          {round && (
            <div
              className="absolute top-1/2 left-1/2 -translate-x-1/2 -translate-y-1/2 rounded-[50%] border border-white outline-1 outline-plum"
              style={{ width: Math.min(width, height), height: Math.min(width, height) }}
            />
          )}
          {guides && (
            <>
              <div className="absolute inset-y-0 left-1/2 w-px bg-white mix-blend-difference" />
              <div className="absolute inset-x-0 top-1/2 h-px bg-white mix-blend-difference" />
            </>
          )}
        </div>
      )}
      {marked && (
        <div className="absolute" style={lying}>
          <HeadLines editor={editor} scale={scale} angle={angle} width={width} />
        </div>
      )}
    </div>
  );
}
