"use client";

/** The frame in exact numbers, turns, straightening, and how pixels are made. */
import { RotateCcw, RotateCw } from "lucide-react";
import { useEffect, useId, useState } from "react";
import {
  canCut,
  canSwap,
  centreAt,
  type Geometry,
  leanTo,
  moveBy,
  turnBy,
  widthTo,
  zoomBy,
} from "@/core/geometry";
import { CENTRED, type Frame, KERNELS, type KernelName, MOST_ANGLE } from "@/core/photo";
import { kernelNames } from "@/core/pixels/resample";
import { trimNumber } from "@/core/units";
import type { RowView } from "../api";
import { Button } from "../parts";
import type { FrameEditor } from "./use-frame";

interface Props {
  row: RowView;
  editor: FrameEditor;
  geometry: Geometry | null;
  guides: boolean;
  round: boolean;
  onGuides: () => void;
  onRound: () => void;
}

export function Controls({ row, editor, geometry, guides, round, onGuides, onRound }: Props) {
  const { edit, editing, frame } = editor;
  const cuts = canCut(editing);
  const crop = geometry?.crop;
  const angle = frame.angle ?? 0;
  return (
    <section aria-label="Frame in numbers" className="shrink-0 border-t border-rule px-4 py-2.5">
      {crop && geometry.mode !== "pad" && (
        <div className="grid grid-cols-3 gap-2">
          <NumberField
            label="Left"
            unit="px"
            value={crop.x}
            onChange={(x) => edit((e, f) => centreAt(e, f, x + crop.width / 2, crop.y + crop.height / 2))}
          />
          <NumberField
            label="Top"
            unit="px"
            value={crop.y}
            onChange={(y) => edit((e, f) => centreAt(e, f, crop.x + crop.width / 2, y + crop.height / 2))}
          />
          <NumberField
            label="Width"
            unit="px"
            value={crop.width}
            disabled={!cuts}
            onChange={(width) => edit((e, f) => widthTo(e, f, width))}
          />
        </div>
      )}
      <div className="mt-2 grid grid-cols-[1fr_84px] items-end gap-2">
        <label className="block">
          <span className="text-small text-second">Straighten</span>
          <input
            type="range"
            min={-15}
            max={15}
            step={0.1}
            disabled={!cuts}
            value={Math.max(-15, Math.min(15, angle))}
            onChange={(event) => edit((e, f) => leanTo(e, f, Number(event.target.value)))}
            aria-valuetext={`${trimNumber(angle, 2)} degrees`}
            className="block w-full accent-plum"
          />
        </label>
        <NumberField
          label="Degrees"
          unit="°"
          value={angle}
          digits={2}
          disabled={!cuts}
          low={-MOST_ANGLE}
          onChange={(value) => edit((e, f) => leanTo(e, f, value))}
        />
      </div>
      <div className="mt-2.5 flex flex-wrap gap-2">
        <Button
          aria-label="Turn to the left"
          keyHint="Shift R"
          onClick={() => edit((e, f) => turnBy(e, f, -90))}
        >
          <RotateCcw size={14} aria-hidden />
        </Button>
        <Button aria-label="Turn to the right" keyHint="R" onClick={() => edit((e, f) => turnBy(e, f, 90))}>
          <RotateCw size={14} aria-hidden />
        </Button>
        {canSwap(editing, frame) && cuts && (
          <Button
            keyHint="X"
            aria-pressed={frame.swap === true}
            onClick={() => edit((_, f) => ({ ...f, swap: !f.swap }))}
          >
            {geometry && geometry.height > geometry.width ? "Make it wide" : "Make it upright"}
          </Button>
        )}
        <Button keyHint="G" aria-pressed={guides} onClick={onGuides}>
          Centre lines
        </Button>
        <Button keyHint="O" aria-pressed={round} onClick={onRound}>
          Round
        </Button>
        <Button keyHint="0" onClick={() => edit((_, f) => reset(f))}>
          Reset
        </Button>
      </div>
      <KernelChoice row={row} editor={editor} />
    </section>
  );
}

