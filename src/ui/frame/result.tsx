"use client";

/** The result as it is looked at, and at its true pixels: the real file once it is measured, until then drawn from the preview. */
import { type RefObject, useEffect, useRef, useState } from "react";
import { type Brief, resolveBrief } from "@/core/brief";
import { aboutGeometry } from "@/core/coding";
import type { Geometry } from "@/core/geometry";
import type { Size } from "@/core/photo";
import { allowedFormats } from "@/core/plan";
import { formatBytes, formatSize, trimNumber } from "@/core/units";
import type { RowView } from "../api";
import { Button, useKeys } from "../parts";
import { PartPicture } from "../picture";

interface Props {
  row: RowView;
  brief: Brief;
  geometry: Geometry;
  /** The frame on screen is not the measured one yet. */
  moving: boolean;
}

/**
 * Up to this many pixels a side the preview is drawn at its true size; beyond, drawing would be slower than
 * measuring.
 */
const MOST_DRAWN = 2400;

export function Result({ row, brief, geometry: planned, moving }: Props) {
  const measured = !moving && row.figure === "measured" && row.assignmentId !== null;
  // Pixels that are free are chosen when the file is made: before that, about those of this photo so far.
  const geometry = (measured && row.geometry) || aboutResult(row, brief, planned);
  const { width, height, scale } = geometry;
  const box = useRef<HTMLDivElement>(null);
  const room = useRoom(box);
  const [truly, setTruly] = useState(false);
  // Only where somebody looks at every pixel is a result that is larger than its place begun at 100 %.
  const byPixels = resolveBrief(brief).view.kind === "pixels" && !brief.head;
  const fit = room ? Math.min(1, room.width / width, room.height / height) : 1;
  const shown = fit < 1 && truly === byPixels ? fit : 1;
  useKeys(({ key }) => {
    if (key !== "t" || fit === 1) return false;
    setTruly(!truly);
    return true;
  });
  // A result larger than its place is shown from its middle, where the frame was put.
  useEffect(() => {
    const { current } = box;
    current?.scrollTo(
      (current.scrollWidth - current.clientWidth) / 2,
      (current.scrollHeight - current.clientHeight) / 2,
    );
  }, [row.id, width, height, shown]);
  const [w, h] = [Math.round(width * shown), Math.round(height * shown)];
  const shrink = Math.min(1, MOST_DRAWN / Math.max(w, h));
  return (
    <figure className="flex min-h-0 flex-col">
      <figcaption className="flex items-center justify-between gap-2 px-4 pt-3 pb-2">
        <h2 className="font-semibold">{shown < 1 ? "The result, whole" : "The result at its true pixels"}</h2>
        {fit < 1 ? (
          <Button keyHint="T" onClick={() => setTruly(!truly)}>
            {shown < 1 ? "True pixels" : "Whole"}
          </Button>
        ) : (
          <Weight row={row} measured={measured} />
        )}
      </figcaption>
      <div
        ref={box}
        tabIndex={0}
        role="region"
        aria-label="Result, can be scrolled"
        className="grid min-h-[120px] flex-1 overflow-auto bg-ground p-3 outline-offset-[-2px] [place-items:safe_center]"
      >
        {measured ? (
          <img
            src={`/api/assignments/${row.assignmentId}/output`}
            alt={`${row.name} as it will be`}
            width={w}
            height={h}
            className="max-w-none"
            style={{ width: w, height: h }}
          />
        ) : (
          <PartPicture
            photoId={row.photoId}
            name={`${row.name}, about as it will be`}
            geometry={geometry}
            photo={row.before}
            size={{ width: w * shrink, height: h * shrink }}
            background={resolveBrief(brief).background}
          />
        )}
      </div>
      <p className="figures flex flex-wrap justify-between gap-x-2 px-4 py-2 text-small">
        <span>
          {formatSize(width, height)} px
          <span className="ml-2 text-second">
            {scale > 1.0001
              ? `${trimNumber(scale, 2)} × enlarged: pixels are made up`
              : scale < 0.9999
                ? `${trimNumber(1 / scale, 2)} × reduced`
                : "pixel for pixel"}
          </span>
        </span>
        {fit < 1 && <Weight row={row} measured={measured} />}
      </p>
    </figure>
  );
}

function aboutResult({ before, frame }: RowView, brief: Brief, planned: Geometry): Geometry {
  const resolved = resolveBrief(brief);
  const [format] = allowedFormats(resolved, before);
  return aboutGeometry({ brief: resolved, photo: before, frame }, planned, format);
}

function Weight({ row, measured }: { row: RowView; measured: boolean }) {
  return (
    <span className="figures text-small text-second">
      {measured && row.bytes !== null ? formatBytes(row.bytes) : "not measured yet"}
    </span>
  );
}

/** Room around a picture, in px. */
const AROUND = 24;

/** What fits into a box without scrolling; null until it is drawn. */
function useRoom(box: RefObject<HTMLDivElement | null>): Size | null {
  const [room, setRoom] = useState<Size | null>(null);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      const { offsetWidth, offsetHeight } = entry.target as HTMLDivElement;
      setRoom({ width: Math.max(1, offsetWidth - AROUND), height: Math.max(1, offsetHeight - AROUND) });
    });
    if (box.current) observer.observe(box.current);
    return () => observer.disconnect();
  }, [box]);
  return room;
}
