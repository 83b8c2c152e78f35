/** The settings of a photo as they are sent and kept. */
import * as z from "zod";

export const rawSchema = z.strictObject({
  /** The sensor's values developed here, or the picture that the camera put beside them. */
  way: z.enum(["developed", "camera"]),
  /** Brightened so that the lightest hundredth reaches white. */
  brighten: z.boolean(),
  /**
   * Colours of lights that are too bright for some of the sensor's channels are taken from the others; else
   * they become white.
   */
  recover: z.boolean(),
});

export type RawTaking = z.infer<typeof rawSchema>;

export const layersSchema = z.strictObject({
  /**
   * Places of layers and groups in the file's tree, such as "0.2", that are shown or hidden other than the
   * file says.
   */
  shown: z.array(z.string().regex(/^\d+(\.\d+)*$/)).max(2000),
  hidden: z.array(z.string().regex(/^\d+(\.\d+)*$/)).max(2000),
});

export type LayerChoice = z.infer<typeof layersSchema>;

export const lighterSchema = z.strictObject({
  /** The pictures of its layers packed tighter, every pixel the same. */
  repack: z.boolean(),
  /** What is empty around the content of layers cut away. */
  crop: z.boolean(),
  /** Hidden layers and groups left out. */
  hidden: z.boolean(),
  /** The stored picture of the whole. */
  preview: z.enum(["keep", "smaller", "drop"]),
  thumbnail: z.enum(["keep", "smaller", "drop"]),
  /** Files beside the picture, such as a history, left out. */
  extras: z.boolean(),
  /** Percent of the pixels a side that all layers keep. */
  scale: z.number().min(1).max(100),
});

/** What is done to layered artwork that stays layered. */
export type Lighter = z.infer<typeof lighterSchema>;

export const lightSchema = z.strictObject({
  /** 0 to 100: how much of the way to the peak lights are taken. */
  strength: z.number().min(0).max(100),
  /** From this share of the scale of codes on (in percent), what is light counts as a light. */
  start: z.number().min(50).max(98),
  /** Multiples of reference white that the lightest becomes. */
  peak: z.number().min(1.5).max(20),
});

/** How lights of an ordinary picture are taken above white. */
export type LightSettings = z.infer<typeof lightSchema>;
