/**
 * The brief file, version 1, as a Zod schema of all of its keys. Values keep the
 * spelling of the file ("24KB", "40mm"), so that a brief is shown as it was
 * written; `resolveBrief` turns them into numbers.
 */
import * as z from "zod";
import { MAX_SIDE, parseByteText, parseLength, parseMeasure, parseResolution, UnitError } from "../units";
import { CLAUSE_KEYS, type ClauseKey, FORMATS, PAGE_FORMATS } from "./keys";

/** Turns a parser that throws {@link UnitError} into a Zod refinement with its message. */
function readable<T extends z.ZodType<string | number>>(type: T, parse: (value: never) => unknown) {
  return type.superRefine((value, ctx) => {
    try {
      parse(value as never);
    } catch (error) {
      const message =
        error instanceof UnitError ? `wanted ${error.wanted}, found ${error.found}` : String(error);
      ctx.addIssue({ code: "custom", message });
    }
  });
}

const bytes = readable(
  z.union([
    z.string().max(40),
    z
      .number()
      .int()
      .min(0)
      .max(2 ** 50),
  ]),
  parseByteText,
);
const length = readable(z.string().max(40), parseLength);
const resolution = readable(z.string().max(40), parseResolution);
const side = z.number().int().min(1).max(MAX_SIDE);
const size = z.strictObject({ width: side, height: side });
const colourCode = z.string().regex(/^#[0-9a-f]{6}$/i, 'wanted a colour such as "#ffffff"');

const exactOrRange = <T extends z.ZodType>(value: T) =>
  z
    .strictObject({ exact: value.optional(), min: value.optional(), max: value.optional() })
    .refine((r) => (r.exact !== undefined) !== (r.min !== undefined || r.max !== undefined), {
      message: "wanted either exact, or min and/or max",
    });

const pixelRange = exactOrRange(side).refine(
  (r) => r.min === undefined || r.max === undefined || r.min <= r.max,
  {
    message: "wanted min at or below max",
  },
);

/** A part of a picture's height: a length on its paper, or per cent of it. */
const measure = readable(z.string().max(40), parseMeasure);
const measureRange = z
  .strictObject({ min: measure.optional(), max: measure.optional() })
  .refine((r) => r.min !== undefined || r.max !== undefined, { message: "wanted min and/or max" })
  .refine((r) => !isReversed(r), { message: "wanted min at or below max" });

/** Whether both ends are of one kind, and the wrong way round. */
function isReversed({ min, max }: { min?: string; max?: string }): boolean {
  if (min === undefined || max === undefined) return false;
  const [low, high] = [parseMeasure(min), parseMeasure(max)];
  return low.of === high.of && low.value > high.value;
}

/** A narrower picture is an icon, not a photo. */
const LEAST_WIDTH = 16;
/** More would be files that hardly differ. */
export const MOST_WIDTHS = 12;
const set = z.strictObject({
  widths: z
    .array(z.number().int().min(LEAST_WIDTH).max(MAX_SIDE))
    .min(1)
    .max(MOST_WIDTHS)
    .refine((widths) => new Set(widths).size === widths.length, { message: "wanted each width once" }),
  formats: z.array(z.enum(PAGE_FORMATS)).min(1).max(PAGE_FORMATS.length).optional(),
});

const span = z.strictObject({ start: z.number().int().min(0), end: z.number().int().min(0) });

const clauseShape = {
  format: z.array(z.enum(FORMATS)).min(1).max(8),
  pick: z.enum(["first", "smallest"]),
  width: pixelRange,
  height: pixelRange,
  longSide: pixelRange,
  shortSide: pixelRange,
  box: size,
  sizes: z.array(size).min(1).max(50),
  shape: z.string().regex(/^[1-9][0-9]{0,4}:[1-9][0-9]{0,4}$/, 'wanted a shape such as "16:9"'),
  scale: z.string().regex(/^(?=.*[1-9])[0-9]{1,4}([.][0-9]{1,3})?\s?%$/, 'wanted a scale such as "50%"'),
  set,
  paper: z
    .strictObject({ width: length.optional(), height: length.optional() })
    .refine((p) => p.width !== undefined || p.height !== undefined, {
      message: "wanted a width or a height",
    }),
  resolution: exactOrRange(resolution).refine(
    (r) =>
      r.min === undefined ||
      r.max === undefined ||
      parseResolution(r.min as string) <= parseResolution(r.max as string),
    { message: "wanted min at or below max" },
  ),
  fileSize: z.strictObject({
    min: bytes.optional(),
    max: bytes.optional(),
    aim: z.enum(["best", "clean", "middle"]).optional(),
  }),
  quality: z
    .strictObject({
      min: z.number().int().min(1).max(100).optional(),
      max: z.number().int().min(1).max(100).optional(),
    })
    .refine((q) => (q.min ?? 1) <= (q.max ?? 100), { message: "wanted min at or below max" }),
  colour: z.strictObject({
    space: z.enum(["srgb", "display-p3", "bt2020", "gray", "cmyk", "keep"]).optional(),
    bits: z.union([z.literal(8), z.literal(10), z.literal(16)]).optional(),
    profile: z.enum(["embed", "omit"]).optional(),
    light: z.enum(["sdr", "hdr"]).optional(),
  }),
  frame: z.enum(["whole", "fill", "pad", "stretch"]),
  background: colourCode,
  enlarge: z.enum(["never", "allow"]),
  view: z.union([z.enum(["pixels", "paper", "screen"]), z.strictObject({ screen: size })]),
  head: z
    .strictObject({ height: measureRange.optional(), eyes: measureRange.optional() })
    .refine((head) => head.height !== undefined || head.eyes !== undefined, {
      message: "wanted a height, or where the eyes are",
    }),
  sharpen: z.strictObject({ for: z.enum(["screen", "print"]), amount: z.number().int().min(0).max(100) }),
  metadata: z.enum(["keep", "private", "none"]),
  border: z.strictObject({ px: z.number().int().min(1).max(1000), colour: colourCode }),
  ink: z.enum(["black", "original"]),
  layers: z.enum(["flatten", "keep"]),
  frames: z.enum(["first", "keep"]),
  padding: z.enum(["allow", "never"]),
  total: z.strictObject({ max: bytes, counted: z.enum(["files", "mail"]).optional() }),
  names: z.string().min(1).max(200),
} as const satisfies Record<ClauseKey, z.ZodType>;

const clauseKey = z.enum(CLAUSE_KEYS);

type OptionalShape<S extends Record<string, z.ZodType>> = { [K in keyof S]: z.ZodOptional<S[K]> };
const optional = <S extends Record<string, z.ZodType>>(shape: S) =>
  Object.fromEntries(Object.entries(shape).map(([key, type]) => [key, type.optional()])) as OptionalShape<S>;

export const briefSchema = z.strictObject({
  zumbrelBrief: z.literal(1),
  name: z.string().min(1).max(200),
  from: z.string().max(200).optional(),
  ...optional(clauseShape),
  wishes: z.array(clauseKey).max(40).optional(),
  wording: z.string().max(100_000).optional(),
  read: z
    .array(z.strictObject({ clause: clauseKey, ...span.shape }))
    .max(1000)
    .optional(),
  unread: z.array(span).max(1000).optional(),
  onlyYou: z.array(z.string().max(1000)).max(200).optional(),
  overruled: z.strictObject(optional(clauseShape)).optional(),
});

/** A brief as it stands in its file. */
export type Brief = z.infer<typeof briefSchema>;
