"use client";

/**
 * Before and after of every file, drawn like the gauge: a hollow circle for the original, a triangle for the
 * file.
 */
import { memo, useEffect, useMemo, useRef, useState } from "react";
import { ReferenceLine, Scatter, ScatterChart, XAxis, YAxis } from "recharts";
import { formatBytes } from "@/core/units";
import type { RunItemView } from "../api";

interface Props {
  items: readonly RunItemView[];
  chosen: string | null;
  onChoose: (id: string) => void;
}

const HEIGHT = 150;
const INSIDE = { left: 58, right: 12, top: 8, bottom: 6 };
const FIGURES = { fontFamily: "var(--font-figures)", fontSize: 11, fill: "var(--color-second)" };

interface Point {
  n: number;
  bytes: number;
  item: RunItemView;
  /** The other end of its line. */
  from?: number;
}

function ticks(low: number, high: number): number[] {
  const out: number[] = [];
  for (let power = Math.floor(Math.log10(low)); power <= Math.ceil(Math.log10(high)); power += 1)
    for (const step of [1, 3])
      if (step * 10 ** power >= low && step * 10 ** power <= high) out.push(step * 10 ** power);
  return out.length > 5 ? out.filter((value) => /^1/.test(String(value))) : out;
}

export const SizeChart = memo(function SizeChart({ items, chosen, onChoose }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(640);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) =>
      setWidth(Math.max(320, Math.floor(entry.contentRect.width))),
    );
    watch.observe(frame.current!);
    return () => watch.disconnect();
  }, []);
  const { before, after } = useMemo(() => {
    const shown = items.filter((item) => item.bytes !== null);
    return {
      before: shown.map((item, n): Point => ({ n, bytes: item.before.bytes, from: item.bytes!, item })),
      after: shown.map((item, n): Point => ({ n, bytes: item.bytes!, item })),
    };
  }, [items]);
  const all = [...before, ...after].map((point) => point.bytes);
  const [low, high] = all.length ? [Math.min(...all) * 0.7, Math.max(...all) * 1.4] : [1e4, 1e6];
  const y = (bytes: number) =>
    INSIDE.top +
    (HEIGHT - INSIDE.top - INSIDE.bottom) *
      (1 - (Math.log(bytes) - Math.log(low)) / (Math.log(high) - Math.log(low)));
  const at = after.findIndex((point) => point.item.id === chosen);
  const pick = (event: React.MouseEvent<HTMLDivElement>) => {
    const inside = event.clientX - event.currentTarget.getBoundingClientRect().left - INSIDE.left;
    const n = Math.round((inside / (width - INSIDE.left - INSIDE.right)) * after.length - 0.5);
    const point = after[Math.min(after.length - 1, Math.max(0, n))];
    if (point) onChoose(point.item.id);
  };
  return (
    <div
      ref={frame}
      onClick={pick}
      role="img"
      aria-label={`File sizes before and after, ${after.length} files, on a logarithmic scale`}
      className="cursor-pointer"
    >
      {after.length > 0 && (
        <ScatterChart
          width={width}
          height={HEIGHT}
          margin={{ left: 0, top: INSIDE.top, right: INSIDE.right, bottom: INSIDE.bottom }}
          accessibilityLayer={false}
        >
          <XAxis dataKey="n" type="number" domain={[-0.5, after.length - 0.5]} hide />
          <YAxis
            dataKey="bytes"
            type="number"
            scale="log"
            domain={[low, high]}
            ticks={ticks(low, high)}
            tickFormatter={formatBytes}
            tick={FIGURES}
            tickLine={false}
            axisLine={false}
            width={INSIDE.left}
          />
          {ticks(low, high).map((value) => (
            <ReferenceLine key={value} y={value} stroke="var(--color-thin)" />
          ))}
          {at >= 0 && <ReferenceLine x={at} stroke="var(--color-plum)" strokeWidth={1.2} />}
          <Scatter
            data={before}
            shape={<Before y={y} thin={after.length > 200} />}
            isAnimationActive={false}
          />
          <Scatter data={after} shape={<After thin={after.length > 200} />} isAnimationActive={false} />
        </ScatterChart>
      )}
    </div>
  );
});

interface Shape {
  cx?: number;
  cy?: number;
  payload?: Point;
}

function Before({
  cx = 0,
  cy = 0,
  payload,
  y,
  thin,
}: Shape & { y: (bytes: number) => number; thin: boolean }) {
  return (
    <g>
      <line
        x1={cx}
        x2={cx}
        y1={cy}
        y2={y(payload?.from ?? payload?.bytes ?? 1)}
        stroke="#a9a9a7"
        strokeWidth={thin ? 0.5 : 1}
      />
      {!thin && (
        <circle
          cx={cx}
          cy={cy}
          r={2.8}
          fill="var(--color-sheet)"
          stroke="var(--color-second)"
          strokeWidth={1.2}
        />
      )}
    </g>
  );
}

function After({ cx = 0, cy = 0, payload, thin }: Shape & { thin: boolean }) {
  const size = thin ? 1.6 : 4;
  return (
    <path
      d={`M${cx} ${cy + size}l${-size} ${-size * 1.8}h${size * 2}z`}
      fill={payload?.item.ok === false ? "var(--color-not)" : "var(--color-met)"}
    />
  );
}
