"use client";

/** Fields of the clause forms: text with its other readings beside it, and choices. */
import type { UseFormReturn } from "react-hook-form";

export type Values = Record<string, string>;

interface FieldProps {
  form: UseFormReturn<Values>;
  name: string;
  label: string;
  /** What the typed text means, in other units; null where it cannot be read. */
  reading?: (text: string) => string | null;
  autoFocus?: boolean;
  wide?: boolean;
}

export function Field({ form, name, label, reading, autoFocus, wide = false }: FieldProps) {
  const text = form.watch(name) ?? "";
  const other = text.trim() === "" || !reading ? null : safely(() => reading(text));
  return (
    <label
      className={`mb-2 grid items-center gap-2 ${wide ? "grid-cols-[76px_1fr]" : "grid-cols-[76px_112px_1fr]"}`}
    >
      <span className="text-small text-second">{label}</span>
      <input
        {...form.register(name)}
        autoFocus={autoFocus}
        autoComplete="off"
        className="box figures h-7 min-w-0 px-2"
      />
      {!wide && <span className="figures text-tiny text-second">{other}</span>}
    </label>
  );
}

function safely<T>(read: () => T): T | null {
  try {
    return read();
  } catch {
    return null;
  }
}

interface PickProps {
  form: UseFormReturn<Values>;
  name: string;
  label: string;
  options: readonly (readonly [value: string, words: string])[];
  autoFocus?: boolean;
}

/** One of a few values, in a line. */
export function Pick({ form, name, label, options, autoFocus }: PickProps) {
  return (
    <label className="mb-2 grid grid-cols-[76px_1fr] items-center gap-2">
      <span className="text-small text-second">{label}</span>
      <select {...form.register(name)} autoFocus={autoFocus} className="box h-7 min-w-0 px-1.5">
        {options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

interface ChoiceProps {
  form: UseFormReturn<Values>;
  name: string;
  legend: string;
  options: readonly [value: string, words: string][];
}

export function Choices({ form, name, legend, options }: ChoiceProps) {
  const chosen = form.watch(name);
  return (
    <fieldset>
      <legend className="mb-2 font-semibold">{legend}</legend>
      {options.map(([value, words], i) => (
        <label key={value} className="mb-1 flex items-center gap-2">
          <input
            type="radio"
            value={value}
            checked={chosen === value}
            autoFocus={i === 0}
            onChange={() => form.setValue(name, value)}
            className="size-4 accent-plum"
          />
          {words}
        </label>
      ))}
    </fieldset>
  );
}
