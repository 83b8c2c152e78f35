/** Clauses that a file type has no room for. */
import { clauseWords, formatName, type Brief, type ClauseKey, type OutputFormat } from "../brief";
import type { Choice, Disagreement } from "./types";

/**
 * Bits per channel (JPEG: ITU-T T.81 baseline; PNG: W3C PNG 3rd ed.; WebP: RFC 9649; AVIF: AV1 profiles;
 * TIFF 6.0; GIF89a palette of 8-bit entries; BMP), CMYK and a field for resolution.
 */
const CAN: Record<OutputFormat, { bits: number[]; cmyk: boolean; resolution: boolean; wide: boolean; hdr: boolean; layers: boolean }> = {
  jpeg: { bits: [8], cmyk: true, resolution: true, wide: true, hdr: false, layers: false },
  png: { bits: [8, 16], cmyk: false, resolution: true, wide: true, hdr: false, layers: false },
  webp: { bits: [8], cmyk: false, resolution: true, wide: true, hdr: false, layers: false },
  avif: { bits: [8, 10], cmyk: false, resolution: true, wide: true, hdr: true, layers: false },
  tiff: { bits: [8, 16], cmyk: true, resolution: true, wide: true, hdr: false, layers: true },
  gif: { bits: [8], cmyk: false, resolution: false, wide: false, hdr: false, layers: false },
  bmp: { bits: [8], cmyk: false, resolution: true, wide: false, hdr: false, layers: false },
  pdf: { bits: [8], cmyk: true, resolution: true, wide: true, hdr: false, layers: false },
};

interface Need {
  clause: ClauseKey;
  what: string;
  /** What is left of the clause without it; null takes it away. */
  without: Brief[ClauseKey] | null;
  can(format: OutputFormat): boolean;
}

function needs(brief: Brief): Need[] {
  const out: Need[] = [];
  const { colour } = brief;
  const less = (key: "bits" | "space" | "light"): Brief["colour"] | null => {
    const { [key]: _, ...rest } = colour!;
    return Object.keys(rest).length ? rest : null;
  };
  if (colour?.bits !== undefined) out.push({ clause: "colour", what: `${colour.bits} bits a channel`, without: less("bits"), can: (f) => CAN[f].bits.includes(colour.bits!) });
  if (colour?.space === "cmyk") out.push({ clause: "colour", what: "CMYK", without: less("space"), can: (f) => CAN[f].cmyk });
  if (colour?.space === "display-p3" || colour?.space === "bt2020") out.push({ clause: "colour", what: "a wide colour space", without: less("space"), can: (f) => CAN[f].wide });
  if (colour?.light === "hdr") out.push({ clause: "colour", what: "light above white", without: less("light"), can: (f) => CAN[f].hdr });
  if (brief.resolution) out.push({ clause: "resolution", what: "a resolution", without: null, can: (f) => CAN[f].resolution });
  else if (brief.paper) out.push({ clause: "paper", what: "a size on paper", without: null, can: (f) => CAN[f].resolution });
  if (brief.layers === "keep") out.push({ clause: "layers", what: "layers", without: null, can: (f) => CAN[f].layers });
  return out;
}

const list = (formats: readonly OutputFormat[]) => formats.map(formatName).join(" or ");

export function formatDisagreements(brief: Brief): Disagreement[] {
  const formats = brief.format;
  if (!formats) return [];
  return needs(brief).flatMap(({ clause, what, without, can }) => {
    const [able, unable] = [formats.filter(can), formats.filter((format) => !can(format))];
    if (!unable.length) return [];
    const others = (Object.keys(CAN) as OutputFormat[]).filter((format) => can(format) && !formats.includes(format)).slice(0, 2);
    const choices: Choice[] = [];
    if (able.length) choices.push({ label: `Only ${list(able)}`, effect: `keeps ${clauseWords(brief, clause)}`, change: { format: able } });
    else for (const other of others) choices.push({ label: `Use ${formatName(other)}`, effect: `can hold ${what}`, change: { format: [other] } });
    choices.push({ label: `Do without ${what}`, effect: `${list(formats)} stays`, change: { [clause]: without } });
    return [{ clauses: ["format", clause], why: `${list(unable)} cannot hold ${what}.`, wins: able.length ? `${list(able)} can.` : "The format wins unless you choose otherwise.", choices }];
  });
}
