/** Where a sheet is cut: marks at the corners of pictures, or lines from edge to edge. In millimetres. */
import { MARK_ROOM } from "./lay-out";
import type { Sheet, SheetTask } from "./task";

export interface Cut {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
}

/** A mark stays so far from the picture and is at most so long. */
const AWAY = 0.6;
const LONGEST = 4;
/** Crop marks beside a bleed (common practice: outside of it, so that none is left on the print). */
const MARK = 5;

export function cutsOf(sheet: Sheet, task: Pick<SheetTask, "lines" | "mode" | "bleed" | "gap">): Cut[] {
  if (task.mode === "single") return sheet.placed.flatMap((one) => cropMarks(one, task.bleed));
  if (task.lines === "none") return [];
  return task.lines === "across" ? across(sheet) : sheet.placed.flatMap((one) => corners(one, sheet));
}

function cropMarks(
  { x, y, width, height }: { x: number; y: number; width: number; height: number },
  bleed: number,
): Cut[] {
  const [left, top, right, bottom] = [x + bleed, y + bleed, x + width - bleed, y + height - bleed];
  const off = Math.min(MARK_ROOM - MARK, Math.max(2, bleed));
  // From outside of the picture, bleed included, away from it.
  const [l, t, r, b] = [x - off, y - off, x + width + off, y + height + off];
  return [
    ...[top, bottom].flatMap((at) => [
      { x1: l - MARK, y1: at, x2: l, y2: at },
      { x1: r, y1: at, x2: r + MARK, y2: at },
    ]),
    ...[left, right].flatMap((at) => [
      { x1: at, y1: t - MARK, x2: at, y2: t },
      { x1: at, y1: b, x2: at, y2: b + MARK },
    ]),
  ];
}

/** Short marks at the four corners, only where no other picture lies. */
function corners(one: Sheet["placed"][number], sheet: Sheet): Cut[] {
  const cuts: Cut[] = [];
  const [left, right, top, bottom] = [one.x, one.x + one.width, one.y, one.y + one.height];
  const free = (x: number, y: number) =>
    x >= 0 &&
    y >= 0 &&
    x <= sheet.width &&
    y <= sheet.height &&
    !sheet.placed.some(
      (other) =>
        x > other.x + 1e-6 &&
        x < other.x + other.width - 1e-6 &&
        y > other.y + 1e-6 &&
        y < other.y + other.height - 1e-6,
    );
  const reach = (x: number, y: number, dx: number, dy: number) => {
    let length = LONGEST + AWAY;
    while (
      length > AWAY &&
      !(free(x + dx * length, y + dy * length) && free(x + dx * (length / 2), y + dy * (length / 2)))
    )
      length -= 0.25;
    return length - AWAY < 0.4
      ? null
      : { x1: x + dx * AWAY, y1: y + dy * AWAY, x2: x + dx * length, y2: y + dy * length };
  };
  for (const x of [left, right])
    for (const y of [top, bottom])
      for (const [dx, dy] of [
        [x === left ? -1 : 1, 0],
        [0, y === top ? -1 : 1],
      ]) {
        const cut = reach(x, y, dx, dy);
        if (cut) cuts.push(cut);
      }
  return cuts;
}

/** Along every edge, over the whole sheet, but never through a picture. */
function across({ width, height, placed }: Sheet): Cut[] {
  const unique = (values: number[]) =>
    [...new Set(values.map((v) => Math.round(v * 1000) / 1000))].sort((a, b) => a - b);
  const pieces = (length: number, blocks: [number, number][]): [number, number][] => {
    let from = 0;
    const out: [number, number][] = [];
    for (const [start, end] of blocks.sort((a, b) => a[0] - b[0])) {
      if (start > from + 0.01) out.push([from, start]);
      from = Math.max(from, end);
    }
    if (length > from + 0.01) out.push([from, length]);
    return out;
  };
  const inside = (at: number, from: number, size: number) => at > from + 0.01 && at < from + size - 0.01;
  return [
    ...unique(placed.flatMap((one) => [one.y, one.y + one.height])).flatMap((y) =>
      pieces(
        width,
        placed.filter((one) => inside(y, one.y, one.height)).map((one) => [one.x, one.x + one.width]),
      ).map(([a, b]) => ({ x1: a, y1: y, x2: b, y2: y })),
    ),
    ...unique(placed.flatMap((one) => [one.x, one.x + one.width])).flatMap((x) =>
      pieces(
        height,
        placed.filter((one) => inside(x, one.x, one.width)).map((one) => [one.y, one.y + one.height]),
      ).map(([a, b]) => ({ x1: x, y1: a, x2: x, y2: b })),
    ),
  ];
}
