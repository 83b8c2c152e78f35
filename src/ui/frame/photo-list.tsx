"use client";

/** The batch's photos with the state of each one's frame. */
import { useEffect, useRef } from "react";
import { MARK_HEAD } from "@/core/plan";
import type { RowView } from "../api";
import { StateMark } from "../parts";

/** How a photo's frame stands, in a few words. */
export function frameState(row: RowView): { words: string; state: "meets" | "needs" | "cannot" | null } {
  if (!row.geometry)
    return row.revisionId
      ? { words: "cannot be framed", state: "cannot" }
      : { words: "no brief yet", state: null };
  if (row.verdict?.state === "needs" && row.verdict.reason === MARK_HEAD)
    return { words: MARK_HEAD, state: "needs" };
  const { cut, mode, turn, angle } = row.geometry;
  const byHand = row.frame.auto !== true;
  if (cut < 0.002 && !turn && !angle)
    return { words: mode === "pad" ? "whole, with background" : "whole", state: "meets" };
  if (row.verdict?.state === "needs")
    return { words: byHand ? "set by hand: look" : "by detail: look", state: "needs" };
  return { words: byHand ? "set by hand" : "by detail", state: "meets" };
}

export function PhotoList({
  rows,
  chosen,
  onChoose,
}: {
  rows: RowView[];
  chosen: string;
  onChoose: (id: string) => void;
}) {
  const current = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    current.current?.scrollIntoView({ block: "nearest" });
  }, [chosen]);
  return (
    <nav
      aria-label="Photos of the batch"
      className="min-h-0 overflow-y-auto border-r border-rule bg-rail py-2"
    >
      <ul>
        {rows.map((row) => {
          const { words, state } = frameState(row);
          const here = row.id === chosen;
          return (
            <li key={row.id} className="[contain-intrinsic-size:auto_56px] [content-visibility:auto]">
              <button
                type="button"
                ref={here ? current : undefined}
                aria-current={here ? "true" : undefined}
                onClick={() => onChoose(row.id)}
                className={`grid w-full grid-cols-[44px_1fr_auto] items-center gap-2 border-l-[3px] px-2.5 py-1.5 text-left ${here ? "border-plum bg-wash" : "border-transparent hover:bg-paper"}`}
              >
                <span className="grid h-11 w-11 place-items-center overflow-hidden bg-ground">
                  {row.thumb && (
                    <img
                      src={`/api/photos/${row.photoId}/thumb`}
                      alt=""
                      loading="lazy"
                      className="max-h-11 max-w-11"
                    />
                  )}
                </span>
                <span className="min-w-0">
                  <span className="block truncate" title={row.name}>
                    {row.name}
                  </span>
                  <span className="block truncate text-tiny text-second">{words}</span>
                </span>
                {state && <StateMark small state={state} />}
              </button>
            </li>
          );
        })}
      </ul>
    </nav>
  );
}
