"use client";

/** The result at its true pixels: the real file once it is measured, until then drawn from the preview. */
import { useEffect, useRef } from "react";
import { type Brief, resolveBrief } from "@/core/brief";
import type { Geometry } from "@/core/geometry";
import { formatBytes, formatSize, trimNumber } from "@/core/units";
import type { RowView } from "../api";
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

export function Result({ row, brief, geometry, moving }: Props) {
  const measured = !moving && row.figure === "measured" && row.assignmentId !== null;
  const { width, height, scale } = geometry;
  const box = useRef<HTMLDivElement>(null);
  // A result larger than its place is shown from its middle, where the frame was put.
  useEffect(() => {
    const { current } = box;
    current?.scrollTo(
      (current.scrollWidth - current.clientWidth) / 2,
      (current.scrollHeight - current.clientHeight) / 2,
    );
  }, [row.id, width, height]);
  const shrink = Math.min(1, MOST_DRAWN / Math.max(width, height));
  return (
    <figure className="flex min-h-0 flex-col">
      <figcaption className="flex items-baseline justify-between gap-2 px-4 pt-3 pb-2">
        <h2 className="font-semibold">The result at its true pixels</h2>
        <span className="figures text-small text-second">
          {measured && row.bytes !== null ? formatBytes(row.bytes) : "not measured yet"}
        </span>
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
            width={width}
            height={height}
            className="max-w-none"
            style={{ width, height }}
          />
        ) : (
          <PartPicture
            photoId={row.photoId}
            name={`${row.name}, about as it will be`}
            geometry={geometry}
            photo={row.before}
            size={{ width: width * shrink, height: height * shrink }}
            background={resolveBrief(brief).background}
          />
        )}
      </div>
      <p className="figures px-4 py-2 text-small">
        {formatSize(width, height)} px
        <span className="ml-2 text-second">
          {scale > 1.0001
            ? `${trimNumber(scale, 2)} × enlarged: pixels are made up`
            : scale < 0.9999
              ? `${trimNumber(1 / scale, 2)} × reduced`
              : "pixel for pixel"}
        </span>
      </p>
    </figure>
  );
}
