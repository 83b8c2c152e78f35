/** A choice as it is sent and kept. */
import * as z from "zod";
import { OWN_TABLES, TIGHTEST } from "./types";

/** Long side in px that the picture is to have; absent: as planned. */
const side = z.int().min(1).max(100_000).optional();

export const choiceSchema = z.union([
  /** Whatever the brief allows, as small as it can be without visible loss. */
  z.strictObject({ aim: z.literal("clean") }),
  /** The photo's own JPEG data, packed tighter. */
  z.strictObject({ packed: z.literal(true) }),
  z.strictObject({
    format: z.literal("jpeg"),
    quality: z.number().min(1).max(100),
    chroma: z.enum(["4:2:0", "4:2:2", "4:4:4"]),
    table: z.int().min(0).max(OWN_TABLES),
    /** Absent: careful. */
    effort: z.enum(["careful", "quick", "plain"]).optional(),
    thrift: z.number().min(0).max(1).optional(),
    side,
  }),
  z.strictObject({
    format: z.literal("png"),
    colours: z.int().min(2).max(256).nullable(),
    level: z.int().min(0).max(TIGHTEST),
    side,
  }),
  z.strictObject({
    format: z.literal("webp"),
    quality: z.int().min(1).max(100).nullable(),
    effort: z.int().min(0).max(6).optional(),
    side,
  }),
  z.strictObject({
    format: z.literal("avif"),
    quality: z.int().min(1).max(100),
    bits: z.union([z.literal(8), z.literal(10)]),
    effort: z.int().min(0).max(9).optional(),
    /** Absent: 4:4:4. */
    chroma: z.literal("4:2:0").optional(),
    side,
  }),
  z.strictObject({ format: z.literal("tiff"), compression: z.enum(["deflate", "lzw", "none"]), side }),
  z.strictObject({ format: z.literal("gif"), colours: z.int().min(2).max(256), side }),
  z.strictObject({ format: z.literal("bmp"), side }),
]);

export type Choice = z.infer<typeof choiceSchema>;
