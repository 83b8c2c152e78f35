/** What the same picture takes without light above white: one encode each, nothing is searched for. */
import { type AvifSetting, OWN_TABLES, settingOf } from "@/core/coding";
import type { Geometry } from "@/core/geometry";
import { formatBytes } from "@/core/units";
import { Candidates } from "../candidates";
import { resolvedFor } from "../planned";

/** The quality at which photographs usually show no loss (common practice: 90 to 95 for the web's finest). */
const USUAL = 92;

export async function besideOrdinary(
  { photo }: Candidates,
  geometry: Geometry,
  setting: AvifSetting,
): Promise<string> {
  const brief = { ...photo.brief, colour: undefined, fileSize: undefined, quality: undefined };
  const plain = new Candidates({ ...photo, brief, resolved: resolvedFor({ brief }) }, { judging: "none" });
  const avif = await plain.trial(plain.at(geometry, "avif"), { ...setting, bits: 8 });
  const pixels = geometry.width * geometry.height;
  const usual = settingOf({ format: "jpeg", quality: USUAL, chroma: "4:2:0", table: OWN_TABLES }, pixels)!;
  const jpeg = await plain.trial(plain.at(geometry, "jpeg"), usual);
  return (
    `Without light above white the same picture takes ${formatBytes(avif.bytes)} as AVIF at the same ` +
    `setting and ${formatBytes(jpeg.bytes)} as a JPEG of quality ${USUAL}.`
  );
}
