"use client";

import { useDrag } from "@use-gesture/react";
import { X } from "lucide-react";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { CLEAN, PLAIN } from "@/core/difference";
import type { Rect, Size } from "@/core/photo";
import { linearTable, SRGB_CURVE } from "@/core/pixels/colour";
import { LIGHT_BANDS, type LightView, readoutWords } from "@/core/pixels/light";
import { formatBytes, trimNumber } from "@/core/units";
/** One picture in lock with the others. */
import { drawMap, drawPicture, drawSpot, gather, MAP_WORDS, pixelAt, type Readout } from "./draw";
import type { Tiles } from "./tiles";
import { useSightDifference } from "./use-difference";
import { inSight, place, type View } from "./view";

interface Props {
  number: number;
  name: string;
  /** Said behind the name. */
  note: string | null;
  /** What the server calls its picture; null while there is none. */
  picture: string | null;
  /** Shown instead for a moment, while flickering. */
  instead: { picture: string; size: Size; name: string } | null;
  size: Size;
  output: Size;
  bytes: number | null;
  difference: number | null;
  state: "waiting" | "judging" | "ready";
  error: string | null;
  tiles: Tiles;
  ticks: number;
  view: View;
  apparent: boolean;
  map: boolean;
  light: LightView;
  spot: Rect | null;
  active: boolean;
  closable: boolean;
  /** Where the pointer is, from the pane's middle, in screen pixels. */
  pointer: { x: number; y: number } | null;
  onActive: () => void;
  onClose: () => void;
  onRetry: () => void;
  onSize: (size: Size) => void;
  onPan: (dx: number, dy: number) => void;
  onZoom: (direction: 1 | -1, at: { x: number; y: number }) => void;
  onPointer: (at: { x: number; y: number } | null) => void;
}

export function Pane(props: Props) {
  const { number, name, tiles, ticks, view, apparent, map, spot, active, output, instead, onSize, pointer } =
    props;
  const picture = instead?.picture ?? props.picture;
  const size = instead?.size ?? props.size;
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState<Size>({ width: 0, height: 0 });
  useEffect(() => {
    const observer = new ResizeObserver(([{ contentRect }]) =>
      setRoom({ width: Math.round(contentRect.width), height: Math.round(contentRect.height) }),
    );
    if (box.current) observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    if (room.width) onSize(room);
  }, [room, onSize]);
  useDrag(
    ({ first, delta: [dx, dy] }) => {
      if (!first) props.onPan(-dx, -dy);
    },
    { target: box },
  );

  const placed = useMemo(
    () => place({ view, output, picture: size, pane: room, apparent }),
    [view, output, size, room, apparent],
  );
  const part = useMemo(() => inSight(placed, size, room), [placed, size, room]);
  const compared =
    map &&
    picture !== null &&
    picture !== "reference" &&
    picture !== "original" &&
    size.width === output.width;
  const make = useCallback(() => {
    if (!picture) return null;
    const [reference, trial] = [
      gather(tiles, "reference", placed.level, part),
      gather(tiles, picture, placed.level, part),
    ];
    return reference && trial && part.width > 0 && part.height > 0
      ? {
          reference: reference.data,
          trial: trial.data,
          width: part.width,
          height: part.height,
          space: trial.space,
        }
      : null;
  }, [tiles, picture, placed.level, part]);
  const seen = useSightDifference(
    compared ? `${picture} ${placed.level} ${part.x} ${part.y} ${part.width} ${part.height}` : null,
    make,
    ticks,
  );

  const [shown, setShown] = useState("");
  useEffect(() => {
    const { current } = canvas;
    if (!current || !room.width) return;
    const density = window.devicePixelRatio || 1;
    const [width, height] = [Math.round(room.width * density), Math.round(room.height * density)];
    if (current.width !== width || current.height !== height) Object.assign(current, { width, height });
    const context = current.getContext("2d", { colorSpace: "display-p3" });
    if (!context) return;
    context.setTransform(density, 0, 0, density, 0, 0);
    context.fillStyle = "#dcdcdc";
    context.fillRect(0, 0, room.width, room.height);
    const whole = picture ? drawPicture({ context, tiles, of: picture, size, placed, room }) : false;
    if (seen && picture) drawMap(context, seen.map, placed, part);
    if (spot) drawSpot(context, spot, place({ view, output, picture: output, pane: room, apparent: true }));
    if (whole && picture) setShown(picture);
  }, [tiles, ticks, picture, size, placed, part, room, seen, spot, view, output]);

  const readout = picture && room.width ? pixelAt({ tiles, of: picture, size, placed, room, pointer }) : null;

  // React listens to the wheel passively; a zoom must not scroll the page.
  const { onZoom } = props;
  useEffect(() => {
    const { current } = box;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const bounds = current!.getBoundingClientRect();
      onZoom(event.deltaY < 0 ? 1 : -1, {
        x: event.clientX - bounds.left - bounds.width / 2,
        y: event.clientY - bounds.top - bounds.height / 2,
      });
    };
    current?.addEventListener("wheel", wheel, { passive: false });
    return () => current?.removeEventListener("wheel", wheel);
  }, [onZoom]);

  return (
    <section
      aria-label={`Pane ${number}: ${name}`}
      data-shown={shown}
      data-state={props.state}
      className={`grid min-h-0 min-w-0 grid-rows-[44px_minmax(0,1fr)_22px] bg-ground ${active ? "outline-2 -outline-offset-2 outline-plum" : ""}`}
    >
      <Heading {...props} seen={seen ? seen.difference : null} />
      <div
        ref={box}
        className="relative min-h-0 cursor-grab touch-none overflow-hidden active:cursor-grabbing"
        onPointerDown={props.onActive}
        onPointerMove={(event) => {
          const bounds = event.currentTarget.getBoundingClientRect();
          props.onPointer({
            x: event.clientX - bounds.left - bounds.width / 2,
            y: event.clientY - bounds.top - bounds.height / 2,
          });
        }}
        onPointerLeave={() => props.onPointer(null)}
      >
        <canvas
          ref={canvas}
          className="absolute inset-0 h-full w-full"
          role="img"
          aria-label={`${name}${instead ? `, now ${instead.name}` : ""}, at ${Math.round(view.zoom * 100)} %`}
        />
        {props.light === "above" && !compared && readout?.times && (
          <p
            aria-label="What the colours mean"
            className="absolute right-2 bottom-2 flex items-center gap-2 rounded bg-sheet px-2 py-0.5 text-tiny text-second"
          >
            above white by
            {LIGHT_BANDS.map(({ colour, words }) => (
              <span key={words} className="flex items-center gap-1">
                <span
                  aria-hidden
                  className="size-3 border border-rule"
                  style={{ background: `rgb(${colour.join(" ")})` }}
                />
                {words}
              </span>
            ))}
          </p>
        )}
        {compared && (
          <p
            aria-label="What the map's colours mean"
            className="absolute right-2 bottom-2 flex items-center gap-2 rounded bg-sheet px-2 py-0.5 text-tiny text-second"
          >
            {MAP_WORDS.map(([colour, words]) => (
              <span key={words} className="flex items-center gap-1">
                <span aria-hidden className="size-3 border border-rule" style={{ background: colour }} />
                {words}
              </span>
            ))}
          </p>
        )}
        {instead && (
          <p className="absolute top-2 left-2 rounded bg-sheet px-2 py-0.5 text-small">{instead.name}</p>
        )}
        {props.error ? (
          <div
            role="alert"
            className="absolute inset-x-4 top-4 border-l-[3px] border-not bg-not-wash px-3 py-2"
          >
            <p>{props.error}</p>
            <button type="button" className="press hover:underline" onClick={props.onRetry}>
              Try again
            </button>
          </div>
        ) : (
          (props.state === "waiting" || shown === "") && (
            <p className="absolute inset-x-4 top-4 w-fit rounded bg-sheet px-2 py-1 text-small text-second">
              {props.state === "waiting" ? "being made" : "being fetched"}
            </p>
          )
        )}
      </div>
      <PixelLine readout={readout} pointed={pointer !== null} />
    </section>
  );
}