function KernelChoice({ row, editor }: { row: RowView; editor: FrameEditor }) {
  const id = useId();
  const { frame, edit } = editor;
  const untagged = !row.before.profile && row.before.colourSpace === "srgb";
  return (
    <div className="mt-2.5 grid grid-cols-[auto_1fr] items-center gap-x-2 gap-y-1.5">
      <label htmlFor={`${id}k`} className="text-small text-second">
        Pixels made by
      </label>
      <select
        id={`${id}k`}
        value={frame.kernel ?? ""}
        onChange={(event) =>
          edit((_, f) => ({ ...f, kernel: (event.target.value || undefined) as KernelName | undefined }))
        }
        className="box h-7 px-1.5"
      >
        <option value="">what suits the photo</option>
        {KERNELS.map((name) => (
          <option key={name} value={name}>
            {kernelNames[name]}
          </option>
        ))}
      </select>
      {untagged && (
        <>
          <label htmlFor={`${id}c`} className="text-small text-second">
            Colours taken as
          </label>
          <select
            id={`${id}c`}
            value={frame.takenAs ?? ""}
            onChange={(event) =>
              edit((_, f) => ({ ...f, takenAs: (event.target.value || undefined) as typeof f.takenAs }))
            }
            className="box h-7 px-1.5"
          >
            <option value="">sRGB, as the file says nothing</option>
            <option value="display-p3">Display P3 (relabels it)</option>
            <option value="oprgb">opRGB (relabels it)</option>
            <option value="romm-rgb">ROMM RGB (relabels it)</option>
          </select>
        </>
      )}
    </div>
  );
}

interface NumberProps {
  label: string;
  unit: string;
  value: number;
  digits?: number;
  low?: number;
  disabled?: boolean;
  onChange: (value: number) => void;
}

/** A number that is taken with Enter or on leaving; what is no number goes back. */
function NumberField({ label, unit, value, digits = 1, low = 0, disabled = false, onChange }: NumberProps) {
  const shown = trimNumber(value, digits);
  const [text, setText] = useState(shown);
  useEffect(() => setText(shown), [shown]);
  const take = () => {
    const next = Number(text.replace(",", ".").replace(/[^0-9.-]/g, ""));
    if (text.trim() === "" || !Number.isFinite(next) || next < low) return setText(shown);
    if (Math.abs(next - value) > 10 ** -(digits + 1)) onChange(next);
  };
  return (
    <label className="block">
      <span className="text-small text-second">
        {label}, {unit}
      </span>
      <input
        value={text}
        disabled={disabled}
        inputMode="decimal"
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => event.key === "Enter" && take()}
        className="box figures block h-7 w-full min-w-0 px-2 disabled:text-second"
      />
    </label>
  );
}

/** As it came, but for the marks: they tell of the photo, not of the frame. */
const reset = ({ marks }: Frame): Frame => ({ ...CENTRED, marks });

/** What the keys of the screen do, in one place for the screen and its help. */
export function frameKey(event: KeyboardEvent, editor: FrameEditor): boolean {
  const by = event.shiftKey ? 10 : 1;
  const { edit } = editor;
  switch (event.key) {
    case "ArrowLeft":
      edit((e, f) => moveBy(e, f, -by, 0));
      return true;
    case "ArrowRight":
      edit((e, f) => moveBy(e, f, by, 0));
      return true;
    case "ArrowUp":
      edit((e, f) => moveBy(e, f, 0, -by));
      return true;
    case "ArrowDown":
      edit((e, f) => moveBy(e, f, 0, by));
      return true;
    case "+":
    case "=":
      edit((e, f) => zoomBy(e, f, 1.05));
      return true;
    case "-":
      edit((e, f) => zoomBy(e, f, 1 / 1.05));
      return true;
    case ",":
    case ".":
      if (canCut(editor.editing))
        edit((e, f) => leanTo(e, f, (f.angle ?? 0) + (event.key === "." ? 0.1 : -0.1)));
      return true;
    case "r":
    case "R":
      edit((e, f) => turnBy(e, f, event.shiftKey ? -90 : 90));
      return true;
    case "x":
      if (canSwap(editor.editing, editor.frame)) edit((_, f) => ({ ...f, swap: !f.swap }));
      return true;
    case "0":
      edit((_, f) => reset(f));
      return true;
    default:
      return false;
  }
}
