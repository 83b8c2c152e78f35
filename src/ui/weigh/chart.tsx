"use client";

/**
 * File size against visible difference: one line a format, the brief's band and the clean limit shaded; a
 * click has that trial made.
 */
import { memo, useMemo, useRef, useState } from "react";
import { Label, ReferenceArea, ReferenceLine, Scatter, ScatterChart, XAxis, YAxis } from "recharts";
import { formatName } from "@/core/brief";
import type { Choice, Lossy } from "@/core/coding";
import { CLEAN } from "@/core/difference";
import { formatBytes } from "@/core/units";
import type { WeighedSizeView, WeighView } from "../api";
import { apart, byteTicks, choiceAt, DASHES, heightAt, type Line, linesOf } from "./lines";

const WIDTH = 356;
const HEIGHT = 268;
/** Of the plot inside. */
const INSIDE = { left: 34, top: 10, right: 10, bottom: 24 };
const INK = "#1b1b1d";
/** Lines of other pixels than those that are tried now. */
const FAINT = "#9a9a9c";
const FIGURES = { fontFamily: "var(--font-figures)", fontSize: 11, fill: "var(--color-second)" };

interface Props {
  view: WeighView;
  /** Trials in panes: key to pane number. */
  numbers: ReadonlyMap<string, number>;
  /** Pixels of the trials that are asked for here. */
  size: WeighedSizeView;
  onTry: (choice: Choice) => void;
}

/** Drawn anew only when trials or panes change: squares that arrive would otherwise wait for it. */
export const Chart = memo(function Chart({ view, numbers, size, onTry }: Props) {
  const lines = useMemo(() => linesOf(view), [view]);
  const own = lines.filter(({ side }) => side === size.side);
  const here = own.length ? own : lines.filter(({ side }) => side === null);
  const all = view.trials.filter((trial) => trial.difference !== null);
  const [low, high] = bytesShown(
    view,
    all.map((trial) => trial.bytes),
  );
  const top = Math.max(
    1.5,
    Math.min(
      4,
      Math.ceil(Math.max(0, ...lines.flatMap(({ points }) => points.map((p) => p.difference))) * 2) / 2,
    ),
  );
  const numbered = all
    .filter(({ key, difference }) => numbers.has(key) && difference! <= top)
    .map((trial) => ({ ...trial, number: numbers.get(trial.key)! }));
  const { min, max } = view.range;
  const band = min !== null || max !== null;
  const [x1, x2] = [Math.max(low, min ?? low), Math.min(high, max ?? high)];
  return (
    <div className="relative" style={{ width: WIDTH, height: HEIGHT }}>
      <ScatterChart
        width={WIDTH}
        height={HEIGHT}
        margin={{ left: 0, top: INSIDE.top, right: INSIDE.right, bottom: 0 }}
        accessibilityLayer={false}
      >
        <XAxis
          dataKey="bytes"
          type="number"
          scale="log"
          domain={[low, high]}
          allowDataOverflow
          ticks={byteTicks(low, high)}
          tickFormatter={formatBytes}
          tick={FIGURES}
          tickLine={false}
          axisLine={{ stroke: "#a9a9a7" }}
          height={INSIDE.bottom}
        />
        <YAxis
          dataKey="difference"
          type="number"
          domain={[0, top]}
          allowDataOverflow
          ticks={Array.from({ length: Math.round(top * 2) + 1 }, (_, i) => i / 2)}
          tick={FIGURES}
          tickLine={false}
          axisLine={false}
          width={INSIDE.left}
        />
        <ReferenceArea y1={0} y2={CLEAN} fill="#e9e9e7" fillOpacity={0.75} ifOverflow="hidden" />
        {band && x2 > x1 && (
          <ReferenceArea x1={x1} x2={x2} fill="var(--color-band)" fillOpacity={0.5} ifOverflow="hidden" />
        )}
        {[min, max].map(
          (edge) =>
            edge !== null &&
            edge >= low &&
            edge <= high && <ReferenceLine key={edge} x={edge} stroke="var(--color-met)" strokeWidth={1.4} />,
        )}
        <ReferenceLine y={CLEAN} stroke="#8a8a8a" strokeDasharray="2 3">
          <Label
            value="clean"
            position="insideBottomLeft"
            offset={4}
            style={{ ...FIGURES, textAnchor: "start" }}
          />
        </ReferenceLine>
        {lines.map(({ format, side, points }) => (
          <Scatter
            key={`${format} ${side}`}
            data={points}
            line={{
              stroke: side === size.side ? INK : FAINT,
              strokeWidth: side === size.side ? 1.6 : 1.1,
              strokeDasharray: DASHES[format],
            }}
            lineJointType="linear"
            shape={<Dot />}
            isAnimationActive={false}
          />
        ))}
        <Scatter data={numbered} shape={<Disc />} isAnimationActive={false} />
      </ScatterChart>
      <Names lines={here} low={low} high={high} top={top} />
      <Picker view={view} size={size} lines={here} low={low} high={high} top={top} onTry={onTry} />
    </div>
  );
});

