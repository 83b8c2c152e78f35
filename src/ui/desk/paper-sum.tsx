"use client";

/** Pixels, paper and resolution as one sum: one is held, one is changed, the third follows. */
import { useId, useState } from "react";
import { type Brief, resolveBrief } from "@/core/brief";
import { askedPpi, type Geometry, planGeometry } from "@/core/geometry";
import { aimedSize, type Size } from "@/core/photo";
import { overrule } from "@/core/plan/disagreements";
import {
  actWords,
  balance,
  type Edit,
  enlargement,
  inMemory,
  isUnit,
  madeUp,
  megapixels,
  noLongerGoodFor,
  PRINT_PPI,
  printSize,
  type Sum,
  sumChange,
  sumOf,
  type Term,
} from "@/core/plan/paper";
import {
  formatBytes,
  LENGTH_UNITS,
  type LengthUnit,
  parseResolution,
  toInches,
  trimNumber,
} from "@/core/units";
import type { RowView } from "../api";
import { lateCheck, messageOf } from "../clauses";
import { Button, useLate } from "../parts";

interface Props {
  row: RowView;
  brief: Brief;
  onSave: (brief: Brief, words: string) => void;
}

/** Where nothing says how densely a photo is printed. */
const USUAL_PPI = 300;

/** The sum as the brief has it for this photo now. */
function startOf(row: RowView, brief: Brief): Sum {
  const resolved = resolveBrief(brief);
  const has = row.before.resolution?.[0] ?? null;
  let out: Size = row.before;
  let geometry: Geometry | null = null;
  try {
    geometry = planGeometry(resolved, row.before, row.frame);
    out = geometry;
  } catch {
    // What the brief asks cannot be done: the sum starts from the photo.
  }
  const ppi =
    (geometry && askedPpi(resolved, aimedSize(row.before, row.frame), out, has)) ?? has ?? USUAL_PPI;
  return sumOf({ width: out.width, height: out.height }, ppi);
}

const NAMES: Record<Term, string> = { pixels: "Pixels", paper: "Paper", resolution: "Resolution" };

