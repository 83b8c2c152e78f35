/** Clauses that a file type has no room for. */
import {
  type Brief,
  CAN,
  type ClauseKey,
  clauseWords,
  formatName,
  holdsFrames,
  type OutputFormat,
  resolveBrief,
} from "../../brief";
import type { Choice, Disagreement } from "./types";

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
  const less = (key: "bits" | "space" | "light" | "profile"): Brief["colour"] | null => {
    const { [key]: _, ...rest } = colour!;
    return Object.keys(rest).length ? rest : null;
  };
  if (colour?.bits !== undefined)
    out.push({
      clause: "colour",
      what: `${colour.bits} bits a channel`,
      without: less("bits"),
      can: (f) => CAN[f].bits.includes(colour.bits!),
    });
  if (colour?.space === "cmyk")
    out.push({ clause: "colour", what: "CMYK", without: less("space"), can: (f) => CAN[f].cmyk });
  if (colour?.space === "gray")
    out.push({ clause: "colour", what: "grey alone", without: less("space"), can: (f) => CAN[f].grey });
  if (colour?.space === "display-p3" || colour?.space === "bt2020")
    out.push({
      clause: "colour",
      what: "a wide colour space",
      without: less("space"),
      can: (f) => CAN[f].wide,
    });
  if (colour?.profile === "embed")
    out.push({
      clause: "colour",
      what: "a colour profile",
      without: less("profile"),
      can: (f) => CAN[f].wide,
    });
  if (colour?.light === "hdr")
    out.push({
      clause: "colour",
      what: "light above white",
      without: less("light"),
      can: (f) => CAN[f].hdr || CAN[f].lightMap,
    });
  if (brief.resolution)
    out.push({ clause: "resolution", what: "a resolution", without: null, can: (f) => CAN[f].resolution });
  else if (brief.paper)
    out.push({ clause: "paper", what: "a size on paper", without: null, can: (f) => CAN[f].resolution });
  if (brief.layers === "keep")
    out.push({ clause: "layers", what: "layers", without: null, can: (f) => CAN[f].layers });
  if (brief.frames === "keep")
    out.push({
      clause: "frames",
      what: "an animation",
      without: null,
      can: (f) => holdsFrames(resolveBrief(brief), f),
    });
  return out;
}

const list = (formats: readonly OutputFormat[]) => formats.map(formatName).join(" or ");

export function formatDisagreements(brief: Brief): Disagreement[] {
  const formats = brief.format;
  if (!formats) return [];
  return needs(brief).flatMap(({ clause, what, without, can }) => {
    const [able, unable] = [formats.filter(can), formats.filter((format) => !can(format))];
    if (!unable.length) return [];
    const others = (Object.keys(CAN) as OutputFormat[])
      .filter((format) => can(format) && !formats.includes(format))
      .slice(0, 2);
    const choices: Choice[] = [];
    if (able.length)
      choices.push({
        label: `Only ${list(able)}`,
        effect: clause === "frames" ? "animations stay ones" : `keeps ${clauseWords(brief, clause)}`,
        change: { format: able },
      });
    else
      for (const other of others)
        choices.push({
          label: `Use ${formatName(other)}`,
          effect: `can hold ${what}`,
          change: { format: [other] },
        });
    choices.push({
      label: `Do without ${what}`,
      effect: `${list(formats)} stays`,
      change: { [clause]: without },
    });
    return [
      {
        clauses: ["format", clause],
        why: `${list(unable)} cannot hold ${what}.`,
        wins: able.length ? `${list(able)} can.` : "The format wins unless you choose otherwise.",
        choices,
      },
    ];
  });
}