/** Round a little beyond what is there. */
function bytesShown({ range: { min, max } }: WeighView, bytes: number[]): [number, number] {
  const known = [...bytes, ...[min, max].filter((edge) => edge !== null)];
  if (!known.length) return [10_000, 1_000_000];
  const high = Math.max(
    ...known.filter((value) => value <= 12 * Math.min(...known)),
    4 * Math.min(...known),
    max ?? 0,
  );
  return [Math.min(...known) * 0.75, high * 1.2];
}

interface Shape {
  cx?: number;
  cy?: number;
  payload?: { number?: number };
}

const Dot = ({ cx, cy }: Shape) => <circle cx={cx} cy={cy} r={2} fill={INK} />;
const Disc = ({ cx, cy, payload }: Shape) => (
  <g>
    <circle cx={cx} cy={cy} r={8.5} fill="var(--color-plum)" stroke="#ffffff" strokeWidth={1.2} />
    <text
      x={cx}
      y={(cy ?? 0) + 4}
      textAnchor="middle"
      fontSize={11}
      fill="#ffffff"
      fontFamily="var(--font-figures)"
    >
      {payload?.number}
    </text>
  </g>
);

interface Scale {
  low: number;
  high: number;
  top: number;
}

const plot = { width: WIDTH - INSIDE.left - INSIDE.right, height: HEIGHT - INSIDE.top - INSIDE.bottom };
const xOf = (bytes: number, { low, high }: Scale) =>
  INSIDE.left + (Math.log(bytes / low) / Math.log(high / low)) * plot.width;
const yOf = (difference: number, { top }: Scale) => INSIDE.top + (1 - difference / top) * plot.height;

/** Each line's name at its coarse end, where lines lie apart. */
function Names({ lines, ...scale }: { lines: Line[] } & Scale) {
  const names = lines.flatMap(({ format, points }) => {
    const at = points.find((p) => p.difference <= scale.top * 0.96 && p.bytes >= scale.low);
    if (!at) return [];
    return [{ format, x: Math.min(WIDTH - 44, xOf(at.bytes, scale) + 7), y: yOf(at.difference, scale) - 3 }];
  });
  return (
    <svg aria-hidden width={WIDTH} height={HEIGHT} className="pointer-events-none absolute inset-0">
      {apart(names).map(({ format, x, y }) => (
        <text
          key={format}
          x={x}
          y={y}
          fontSize={11.5}
          fontFamily="var(--font-figures)"
          fill={INK}
          stroke="#fbfbfa"
          strokeWidth={3}
          paintOrder="stroke"
        >
          {formatName(format)}
        </text>
      ))}
    </svg>
  );
}