export function PaperSum({ row, brief, onSave }: Props) {
  const [sum, setSum] = useState(() => startOf(row, brief));
  const [held, setHeld] = useState<Term>("pixels");
  const [changed, setChanged] = useState<Term | null>(null);
  const [unit, setUnit] = useState<LengthUnit>("cm");
  const [dense, setDense] = useState<"ppi" | "px/cm">("ppi");
  const [error, setError] = useState<string | null>(null);
  const id = useId();
  const photo = row.before;
  const change = (edit: Edit) => {
    try {
      setSum(balance(sum, held, edit));
      setChanged(edit.term);
      setError(null);
    } catch (problem) {
      setError(messageOf(problem));
    }
  };
  // Letting go of the pixels starts from what is there: nothing is new until something is changed.
  const hold = (term: Term) => {
    setHeld(term);
    setError(null);
    if (term === "pixels") setSum(sumOf(startOf(row, brief).pixels, sum.ppi));
  };
  useLate(lateCheck);
  const use = async () => {
    try {
      const next = overrule(brief, sumChange(sum, held, changed!, unit));
      (await lateCheck.load())(next);
      onSave(next, "changing paper and pixels");
    } catch (problem) {
      setError(messageOf(problem));
    }
  };
  const inches = toInches({ value: 1, unit });
  const shape = sum.pixels.height / sum.pixels.width;
  const percent = enlargement(photo, sum.pixels) * 100;
  const density = dense === "ppi" ? sum.ppi : sum.ppi / 2.54;
  const radio = (term: Term) => (
    <label className="flex items-center gap-2">
      <input
        type="radio"
        name={`${id}held`}
        checked={held === term}
        onChange={() => hold(term)}
        className="size-4 accent-plum"
      />
      <span className={held === term ? "font-semibold" : ""}>{NAMES[term]}</span>
    </label>
  );
  return (
    <div className="grid grid-cols-[1fr_212px] gap-5">
      <div>
        <h2 className="font-semibold">Which of the three is held?</h2>
        <div className="mt-2 grid grid-cols-[104px_1fr] items-center gap-x-3 gap-y-2">
          {radio("pixels")}
          <span className="flex items-center gap-1.5">
            <Value
              label="Width in pixels"
              value={sum.pixels.width}
              digits={0}
              disabled={held === "pixels"}
              onTake={(width) => change({ term: "pixels", width: Math.round(width) })}
            />
            <span className="text-second">×</span>
            <Value
              label="Height in pixels"
              value={sum.pixels.height}
              digits={0}
              disabled={held === "pixels"}
              onTake={(height) => change({ term: "pixels", width: Math.round(height / shape) })}
            />
            <span className="whitespace-nowrap text-second">px, or</span>
            <Value
              label="Per cent of the photo"
              value={percent}
              digits={1}
              narrow
              disabled={held === "pixels"}
              onTake={(share) => change({ term: "pixels", width: Math.round((photo.width * share) / 100) })}
            />
            <span className="text-second">%</span>
          </span>
          {radio("paper")}
          <span className="flex items-center gap-1.5">
            <Value
              label={`Width on paper in ${unit}`}
              value={sum.paper.width / inches}
              digits={2}
              disabled={held === "paper"}
              onTake={(width) => change({ term: "paper", width: width * inches })}
            />
            <span className="text-second">×</span>
            <Value
              label={`Height on paper in ${unit}`}
              value={sum.paper.height / inches}
              digits={2}
              disabled={held === "paper"}
              onTake={(height) => change({ term: "paper", width: (height * inches) / shape })}
            />
            <select
              aria-label="Unit of the paper"
              value={unit}
              onChange={(event) => isUnit(event.target.value) && setUnit(event.target.value)}
              className="box h-7 px-1"
            >
              {LENGTH_UNITS.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          </span>
          {radio("resolution")}
          <span className="flex items-center gap-1.5">
            <Value
              label={`Resolution in ${dense}`}
              value={density}
              digits={2}
              disabled={held === "resolution"}
              onTake={(value, text) => {
                // A unit that is typed wins over the one that is chosen.
                const typed = /[a-z]/i.test(text) ? text : `${value}${dense}`;
                try {
                  change({
                    term: "resolution",
                    ppi: /[a-z]/i.test(text)
                      ? parseResolution(typed)
                      : dense === "ppi"
                        ? value
                        : value * 2.54,
                  });
                } catch (problem) {
                  setError(messageOf(problem));
                }
              }}
            />
            <select
              aria-label="Unit of the resolution"
              value={dense}
              onChange={(event) => setDense(event.target.value === "ppi" ? "ppi" : "px/cm")}
              className="box h-7 px-1"
            >
              <option>ppi</option>
              <option>px/cm</option>
            </select>
          </span>
        </div>
        <p className="mt-3 border-l-[3px] border-plum bg-wash px-3 py-1.5" role="status">
          {actWords(held, photo, sum.pixels)}
        </p>
        {held !== "pixels" && madeUp(photo, sum.pixels) && (
          <p className="mt-2 border-l-[3px] border-needs bg-needs-wash px-3 py-1.5">
            {madeUp(photo, sum.pixels)}
          </p>
        )}
        {noLongerGoodFor(photo, sum.pixels) && (
          <p className="mt-2 border-l-[3px] border-needs bg-needs-wash px-3 py-1.5">
            {noLongerGoodFor(photo, sum.pixels)}
          </p>
        )}
        {error && (
          <p role="alert" className="mt-2 text-not">
            {error}
          </p>
        )}
        <div className="mt-4 flex items-center gap-3">
          <Button disabled={changed === null || changed === held || error !== null} onClick={use}>
            Put it into the brief
          </Button>
          <span className="text-small text-second">For every photo under this brief.</span>
        </div>
      </div>
      <Readings photo={photo} out={sum.pixels} />
    </div>
  );
}

function Readings({ photo, out }: { photo: RowView["before"]; out: Size }) {
  const factor = enlargement(photo, out);
  const act =
    factor > 1.0001
      ? `${trimNumber(factor, 2)} × enlarged`
      : factor < 0.9999
        ? `${trimNumber(1 / factor, 2)} × reduced`
        : "pixel for pixel";
  const lines: [string, string][] = [
    ["Picture", `${megapixels(out)} megapixels`],
    ["In memory", formatBytes(inMemory(out))],
    ["Against the photo", act],
    ...PRINT_PPI.map((ppi): [string, string] => [`Prints at ${ppi} ppi`, printSize(out, ppi)]),
  ];
  return (
    <dl className="border-l border-thin pl-4">
      {lines.map(([title, value]) => (
        <div key={title} className="mb-2">
          <dt className="text-tiny text-second">{title}</dt>
          <dd className="figures font-semibold">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

interface ValueProps {
  label: string;
  value: number;
  digits: number;
  narrow?: boolean;
  disabled: boolean;
  onTake: (value: number, text: string) => void;
}

/** A number that is taken with Enter or on leaving. */
function Value({ label, value, digits, narrow = false, disabled, onTake }: ValueProps) {
  const shown = trimNumber(value, digits);
  const [text, setText] = useState<string | null>(null);
  const take = () => {
    const typed = text?.trim() ?? "";
    setText(null);
    const number = Number(typed.replace(",", ".").replace(/[^0-9.]+.*$/, ""));
    if (typed !== "" && typed !== shown) onTake(number, typed);
  };
  return (
    <input
      aria-label={label}
      value={text ?? shown}
      disabled={disabled}
      inputMode="decimal"
      onChange={(event) => setText(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => event.key === "Enter" && take()}
      className={`box figures h-7 px-2 disabled:bg-rail disabled:text-second ${narrow ? "w-[68px]" : "w-[76px]"}`}
    />
  );
}
