"use client";

/** What a sheet is asked: its paper, how pictures lie on it, and how many of each. */
import { type ReactNode, useState } from "react";
import { type Piece, SHEETS, type SheetTask } from "@/core/delivery/print-sheet";
import { parseLength, toInches, trimNumber } from "@/core/units";

interface Props {
  task: SheetTask;
  pieces: readonly Piece[];
  onChange: (task: SheetTask) => void;
}

const MODES: readonly [SheetTask["mode"], string][] = [
  ["fill", "As many as one sheet holds"],
  ["copies", "So many copies of each"],
  ["single", "Each alone, with bleed and crop marks"],
];
const LINES: readonly [SheetTask["lines"], string][] = [
  ["corners", "corner marks"],
  ["across", "lines across"],
  ["none", "none"],
];

export function SheetControls({ task, pieces, onChange }: Props) {
  const set = (change: Partial<SheetTask>) => onChange({ ...task, ...change });
  const known =
    SHEETS.find((sheet) => sheet.width === task.width && sheet.height === task.height)?.key ?? "own";
  return (
    <div className="mt-3 space-y-3">
      <fieldset>
        <legend className="mb-1 font-semibold">Pictures lie</legend>
        {MODES.map(([mode, words]) => (
          <label key={mode} className="flex min-h-7 items-center gap-2">
            <input
              type="radio"
              name="mode"
              className="size-4 accent-plum"
              checked={task.mode === mode}
              onChange={() => set({ mode })}
            />
            {words}
          </label>
        ))}
      </fieldset>
      {task.mode === "single" ? (
        <Millimetres
          label="Bleed that is cut off"
          value={task.bleed}
          most={50}
          onSet={(bleed) => set({ bleed })}
        />
      ) : (
        <>
          <Row label="Paper">
            <select
              aria-label="Paper"
              className="box h-7 w-36 px-1.5"
              value={known}
              onChange={(event) => {
                const sheet = SHEETS.find((one) => one.key === event.target.value);
                if (sheet) set({ width: sheet.width, height: sheet.height });
              }}
            >
              {SHEETS.map((sheet) => (
                <option key={sheet.key} value={sheet.key}>
                  {sheet.name}
                </option>
              ))}
              {known === "own" && <option value="own">of your own</option>}
            </select>
          </Row>
          <Millimetres
            label="Paper, width"
            value={task.width}
            least={20}
            most={2000}
            onSet={(width) => set({ width })}
          />
          <Millimetres
            label="Paper, height"
            value={task.height}
            least={20}
            most={2000}
            onSet={(height) => set({ height })}
          />
          <Millimetres label="Margin" value={task.margin} most={500} onSet={(margin) => set({ margin })} />
          <Millimetres label="Gap between them" value={task.gap} most={2000} onSet={(gap) => set({ gap })} />
          <Row label="To cut along">
            <select
              aria-label="To cut along"
              className="box h-7 w-36 px-1.5"
              value={task.lines}
              onChange={(event) => set({ lines: event.target.value as SheetTask["lines"] })}
            >
              {LINES.map(([lines, words]) => (
                <option key={lines} value={lines}>
                  {words}
                </option>
              ))}
            </select>
          </Row>
        </>
      )}
      <fieldset>
        <legend className="mb-1 font-semibold">Pictures</legend>
        <ul className="divide-y divide-thin border-y border-rule">
          {pieces.map((piece) => (
            <PieceRow
              key={piece.id}
              piece={piece}
              copies={task.copies[piece.id] ?? 0}
              counted={task.mode === "copies"}
              onSet={(copies) => set({ copies: withCopies(task.copies, piece.id, copies) })}
            />
          ))}
        </ul>
      </fieldset>
    </div>
  );
}

function withCopies(copies: SheetTask["copies"], id: string, n: number): SheetTask["copies"] {
  const { [id]: _, ...others } = copies;
  return n > 0 ? { ...others, [id]: n } : others;
}

function PieceRow({
  piece,
  copies,
  counted,
  onSet,
}: {
  piece: Piece;
  copies: number;
  counted: boolean;
  onSet: (copies: number) => void;
}) {
  return (
    <li className="flex items-center gap-2 py-1">
      <label className="flex min-w-0 flex-1 items-center gap-2">
        <input
          type="checkbox"
          className="size-4 shrink-0 accent-plum"
          checked={copies > 0}
          onChange={(event) => onSet(event.target.checked ? 1 : 0)}
        />
        <img
          src={`/api/items/${piece.id}/file?look=1`}
          alt=""
          loading="lazy"
          className="h-8 w-9 shrink-0 rounded-[2px] bg-ground object-contain"
        />
        <span className="min-w-0">
          <span className="block truncate" title={piece.name}>
            {piece.name}
          </span>
          <span className="figures block text-tiny text-second">
            {trimNumber(piece.width, 1)} × {trimNumber(piece.height, 1)} mm
          </span>
        </span>
      </label>
      {counted && copies > 0 && (
        <input
          type="number"
          min={1}
          max={500}
          aria-label={`Copies of ${piece.name}`}
          className="box figures h-7 w-16 px-1.5"
          value={copies}
          onChange={(event) => onSet(Math.max(1, Math.min(500, Math.round(Number(event.target.value)) || 1)))}
        />
      )}
    </li>
  );
}

function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="flex items-center justify-between gap-2">
      <span>{label}</span>
      {children}
    </label>
  );
}

/** A length; inches and centimetres can be typed too. */
function Millimetres({
  label,
  value,
  least = 0,
  most,
  onSet,
}: {
  label: string;
  value: number;
  least?: number;
  most: number;
  onSet: (mm: number) => void;
}) {
  const [typed, setTyped] = useState<{ text: string; of: number } | null>(null);
  const text = typed?.of === value ? typed.text : trimNumber(value, 2);
  const read = readMm(text);
  const wrong = read === null || read < least || read > most;
  return (
    <Row label={label}>
      <span className="text-right">
        <input
          className={`box figures h-7 w-24 px-2 text-right ${wrong ? "border-not" : ""}`}
          value={text}
          aria-invalid={wrong}
          onChange={(event) => {
            const next = readMm(event.target.value);
            const taken = next !== null && next >= least && next <= most;
            setTyped({ text: event.target.value, of: taken ? next : value });
            if (taken) onSet(next);
          }}
        />
        <span className="ml-1.5 inline-block w-7 text-left text-small text-second">mm</span>
        {wrong && (
          <span role="alert" className="block text-small text-not">
            {least} to {most} mm
          </span>
        )}
      </span>
    </Row>
  );
}

function readMm(text: string): number | null {
  const plain = Number(text.trim().replace(",", "."));
  if (text.trim() !== "" && Number.isFinite(plain)) return plain;
  try {
    return toInches(parseLength(text)) * 25.4;
  } catch {
    return null;
  }
}