const LINEAR = linearTable(SRGB_CURVE, 256);

/** The pixel under the pointer: in 8 bits, and in linear light as a share of white. */
function PixelLine({ readout, pointed }: { readout: Readout | null; pointed: boolean }) {
  return (
    <p className="flex min-w-0 items-center gap-2.5 overflow-hidden border-t border-thin bg-paper px-2.5 text-tiny whitespace-nowrap">
      <span className="text-second">{pointed ? "pointer" : "middle"}</span>
      {readout && (
        <>
          <span className="figures" title="8 bits">
            {readout.codes.map((code) => String(code).padStart(3, "\u2007")).join(" ")}
          </span>
          <span
            className="figures text-second"
            title="Linear light, 1 is white; stops are those of the strongest channel"
          >
            {readout.times
              ? readoutWords(readout.times)
              : readout.codes.map((code) => LINEAR[code].toFixed(3)).join(" ")}
          </span>
          {readout.level > 0 && (
            <span className="truncate text-second">{`mean of ${2 ** readout.level} × ${2 ** readout.level}`}</span>
          )}
        </>
      )}
    </p>
  );
}

function Heading({
  number,
  name,
  note,
  bytes,
  difference,
  state,
  active,
  closable,
  onActive,
  onClose,
  seen,
}: Props & { seen: number | null }) {
  const harm =
    difference === null
      ? null
      : difference <= CLEAN
        ? "nothing to see as it is looked at"
        : difference <= PLAIN
          ? "a careful eye sees it"
          : "plain to see";
  return (
    <header className="@container flex min-w-0 items-center gap-2 overflow-hidden border-b border-rule bg-sheet px-2.5">
      <button
        type="button"
        aria-pressed={active}
        onClick={onActive}
        title={`Work on pane ${number}`}
        className="flex min-w-0 flex-1 items-center gap-2 text-left"
      >
        <span className="figures grid size-[18px] shrink-0 place-items-center rounded-full bg-plum text-[11px] text-white">
          {number}
        </span>
        <span className="flex min-w-0 flex-1 flex-wrap items-baseline gap-x-2.5 leading-[18px]">
          <b className="min-w-0 truncate font-semibold">{name}</b>
          {note && <span className="figures min-w-0 truncate text-small text-second">{note}</span>}
        </span>
      </button>
      <span className="figures flex shrink-0 items-end justify-end gap-x-2.5 text-small leading-[18px] @max-[300px]:flex-col">
        {bytes !== null && <span>{formatBytes(bytes)}</span>}
        {difference !== null ? (
          <span title={harm ?? ""}>{trimNumber(difference, 2)}</span>
        ) : (
          state === "judging" && <span className="text-second">measuring</span>
        )}
        {seen !== null && (
          <span className="text-second" title="Difference of what is in sight, as large as it is in sight">
            in sight {trimNumber(seen, 2)}
          </span>
        )}
      </span>
      {closable && (
        <button
          type="button"
          aria-label={`Close pane ${number}`}
          onClick={onClose}
          className="press grid size-6 shrink-0 place-items-center rounded hover:bg-wash"
        >
          <X size={14} aria-hidden />
        </button>
      )}
    </header>
  );
}
