/** The frame as it is sent and kept. Apart from what works on it, which pages need before they check anything. */
import * as z from "zod";
import { MOST_ANGLE, MOST_ZOOM } from "./frame-limits";
import { KERNELS } from "./settings";
import { layersSchema, lighterSchema, lightSchema, rawSchema } from "./settings-schema";

const share = z.number().min(0).max(1);
/** A place in shares of the upright photo, before the frame's quarter turns. */
const point = z.strictObject({ x: share, y: share });
export type Point = z.infer<typeof point>;

/** Where a person has marked the head of a portrait. */
const marksSchema = z.strictObject({ crown: point, chin: point, eyes: point.optional() });
export type Marks = z.infer<typeof marksSchema>;

export const frameSchema = z.strictObject({
  /** Where the used part sits in the room that is left: 0 left or top, 0.5 middle, 1 right or bottom. */
  x: share,
  y: share,
  /** How much smaller than the largest possible part; 1 is the largest. */
  zoom: z.number().min(1).max(MOST_ZOOM).optional(),
  /** Clockwise, after the EXIF orientation. */
  turn: z.union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)]).optional(),
  /** Straightening: how far the part leans clockwise against the photo, in degrees. */
  angle: z.number().min(-MOST_ANGLE).max(MOST_ANGLE).optional(),
  /** The output stands the other way up than the photo would, where the brief leaves that open. */
  swap: z.boolean().optional(),
  /** The kernel where the choice is overruled. */
  kernel: z.enum(KERNELS).optional(),
  /** Nobody has set it: where it has to cut, it goes to where the detail is. */
  auto: z.boolean().optional(),
  /**
   * How ink is looked for, where that was changed: strength 0 to 100, margin in percent of the ink's longer
   * side.
   */
  ink: z.strictObject({ strength: z.number().min(0).max(100), margin: z.number().min(0).max(40) }).optional(),
  /** How a camera's raw file is taken. */
  raw: rawSchema.optional(),
  /** Which layers of layered artwork take part. */
  layers: layersSchema.optional(),
  /** Which page of a file of several, counted from 1. */
  page: z.number().int().min(1).max(10_000).optional(),
  /** How layered artwork that stays layered is made lighter. */
  lighter: lighterSchema.optional(),
  /** How lights are taken above white, where the brief asks for high dynamic range. */
  light: lightSchema.optional(),
  /** The head of a portrait, as a person has marked it. */
  marks: marksSchema.optional(),
  /** The colour space of a photo that says none itself. */
  takenAs: z.enum(["display-p3", "oprgb", "romm-rgb"]).optional(),
});

export type Frame = z.infer<typeof frameSchema>;
