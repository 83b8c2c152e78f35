/**
 * The gauge, drawn: line, band between two ticks, hollow circle for now, filled triangle for what will be.
 */
import { type GaugeInput, gaugeModel } from "@/core/proof/gauge";

export type GaugeTone = "meets" | "needs" | "cannot" | "open";

const TONES: Record<GaugeTone, string> = {
  meets: "var(--color-met)",
  needs: "var(--color-needs)",
  cannot: "var(--color-not)",
  open: "var(--color-second)",
};

interface Props extends GaugeInput {
  tone: GaugeTone;
  /** The whole in words; the drawing itself is not read out. */
  label: string;
  width?: number;
}

const HEIGHT = 16;
const LINE = 10;

export function Gauge({ tone, label, width = 118, ...input }: Props) {
  const model = gaugeModel(input);
  const [left, right] = [4, width - 6];
  const x = (share: number) => left + share * (right - left);
  const colour = TONES[tone];
  return (
    <svg
      viewBox={`0 0 ${width} ${HEIGHT}`}
      width={width}
      height={HEIGHT}
      preserveAspectRatio="xMinYMid"
      role="img"
      aria-label={label}
      className="block max-w-full"
    >
      <line x1={left} x2={right} y1={LINE} y2={LINE} stroke="#a9a9a7" strokeWidth={1} />
      {model.nowBeyond === "right" && (
        <path
          d={`M${right - 4} ${LINE - 4}l5 4l-5 4`}
          fill="none"
          stroke="var(--color-second)"
          strokeWidth={1.2}
        />
      )}
      {model.nowBeyond === "left" && (
        <path
          d={`M${left + 4} ${LINE - 4}l-5 4l5 4`}
          fill="none"
          stroke="var(--color-second)"
          strokeWidth={1.2}
        />
      )}
      {model.band && (
        <>
          <rect
            x={x(model.band.from)}
            y={LINE - 2.5}
            width={Math.max(1, x(model.band.to) - x(model.band.from))}
            height={5}
            fill="var(--color-band)"
          />
          {!model.band.openLeft && (
            <line
              x1={x(model.band.from)}
              x2={x(model.band.from)}
              y1={LINE - 5}
              y2={LINE + 5}
              stroke="var(--color-met)"
              strokeWidth={1.4}
            />
          )}
          {!model.band.openRight && (
            <line
              x1={x(model.band.to)}
              x2={x(model.band.to)}
              y1={LINE - 5}
              y2={LINE + 5}
              stroke="var(--color-met)"
              strokeWidth={1.4}
            />
          )}
        </>
      )}
      {model.now !== null && (
        <circle
          cx={x(model.now)}
          cy={LINE}
          r={2.6}
          fill="var(--color-sheet)"
          stroke="var(--color-second)"
          strokeWidth={1.2}
        />
      )}
      {model.will !== null && <path d={`M${x(model.will)} ${LINE}l-4 -7.5h8z`} fill={colour} />}
    </svg>
  );
}
