"use client";

/** Two to six panes in lock. */
import type { Rect, Size } from "@/core/photo";
import type { LightView } from "@/core/pixels/light";
import { formatSize } from "@/core/units";
import type { WeighView } from "../api";
import { Pane } from "./pane";
import { LEAST_PANES, type PaneOf, paneName, pictureKey, sizeFor, trialOf } from "./panes";
import type { Tiles } from "./tiles";
import { useTicks } from "./use-weigh";
import type { View } from "./view";

interface Props {
  view: WeighView;
  tiles: Tiles;
  panes: PaneOf[];
  active: number;
  look: View;
  map: boolean;
  apparent: boolean;
  light: LightView;
  spot: Rect | null;
  /** The active pane shows the next one's picture at this moment. */
  flick: boolean;
  pointer: { x: number; y: number } | null;
  onActive: (index: number) => void;
  onClose: (index: number) => void;
  onRoom: (size: Size) => void;
  onPan: (dx: number, dy: number) => void;
  onZoom: (direction: 1 | -1, at: { x: number; y: number }) => void;
  onPointer: (at: { x: number; y: number } | null) => void;
  onRetry: (pane: PaneOf) => void;
}

const SHAPES: Record<number, string> = {
  2: "grid-cols-2",
  3: "grid-cols-3",
  4: "grid-cols-2 grid-rows-2",
  5: "grid-cols-3 grid-rows-2",
  6: "grid-cols-3 grid-rows-2",
};

/** Pixels of a trial where panes show several sizes; those that a way of taking a raw file has by itself. */
function noteOf(pane: PaneOf, view: WeighView, several: boolean): string | null {
  const { ways } = view;
  if (several && typeof pane !== "string") {
    const { width, height } = sizeFor(pane, view);
    return `${formatSize(width, height)} px`;
  }
  const own = ways.find(({ way }) => way === pane);
  return own ? `from ${formatSize(own.width, own.height)} px` : null;
}

export function PaneGrid(props: Props) {
  const { view, tiles, panes, active, flick } = props;
  const ticks = useTicks(tiles);
  const { width, height } = view.geometry;
  const sizeOf = (pane: PaneOf): Size => {
    if (typeof pane === "string") return pane === "original" ? view.original : { width, height };
    return sizeFor(pane, view);
  };
  const several = panes.some((pane) => typeof pane !== "string" && sizeFor(pane, view).side !== null);
  const other = panes[(active + 1) % panes.length];
  const otherKey = pictureKey(other, view);
  return (
    <main
      aria-label="Panes"
      className={`grid min-h-0 min-w-0 auto-rows-fr gap-[2px] bg-between ${SHAPES[panes.length] ?? SHAPES[2]}`}
    >
      {panes.map((pane, i) => {
        const trial = trialOf(pane, view);
        const key = pictureKey(pane, view);
        const there = typeof pane === "string" || trial?.kept === true;
        return (
          <Pane
            key={i}
            number={i + 1}
            name={paneName(pane)}
            note={noteOf(pane, view, several)}
            picture={there ? key : null}
            instead={
              flick && i === active && otherKey
                ? { picture: otherKey, size: sizeOf(other), name: paneName(other) }
                : null
            }
            size={sizeOf(pane)}
            output={view.geometry}
            bytes={
              pane === "original"
                ? view.sourceBytes
                : (view.ways.find(({ way }) => way === pane)?.bytes ?? trial?.bytes ?? null)
            }
            difference={pane === "reference" ? 0 : (trial?.difference ?? null)}
            state={
              !there
                ? "waiting"
                : typeof pane !== "string" && trial?.difference === null
                  ? "judging"
                  : "ready"
            }
            error={(key && tiles.errorOf(key)) || (!there && view.error ? view.error : null)}
            tiles={tiles}
            ticks={ticks}
            view={props.look}
            apparent={props.apparent}
            map={props.map}
            light={props.light}
            spot={props.spot}
            active={i === active}
            closable={panes.length > LEAST_PANES}
            pointer={props.pointer}
            onActive={() => props.onActive(i)}
            onClose={() => props.onClose(i)}
            onRetry={() => props.onRetry(pane)}
            onSize={props.onRoom}
            onPan={props.onPan}
            onZoom={props.onZoom}
            onPointer={props.onPointer}
          />
        );
      })}
    </main>
  );
}
