"use client";

/** The forms inside the chips. Units can be typed; the other readings are shown beside them. */
import { useForm, type UseFormReturn } from "react-hook-form";
import { parseBrief, resolveBrief, WRITABLE, formatName, type Brief, type OutputFormat } from "@/core/brief";
import { formatBytes, onPaper, parsePixels, parseResolution, toBytes, UnitError } from "@/core/units";
import { Button } from "../parts/button";
import { withClauses, type Chip } from "./chips";

interface Props {
  chip: Chip;
  brief: Brief;
  /** The chip's clauses as they are to be, or null to remove them. */
  onSave: (clauses: Partial<Brief> | null) => void;
}

type Values = Record<string, string>;

interface Kind {
  start: (brief: Brief) => Values;
  read: (values: Values, brief: Brief) => Partial<Brief> | null;
  Fields: (props: { form: UseFormReturn<Values>; brief: Brief }) => React.ReactNode;
}

export function ChipForm({ chip, brief, onSave }: Props) {
  const kind = KINDS[chip.key];
  const form = useForm<Values>({ defaultValues: kind.start(brief) });
  const submit = form.handleSubmit((values) => {
    try {
      const clauses = kind.read(values, brief);
      if (clauses) parseBrief(withClauses(brief, chip, clauses));
      onSave(clauses);
    } catch (error) {
      const message = error instanceof UnitError ? `Wanted ${error.wanted}, found ${error.found}.` : error instanceof Error ? error.message : String(error);
      form.setError("root", { message });
    }
  });
  return (
    <form onSubmit={(event) => void submit(event)}>
      <kind.Fields form={form} brief={brief} />
      {form.formState.errors.root && (
        <p role="alert" className="mt-3 text-not">
          {form.formState.errors.root.message}
        </p>
      )}
      <div className="mt-4 flex items-center justify-between">
        <Button type="submit">Use this</Button>
        {chip.words(brief) !== null && (
          <Button kind="quiet" onClick={() => onSave(null)}>
            Remove this clause
          </Button>
        )}
      </div>
    </form>
  );
}

interface FieldProps {
  form: UseFormReturn<Values>;
  name: string;
  label: string;
  /** What the typed text means, in other units; null where it cannot be read. */
  reading?: (text: string) => string | null;
  autoFocus?: boolean;
}