/** A size to try: by pointer on the line that is nearest, or with the arrow keys. */
function Picker({
  view,
  size,
  lines,
  onTry,
  ...scale
}: { view: WeighView; size: WeighedSizeView; lines: Line[]; onTry: (choice: Choice) => void } & Scale) {
  const field = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState<{ bytes: number; format: Lossy } | null>(null);
  if (!lines.length) return null;
  const { low, high, top } = scale;
  const line = lines.find(({ format }) => format === at?.format) ?? lines[0];
  const clamped = (bytes: number) => Math.min(high, Math.max(low, bytes));
  const first = () => ({ bytes: line.points[line.points.length >> 1].bytes, format: line.format });
  const pick = (event: { clientX: number; clientY: number }) => {
    const bounds = field.current!.getBoundingClientRect();
    const bytes = clamped(low * (high / low) ** ((event.clientX - bounds.left) / bounds.width));
    const difference = (1 - (event.clientY - bounds.top) / bounds.height) * top;
    const near = lines
      .map((one) => ({ one, off: Math.abs((heightAt(one, bytes) ?? Infinity) - difference) }))
      .sort((a, b) => a.off - b.off)[0];
    const chosen = { bytes, format: Number.isFinite(near.off) ? near.one.format : line.format };
    setAt(chosen);
    return chosen;
  };
  const tryIt = ({ bytes, format }: { bytes: number; format: Lossy }) =>
    onTry(choiceAt(view, format, bytes, size));
  const key = (event: React.KeyboardEvent) => {
    const now = at ?? first();
    const step = event.shiftKey ? 1.25 : 1.04;
    const index = lines.indexOf(line);
    if (event.key === "ArrowRight") setAt({ ...now, bytes: clamped(now.bytes * step) });
    else if (event.key === "ArrowLeft") setAt({ ...now, bytes: clamped(now.bytes / step) });
    else if (event.key === "ArrowUp" || event.key === "ArrowDown")
      setAt({
        ...now,
        format: lines[(index + (event.key === "ArrowUp" ? lines.length - 1 : 1)) % lines.length].format,
      });
    else if (event.key === "Enter") tryIt(now);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const height = at ? heightAt(line, at.bytes) : null;
  const name = formatName(line.format);
  return (
    <div
      ref={field}
      role="slider"
      tabIndex={0}
      aria-label="Size to try"
      aria-valuemin={Math.round(low)}
      aria-valuemax={Math.round(high)}
      aria-valuenow={Math.round(at?.bytes ?? first().bytes)}
      aria-valuetext={`about ${formatBytes(at?.bytes ?? first().bytes)} on the line of ${name}; Enter makes it`}
      title="Click, or use the arrow keys and Enter"
      className="absolute cursor-crosshair touch-none"
      style={{ left: INSIDE.left, top: INSIDE.top, ...plot }}
      onKeyDown={key}
      onPointerMove={pick}
      onPointerLeave={(event) => !event.currentTarget.matches(":focus-visible") && setAt(null)}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerUp={(event) => tryIt(pick(event))}
    >
      {at && (
        <>
          <span
            aria-hidden
            className="pointer-events-none absolute inset-y-0 w-px bg-plum"
            style={{ left: xOf(at.bytes, scale) - INSIDE.left }}
          />
          {height !== null && (
            <span
              aria-hidden
              className="pointer-events-none absolute size-2.5 -translate-1/2 rounded-full border-2 border-plum bg-sheet"
              style={{
                left: xOf(at.bytes, scale) - INSIDE.left,
                top: yOf(Math.min(top, height), scale) - INSIDE.top,
              }}
            />
          )}
          <span
            aria-hidden
            className="figures pointer-events-none absolute top-0 rounded bg-sheet px-1 text-tiny whitespace-nowrap text-plum"
            style={
              xOf(at.bytes, scale) > WIDTH * 0.6
                ? { right: plot.width - (xOf(at.bytes, scale) - INSIDE.left) + 4 }
                : { left: xOf(at.bytes, scale) - INSIDE.left + 4 }
            }
          >
            {name}, about {formatBytes(at.bytes)}
          </span>
        </>
      )}
    </div>
  );
}
