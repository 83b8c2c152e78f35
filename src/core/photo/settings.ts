/**
 * How a photo is taken from a file that holds more than one picture of it: a choice of the person, beside
 * the frame.
 */
import { canonical } from "../units";
import type { Lighter, LightSettings, RawTaking } from "./settings-schema";

export const DEFAULT_RAW: RawTaking = { way: "developed", brighten: true, recover: true };

/** Nothing of the picture is lost by these. */
export const DEFAULT_LIGHTER: Lighter = {
  repack: true,
  crop: true,
  hidden: false,
  preview: "keep",
  thumbnail: "keep",
  extras: false,
  scale: 100,
};

/** 1000 cd/m² over a reference white of 203 (ITU-R BT.2408) is 4.9. */
export const DEFAULT_LIGHT: LightSettings = { strength: 100, start: 82, peak: 4.9 };

/** Equal settings have one spelling, and the usual ones none. */
export const sameSettings = (a: object, b: object): boolean => canonical(a) === canonical(b);

export const KERNELS = ["nearest", "linear", "catmull-rom", "mitchell", "lanczos2", "lanczos3"] as const;

export type KernelName = (typeof KERNELS)[number];
