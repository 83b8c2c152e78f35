"use client";

/**
 * Before and after for each screen, drawn as everywhere: a hollow circle for what came, a triangle for what will be, on
 * one logarithmic scale. Lies over the empty column of the table that says the same in figures.
 */
import { ReferenceLine, Scatter, ScatterChart, XAxis, YAxis } from "recharts";
import type { PageWeight } from "@/core/delivery/picture-set";
import { formatBytes } from "@/core/units";

/** Where the empty column lies, in px. */
const [LEFT, RIGHT, HEAD] = [254, 146, 17.5];
const WIDTH = 646 - LEFT - RIGHT;
const INSIDE = 12;

export function WeightChart({ weights, row }: { weights: readonly PageWeight[]; row: number }) {
  const all = weights.flatMap(({ before, after }) => [before, after]);
  const [low, high] = [Math.min(...all) * 0.8, Math.max(...all) * 1.25];
  const x = (bytes: number) =>
    INSIDE + ((WIDTH - 2 * INSIDE) * (Math.log(bytes) - Math.log(low))) / (Math.log(high) - Math.log(low));
  const points = weights.map(({ before, after }, n) => ({ n, before, after }));
  return (
    <div
      role="img"
      aria-label={`Bytes of the page, from ${formatBytes(Math.min(...weights.map(({ after }) => after)))} after to ${formatBytes(weights[0].before)} before, on a logarithmic scale`}
      className="pointer-events-none absolute"
      style={{ left: LEFT, top: HEAD }}
    >
      <ScatterChart
        width={WIDTH}
        height={row * weights.length}
        margin={{ left: INSIDE, right: INSIDE, top: 0, bottom: 0 }}
        accessibilityLayer={false}
      >
        <XAxis dataKey="after" type="number" scale="log" domain={[low, high]} hide />
        <YAxis dataKey="n" type="number" domain={[-0.5, weights.length - 0.5]} reversed hide />
        <ReferenceLine x={weights[0].before} stroke="var(--color-thin)" />
        <Scatter data={points} shape={<Pair x={x} />} isAnimationActive={false} />
      </ScatterChart>
    </div>
  );
}

function Pair({
  cx = 0,
  cy = 0,
  payload,
  x,
}: {
  cx?: number;
  cy?: number;
  payload?: { before: number };
  x: (bytes: number) => number;
}) {
  const from = x(payload?.before ?? 1);
  return (
    <g>
      <line x1={cx} x2={from} y1={cy} y2={cy} stroke="#a9a9a7" />
      <circle
        cx={from}
        cy={cy}
        r={3.2}
        fill="var(--color-sheet)"
        stroke="var(--color-second)"
        strokeWidth={1.2}
      />
      <path d={`M${cx} ${cy + 4}l-4.5 -8h9z`} fill="var(--color-met)" />
    </g>
  );
}