function Field({ form, name, label, reading, autoFocus }: FieldProps) {
  const text = form.watch(name) ?? "";
  const other = text.trim() === "" || !reading ? null : safely(() => reading(text));
  return (
    <label className="mb-2 grid grid-cols-[76px_92px_1fr] items-center gap-2">
      <span className="text-small text-second">{label}</span>
      <input {...form.register(name)} autoFocus={autoFocus} autoComplete="off" className="box figures h-7 px-2" />
      <span className="figures text-tiny text-second">{other}</span>
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

const format: Kind = {
  start: (brief) => Object.fromEntries(WRITABLE.map((f) => [f, brief.format?.includes(f) ? "1" : ""])),
  read: (values) => {
    const chosen = WRITABLE.filter((f) => values[f]) as OutputFormat[];
    if (!chosen.length) throw new Error("Choose at least one format, or remove the clause.");
    return { format: chosen };
  },
  Fields: ({ form }) => (
    <fieldset>
      <legend className="mb-2 font-semibold">The file may be</legend>
      {WRITABLE.map((f) => (
        <label key={f} className="mb-1 flex items-center gap-2">
          <input type="checkbox" checked={form.watch(f) === "1"} onChange={(event) => form.setValue(f, event.target.checked ? "1" : "")} className="size-4 accent-plum" />
          {formatName(f)}
        </label>
      ))}
      <p className="mt-2 text-small text-second">With both, JPEG is tried first; PNG where it cannot meet the brief.</p>
    </fieldset>
  ),
};

const ppiOf = (brief: Brief): number | null => resolveBrief(brief).resolution?.exact ?? null;

const pixels: Kind = {
  start: (brief) => ({
    width: String(brief.width?.exact ?? ""),
    height: String(brief.height?.exact ?? ""),
    longSide: String(brief.longSide?.exact ?? brief.longSide?.max ?? ""),
  }),
  read: (values, brief) => {
    const ppi = ppiOf(brief);
    const side = (text: string) => (text.trim() === "" ? null : parsePixels(text, ppi));
    const [width, height, longSide] = [side(values.width), side(values.height), side(values.longSide)];
    if (width === null && height === null && longSide === null) throw new Error("Say a width, a height or a long side, or remove the clause.");
    // Ranges that this form does not show stay as they are.
    const kept = (["width", "height"] as const).filter((key) => brief[key] && brief[key].exact === undefined);
    const long = brief.longSide;
    const longKept = long && long.exact === undefined && long.max === undefined ? long : null;
    const longNew = longSide === null ? longKept : long?.exact !== undefined ? { exact: longSide } : { ...(long?.min !== undefined && { min: long.min }), max: longSide };
    return {
      ...Object.fromEntries(kept.map((key) => [key, brief[key]])),
      ...(width !== null && { width: { exact: width } }),
      ...(height !== null && { height: { exact: height } }),
      ...(longNew && { longSide: longNew }),
      ...(brief.shortSide && { shortSide: brief.shortSide }),
    };
  },
  Fields: ({ form, brief }) => {
    const ppi = ppiOf(brief);
    const reading = (text: string) => {
      const px = parsePixels(text, ppi);
      const typedPixels = /^\s*\d+\s*(px)?\s*$/i.test(text);
      if (!typedPixels) return `${px} px`;
      return ppi ? onPaper(px, ppi) : "px";
    };
    return (
      <fieldset>
        <legend className="mb-2 font-semibold">Exactly</legend>
        <Field form={form} name="width" label="Width" reading={reading} autoFocus />
        <Field form={form} name="height" label="Height" reading={reading} />
        <p className="mt-3 mb-2 font-semibold">Or no side over</p>
        <Field form={form} name="longSide" label="Long side" reading={reading} />
        <p className="text-small text-second">{ppi ? `Lengths such as 28 mm are counted at ${ppi} ppi.` : "In pixels. With a resolution clause, lengths such as 28 mm can be typed too."}</p>
      </fieldset>
    );
  },
};

const amount = (value: string | number | undefined) => (value === undefined ? "" : String(value));
const withUnit = (text: string) => (/^[0-9.,\s]+$/.test(text) ? `${text.trim().replace(",", ".")}KB` : text.trim());

const fileSize: Kind = {
  start: (brief) => ({ min: amount(brief.fileSize?.min), max: amount(brief.fileSize?.max) }),
  read: (values, brief) => {
    const [min, max] = [values.min, values.max].map((text) => (text.trim() === "" ? undefined : withUnit(text)));
    if (min === undefined && max === undefined) throw new Error("Say a floor or a ceiling, or remove the clause.");
    if (min !== undefined) toBytes(min, "min");
    if (max !== undefined) toBytes(max, "max");
    const aim = brief.fileSize?.aim;
    return { fileSize: { ...(min !== undefined && { min }), ...(max !== undefined && { max }), ...(aim && { aim }) } };
  },
  Fields: ({ form }) => (
    <fieldset>
      <legend className="mb-2 font-semibold">The file weighs</legend>
      <Field form={form} name="min" label="At least" autoFocus reading={(text) => `${toBytes(withUnit(text), "min")} bytes`} />
      <Field form={form} name="max" label="At most" reading={(text) => `${toBytes(withUnit(text), "max")} bytes, ${formatBytes(toBytes(withUnit(text), "max"))}`} />
      <p className="text-small text-second">KB and MB can mean two things, so a ceiling is met in the smaller reading and a floor in the larger.</p>
    </fieldset>
  ),
};

const resolution: Kind = {
  start: (brief) => ({ exact: amount(brief.resolution?.exact) }),
  read: (values) => {
    const text = /^[0-9.,\s]+$/.test(values.exact) ? `${values.exact.trim()}ppi` : values.exact.trim();
    parseResolution(text);
    return { resolution: { exact: text } };
  },
  Fields: ({ form }) => (
    <fieldset>
      <legend className="mb-2 font-semibold">Written into the file</legend>
      <Field form={form} name="exact" label="Resolution" autoFocus reading={(text) => (/cm/i.test(text) ? `${parseResolution(text).toFixed(1)} ppi` : null)} />
      <p className="text-small text-second">Such as 300 ppi or 120 px/cm. It changes no pixels.</p>
    </fieldset>
  ),
};

const KINDS: Record<Chip["key"], Kind> = { format, pixels, fileSize, resolution };
