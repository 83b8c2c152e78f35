/** The setting that a person has chosen on Weigh. */
import { formatName } from "@/core/brief";
import { type Choice, choiceName, type Setting, settingOf, sideOf } from "@/core/coding";
import { qualityOf, readJpeg } from "@/core/containers";
import { type Geometry, withLongSide } from "@/core/geometry";
import { allowedFormats } from "@/core/plan";
import { formatBytes } from "@/core/units";
import type { Candidates } from "../candidates";
import { assemble } from "../headers";
import { viewingOf } from "../planned";
import type { Chosen } from "./asked";
import { searched } from "./searched";

/** Where the brief does not allow it, a setting is searched for, and that is told. */
export async function byHand(candidates: Candidates, choice: Choice): Promise<Chosen> {
  const { photo } = candidates;
  const { resolved } = photo;
  const geometry = withLongSide(viewingOf(photo), photo.geometry, sideOf(choice));
  const chosen = settingOf(choice, geometry.width * geometry.height);
  if (!chosen) return searched(candidates);
  // A setting that was chosen for a photo of eight bits serves one of ten.
  const setting: Setting =
    chosen.format === "avif" && resolved.bits === 10 ? { ...chosen, bits: 10 } : chosen;
  const why = await refusal(candidates, geometry, setting);
  if (why !== null) {
    const found = await searched(candidates);
    const note = `${choiceName(choice)} was chosen on Weigh, but ${why}, so Zumbrel looked for a setting itself.`;
    return { ...found, notes: [...found.notes, note], elsewise: true };
  }
  const picture = candidates.at(geometry, setting.format);
  const { bytes } = await candidates.trial(picture, setting);
  return {
    kind: "coded",
    fitted: {
      ok: true,
      setting,
      bytes,
      geometry,
      padTo: null,
      encodes: 1,
      told: [
        geometry === photo.geometry
          ? "the setting of your choice, because it was chosen on Weigh"
          : "the setting and the pixels of your choice, because they were chosen on Weigh",
      ],
      difference: null,
      cleanFrom: null,
      gaveUp: null,
    },
    encodes: 1,
    notes: [],
  };
}

/** Why the brief does not allow a setting, as a part of a sentence; null where it does. */
async function refusal(candidates: Candidates, geometry: Geometry, setting: Setting): Promise<string | null> {
  const { resolved, source } = candidates.photo;
  const formats = allowedFormats(resolved, source.facts);
  if (!formats.includes(setting.format)) return `the brief asks for ${formats.map(formatName).join(" or ")}`;
  const picture = candidates.at(geometry, setting.format);
  const { bytes } = await candidates.trial(picture, setting);
  const { min, max } = resolved.fileSize;
  if (max !== null && bytes > max)
    return `gives ${formatBytes(bytes)} here, above the ceiling of ${formatBytes(max)}`;
  if (min !== null && bytes < min)
    return `gives ${formatBytes(bytes)} here, below the floor of ${formatBytes(min)}`;
  const asked = resolved.quality;
  if (!asked || setting.format !== "jpeg") return null;
  const file = assemble(await candidates.encoding(picture, setting), "jpeg", picture.headers);
  const quality = qualityOf(readJpeg(file))?.quality ?? 0;
  return quality >= asked.min && quality <= asked.max
    ? null
    : `is read back as quality ${quality}, outside the ${asked.min} to ${asked.max} of the brief`;
}
