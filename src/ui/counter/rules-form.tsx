"use client";

/** The rules of a receiver, to be changed. What is wrong is said at its field, and nothing is lost. */
import { type FormEvent, type ReactNode, useState } from "react";
import { type FileType, type FormRules, type Rules, rulesSchema, type Slot, TYPE_NAMES } from "@/receivers";
import type { ReceiverView } from "../api";
import { call, useChange } from "../api";
import { Button } from "../parts";

/** Fields by their place in the rules, as they were typed. */
type Typed = Record<string, string>;

export function RulesForm({ view, onDone }: { view: ReceiverView; onDone: () => void }) {
  const [rules, setRules] = useState<Rules>(view.rules);
  const [typed, setTyped] = useState<Typed>({});
  const [fault, setFault] = useState<{ path: string; words: string } | null>(null);
  const save = useChange(async (next: Rules) => {
    await call("PUT", `counter/${view.id}`, { rules: next });
    onDone();
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const found = rulesSchema.safeParse(rules);
    const broken = Object.entries(typed).find(([, text]) => Number.isNaN(numberOf(text)));
    if (broken) return setFault({ path: broken[0], words: `Wanted a number, found "${broken[1]}".` });
    if (found.success) return save.mutate(found.data);
    const [issue] = found.error.issues;
    setFault({ path: issue.path.join("."), words: `${issue.message}.` });
  };
  const number = (
    path: string,
    label: string,
    value: number | null,
    set: (value: number | null) => void,
    unit = "",
    optional = false,
  ) => (
    <Line label={label} unit={unit} fault={fault?.path === path ? fault.words : null}>
      <input
        className="box h-7 w-24 px-2 max-[1150px]:w-16"
        inputMode="decimal"
        value={typed[path] ?? (value === null ? "" : String(value))}
        placeholder={optional ? "free" : ""}
        onChange={(event) => {
          const text = event.target.value;
          setTyped({ ...typed, [path]: text });
          const next = numberOf(text);
          if (!Number.isNaN(next)) set(text.trim() === "" ? null : next);
        }}
      />
    </Line>
  );
  return (
    <form
      onSubmit={submit}
      onKeyDown={(event) => event.key === "Escape" && onDone()}
      className="mt-2 rounded-box border border-plum bg-sheet p-4"
    >
      <Line label="Name" fault={fault?.path === "name" ? fault.words : null}>
        <input
          className="box h-7 w-64 px-2"
          value={rules.name}
          maxLength={80}
          onChange={(event) => setRules({ ...rules, name: event.target.value })}
        />
      </Line>
      {rules.kind === "form" && <Slots rules={rules} onChange={setRules} number={number} fault={fault} />}
      {rules.kind === "mailbox" && (
        <>
          <Line label="Address" fault={fault?.path === "address" ? fault.words : null}>
            <input
              className="box h-7 w-64 px-2"
              value={rules.address}
              onChange={(event) => setRules({ ...rules, address: event.target.value.toLowerCase() })}
            />
          </Line>
          {number(
            "limit",
            "Takes at most",
            rules.limit / 1e6,
            (value) => setRules({ ...rules, limit: Math.round((value ?? 0) * 1e6) }),
            "MB a message",
          )}
        </>
      )}
      {rules.kind === "print" && (
        <>
          {number(
            "width",
            "Paper, width",
            rules.width,
            (value) => setRules({ ...rules, width: value ?? 0 }),
            "mm",
          )}
          {number(
            "height",
            "Paper, height",
            rules.height,
            (value) => setRules({ ...rules, height: value ?? 0 }),
            "mm",
          )}
          {number("ppi", "At least", rules.ppi, (value) => setRules({ ...rules, ppi: value ?? 0 }), "ppi")}
          <Formats
            offered={["jpeg", "png", "tiff", "pdf"]}
            chosen={rules.formats}
            onChange={(formats) => setRules({ ...rules, formats: formats as typeof rules.formats })}
            fault={fault?.path === "formats" ? fault.words : null}
          />
        </>
      )}
      {rules.kind === "wall" && (
        <>
          {number(
            "width",
            "Screen, width",
            rules.width,
            (value) => setRules({ ...rules, width: value ?? 0 }),
            "px",
          )}
          {number(
            "height",
            "Screen, height",
            rules.height,
            (value) => setRules({ ...rules, height: value ?? 0 }),
            "px",
          )}
          {number(
            "memory",
            "Memory",
            rules.memory / 1e6,
            (value) => setRules({ ...rules, memory: Math.round((value ?? 0) * 1e6) }),
            "MB",
          )}
          <Formats
            offered={["jpeg", "png", "webp"]}
            chosen={rules.formats}
            onChange={(formats) => setRules({ ...rules, formats: formats as typeof rules.formats })}
            fault={fault?.path === "formats" ? fault.words : null}
          />
        </>
      )}
      <div className="mt-3 flex gap-2">
        <button
          type="submit"
          disabled={save.isPending}
          className="box press h-7 border-plum px-2.5 hover:bg-wash"
        >
          Publish these rules
        </button>
        <Button onClick={onDone}>Leave them as they were</Button>
      </div>
    </form>
  );
}

const numberOf = (text: string): number => (text.trim() === "" ? 0 : Number(text.trim().replace(",", ".")));

function Line({
  label,
  unit = "",
  fault,
  children,
}: {
  label: string;
  unit?: string;
  fault: string | null;
  children: ReactNode;
}) {
  return (
    <label className="mb-1.5 flex flex-wrap items-center gap-2">
      <span className="w-32 shrink-0 max-[1150px]:w-20">{label}</span>
      {children}
      {unit && <span className="text-small text-second">{unit}</span>}
      {fault && (
        <span role="alert" className="w-full text-small text-not">
          {fault}
        </span>
      )}
    </label>
  );
}

function Formats({
  offered,
  chosen,
  onChange,
  fault,
}: {
  offered: readonly FileType[];
  chosen: readonly string[];
  onChange: (formats: string[]) => void;
  fault: string | null;
}) {
  return (
    <fieldset className="mb-1.5 flex flex-wrap items-center gap-3">
      <legend className="float-left w-34 shrink-0 max-[1150px]:w-22">File type</legend>
      {offered.map((one) => (
        <label key={one} className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="size-4 accent-plum"
            checked={chosen.includes(one)}
            onChange={(event) =>
              onChange(event.target.checked ? [...chosen, one] : chosen.filter((other) => other !== one))
            }
          />
          {TYPE_NAMES[one]}
        </label>
      ))}
      {fault && (
        <span role="alert" className="w-full text-small text-not">
          {fault}
        </span>
      )}
    </fieldset>
  );
}

interface SlotsProps {
  rules: FormRules;
  onChange: (rules: FormRules) => void;
  number: (
    path: string,
    label: string,
    value: number | null,
    set: (value: number | null) => void,
    unit?: string,
    optional?: boolean,
  ) => ReactNode;
  fault: { path: string; words: string } | null;
}

function Slots({ rules, onChange, number, fault }: SlotsProps) {
  const set = (i: number, change: Partial<Slot>) =>
    onChange({ ...rules, slots: rules.slots.map((slot, k) => (k === i ? { ...slot, ...change } : slot)) });
  const pixels = (i: number, slot: Slot, side: "width" | "height") => (value: number | null) =>
    set(i, {
      pixels:
        value === null
          ? null
          : { width: slot.pixels?.width ?? value, height: slot.pixels?.height ?? value, [side]: value },
    });
  const page = (i: number, slot: Slot, side: "width" | "height") => (value: number | null) =>
    set(i, {
      page:
        value === null
          ? null
          : { width: slot.page?.width ?? value, height: slot.page?.height ?? value, [side]: value },
    });
  const fresh = (): Slot => ({
    key: `document-${Date.now().toString(36)}`,
    title: "Another document",
    formats: ["jpeg"],
    pixels: null,
    floor: null,
    ceiling: 500,
    untold: null,
    page: null,
    ink: false,
    person: [],
  });
  return (
    <>
      {rules.slots.map((slot, i) => (
        <fieldset key={slot.key} className="mt-3 border-t border-thin pt-2">
          <legend className="sr-only">{slot.title}</legend>
          <Line label="Document" fault={fault?.path === `slots.${i}.title` ? fault.words : null}>
            <input
              className="box h-7 w-64 px-2 font-semibold"
              value={slot.title}
              maxLength={80}
              onChange={(event) => set(i, { title: event.target.value })}
            />
          </Line>
          <Formats
            offered={["jpeg", "png", "pdf"]}
            chosen={slot.formats}
            onChange={(formats) => set(i, { formats: formats as Slot["formats"] })}
            fault={fault?.path === `slots.${i}.formats` ? fault.words : null}
          />
          <div className="grid grid-cols-2 gap-x-6">
            {number(
              `slots.${i}.pixels.width`,
              "Width",
              slot.pixels?.width ?? null,
              pixels(i, slot, "width"),
              "px",
              true,
            )}
            {number(
              `slots.${i}.pixels.height`,
              "Height",
              slot.pixels?.height ?? null,
              pixels(i, slot, "height"),
              "px",
              true,
            )}
            {number(`slots.${i}.floor`, "At least", slot.floor, (floor) => set(i, { floor }), "KB", true)}
            {number(
              `slots.${i}.ceiling`,
              "At most",
              slot.ceiling,
              (ceiling) => set(i, { ceiling }),
              "KB",
              true,
            )}
            {number(
              `slots.${i}.untold`,
              "In truth",
              slot.untold,
              (untold) => set(i, { untold }),
              "KB, which its page does not tell",
              true,
            )}
            {slot.formats.includes("pdf") &&
              number(
                `slots.${i}.page.width`,
                "Page, width",
                slot.page?.width ?? null,
                page(i, slot, "width"),
                "mm",
                true,
              )}
            {slot.formats.includes("pdf") &&
              number(
                `slots.${i}.page.height`,
                "Page, height",
                slot.page?.height ?? null,
                page(i, slot, "height"),
                "mm",
                true,
              )}
          </div>
          <div className="flex items-center gap-4">
            <label className="flex items-center gap-1.5">
              <input
                type="checkbox"
                className="size-4 accent-plum"
                checked={slot.ink}
                onChange={(event) => set(i, { ink: event.target.checked })}
              />
              Black ink on white paper
            </label>
            {rules.slots.length > 1 && (
              <Button
                kind="quiet"
                className="ml-auto text-small"
                onClick={() => onChange({ ...rules, slots: rules.slots.filter((_, k) => k !== i) })}
              >
                Ask for it no more
              </Button>
            )}
          </div>
        </fieldset>
      ))}
      {rules.slots.length < 8 && (
        <Button
          kind="quiet"
          className="mt-1 text-small"
          onClick={() => onChange({ ...rules, slots: [...rules.slots, fresh()] })}
        >
          Ask for another document
        </Button>
      )}
    </>
  );
}
