"use client";

/** The files of a run, one a row, in a chosen order. */
import { useVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, useEffect, useRef } from "react";
import { formatBytes, formatSize } from "@/core/units";
import type { RunItemView } from "../api";
import { differenceWords, STATE_INK, type State, StateMark } from "../parts";
import type { Order } from "./words";

interface Props {
  items: readonly RunItemView[];
  chosen: string | null;
  onChoose: (id: string) => void;
  order: Order;
  orders: readonly [Order, string][];
  onOrder: (order: Order) => void;
}

const ROW = 40;
const COLUMNS =
  "grid-cols-[28px_minmax(90px,1fr)_92px_136px_76px_74px] " +
  "max-[1150px]:grid-cols-[28px_minmax(90px,1fr)_92px_66px_76px_72px]";

function stateOf(item: RunItemView): { state: State | null; words: string } {
  if (item.state === "done")
    return item.ok ? { state: "meets", words: "Met" } : { state: "cannot", words: "Not met" };
  if (item.state === "failed") return { state: "cannot", words: "Failed" };
  return { state: null, words: item.state === "cancelled" ? "cancelled" : "being made" };
}

export function ItemTable({ items, chosen, onChoose, order, orders, onOrder }: Props) {
  const scroll = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const at = Math.max(
    0,
    items.findIndex((item) => item.id === chosen),
  );
  useEffect(() => {
    if (items.length) virtual.scrollToIndex(at);
  }, [virtual, at, items.length]);
  const keys: Record<string, number> = {
    ArrowDown: 1,
    ArrowUp: -1,
    PageDown: 8,
    PageUp: -8,
    Home: -items.length,
    End: items.length,
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = keys[event.key];
    if (!step || !items.length) return;
    event.preventDefault();
    onChoose(items[Math.min(items.length - 1, Math.max(0, at + step))].id);
  };
  return (
    <div className="grid min-h-0 min-w-0 grid-rows-[auto_minmax(0,1fr)]">
      <div className="flex flex-wrap items-center gap-x-4 bg-rail px-[18px] py-1">
        {orders.map(([value, words]) => (
          <label key={value} className="flex items-center gap-1.5 text-small">
            <input
              type="radio"
              name="order"
              checked={order === value}
              onChange={() => onOrder(value)}
              className="accent-plum"
            />
            {words}
          </label>
        ))}
      </div>
      <div
        ref={scroll}
        role="grid"
        aria-label="Files of this run"
        aria-rowcount={items.length + 1}
        aria-activedescendant={items[at] ? `item-${items[at].id}` : undefined}
        tabIndex={0}
        onKeyDown={onKeyDown}
        className="min-h-0 overflow-y-auto outline-offset-[-2px]"
      >
        <div
          role="row"
          aria-rowindex={1}
          className={`sticky top-0 z-10 grid gap-x-2.5 border-b border-rule bg-rail px-[18px] py-1 text-small font-semibold text-second ${COLUMNS}`}
        >
          <span role="columnheader">
            <span className="sr-only">Picture</span>
          </span>
          {["File", "Pixels", "File size", "Difference", "Verdict"].map((name) => (
            <span key={name} role="columnheader">
              {name}
            </span>
          ))}
        </div>
        <div role="presentation" className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const item = items[index];
            const { state, words } = stateOf(item);
            const on = index === at;
            return (
              <div
                key={item.id}
                id={`item-${item.id}`}
                role="row"
                aria-rowindex={index + 2}
                aria-selected={on}
                onClick={() => onChoose(item.id)}
                className={`absolute inset-x-0 grid ${COLUMNS} cursor-pointer items-center gap-x-2.5 border-b border-thin px-[18px] ${on ? "bg-wash shadow-[inset_3px_0_0_var(--color-plum)]" : "hover:bg-rail"}`}
                style={{ height: ROW, transform: `translateY(${start}px)` }}
              >
                <span
                  role="gridcell"
                  className="grid size-7 place-items-center overflow-hidden rounded-[3px] bg-ground"
                >
                  {item.photoId && (
                    <img
                      src={`/api/photos/${item.photoId}/thumb`}
                      alt=""
                      loading="lazy"
                      className="max-h-7 max-w-7"
                    />
                  )}
                </span>
                <span
                  role="gridcell"
                  className="min-w-0 truncate font-semibold"
                  title={item.name ?? item.source}
                >
                  {item.name ?? item.source}
                </span>
                <span role="gridcell" className="figures truncate text-small">
                  {item.after ? formatSize(item.after.width, item.after.height) : "–"}
                </span>
                <span role="gridcell" className="figures truncate text-small">
                  <b>{item.bytes === null ? "–" : formatBytes(item.bytes)}</b>{" "}
                  <span className="text-second max-[1150px]:hidden">{formatBytes(item.before.bytes)}</span>
                </span>
                <span role="gridcell" className="figures whitespace-nowrap text-small">
                  {item.difference === null
                    ? "–"
                    : item.difference === 0
                      ? "none"
                      : differenceWords(item.difference, item.differenceAbout)}
                </span>
                <span role="gridcell" className="flex items-center gap-1.5 text-small">
                  {state && <StateMark small state={state} />}
                  <span className={state ? `font-semibold ${STATE_INK[state]}` : "text-second"}>{words}</span>
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
