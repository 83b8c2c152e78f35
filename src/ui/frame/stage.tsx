"use client";

/** The photo with the output frame on it: drag moves it, wheel and pinch bring it closer. */
import { type PointerEvent, useEffect, useLayoutEffect, useRef, useState } from "react";
import { centreAt, centreOf, type Geometry, zoomBy } from "@/core/geometry";
import { turnedSize } from "@/core/photo";
import type { RowView } from "../api";
import { turnedStyle } from "../picture";
import type { FrameEditor } from "./use-frame";

interface Props {
  row: RowView;
  editor: FrameEditor;
  geometry: Geometry;
  guides: boolean;
  round: boolean;
}

/** Neutral grey around the photo, in px. */
const MARGIN = 28;
const CLOSER = 1.0015;

export function Stage({ row, editor, geometry, guides, round }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState({ width: 640, height: 560 });
  const pointers = useRef(new Map<number, { x: number; y: number }>());
  const grip = useRef<{ x: number; y: number; centre: { x: number; y: number } } | null>(null);
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
  useEffect(() => {
    const element = box.current!;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      // A pinch on a touch pad arrives as a wheel with Ctrl, in finer steps.
      const amount = event.deltaY * (event.deltaMode === 1 ? 16 : 1) * (event.ctrlKey ? 6 : 1);
      edit((e, frame) => zoomBy(e, frame, CLOSER ** -amount));
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => element.removeEventListener("wheel", wheel);
  }, [edit]);

  const down = (event: PointerEvent<HTMLDivElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    pointers.current.set(event.pointerId, { x: event.clientX, y: event.clientY });
    grip.current = { x: event.clientX, y: event.clientY, centre };
  };
  const move = (event: PointerEvent<HTMLDivElement>) => {
    const before = pointers.current.get(event.pointerId);
    if (!before) return;
    const now = { x: event.clientX, y: event.clientY };
    const other = [...pointers.current].find(([id]) => id !== event.pointerId)?.[1];
    pointers.current.set(event.pointerId, now);
    if (other) {
      const spread = (p: { x: number; y: number }) => Math.hypot(p.x - other.x, p.y - other.y);
      grip.current = null;
      return editor.edit((e, frame) => zoomBy(e, frame, spread(now) / Math.max(1, spread(before))));
    }
    if (!grip.current) return;
    const { x, y, centre: from } = grip.current;
    // The photo lies turned by the lean under an upright frame.
    const radians = (angle * Math.PI) / 180;
    const [dx, dy] = [(now.x - x) / scale, (now.y - y) / scale];
    const [px, py] = [
      dx * Math.cos(radians) - dy * Math.sin(radians),
      dx * Math.sin(radians) + dy * Math.cos(radians),
    ];
    editor.edit((e, frame) => centreAt(e, frame, from.x + px, from.y + py));
  };
  const up = (event: PointerEvent<HTMLDivElement>) => {
    pointers.current.delete(event.pointerId);
    grip.current = null;
  };

  const frameBox = { left: cx - width / 2, top: cy - height / 2, width, height };
  return (
    <div
      ref={box}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={up}
      data-testid="stage"
      className="relative min-h-0 min-w-0 cursor-move touch-none overflow-hidden bg-ground select-none"
    >
      <div
        className="absolute"
        style={{
          left: origin.x,
          top: origin.y,
          width: seen.width * scale,
          height: seen.height * scale,
          transform: angle ? `rotate(${-angle}deg)` : undefined,
          transformOrigin: `${centre.x * scale}px ${centre.y * scale}px`,
        }}
      >
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
    </div>
  );
}
