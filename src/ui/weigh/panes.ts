/**
 * Which pictures stand side by side. A trial is named by its choice, so that the same setting can be shown
 * of the next photo.
 */
import { type Choice, choiceName, choiceSchema, settingKey, settingOf } from "@/core/coding";
import type { TrialView, WeighView } from "../api";

/** Pictures that are no trials: before encoding, the photo itself, and the two ways of taking a raw file. */
const PLAIN_PANES = ["reference", "original", "developed", "camera"] as const;
export type PaneOf = (typeof PLAIN_PANES)[number] | Choice;

export const MOST_PANES = 6;
export const LEAST_PANES = 2;

export const pixelsOf = ({ geometry }: WeighView): number => geometry.width * geometry.height;

/** What the server calls the picture; null for one that has no pixels of its own. */
export function pictureKey(pane: PaneOf, view: WeighView): string | null {
  if (typeof pane === "string") return pane;
  const setting = settingOf(pane, pixelsOf(view));
  return setting && settingKey(setting);
}

export const trialOf = (pane: PaneOf, view: WeighView): TrialView | null => {
  const key = typeof pane === "string" ? null : pictureKey(pane, view);
  return view.trials.find((trial) => trial.key === key) ?? null;
};

const PLAIN_NAMES: Record<(typeof PLAIN_PANES)[number], string> = {
  reference: "Before encoding",
  original: "The photo itself",
  developed: "Developed here",
  camera: "The camera's own picture",
};

export const paneName = (pane: PaneOf): string =>
  typeof pane === "string" ? PLAIN_NAMES[pane] : choiceName(pane);

export const samePane = (a: PaneOf, b: PaneOf): boolean => JSON.stringify(a) === JSON.stringify(b);

/** A pane's name in the address and back; null for what is not understood. */
export const writePanes = (panes: readonly PaneOf[]): string => JSON.stringify(panes);
export function readPanes(text: string | null): PaneOf[] | null {
  try {
    const value: unknown = JSON.parse(text ?? "null");
    if (!Array.isArray(value)) return null;
    const panes = value
      .slice(0, MOST_PANES)
      .map((pane): PaneOf => PLAIN_PANES.find((plain) => plain === pane) ?? choiceSchema.parse(pane));
    return panes.length >= LEAST_PANES ? panes : null;
  } catch {
    return null;
  }
}

/**
 * The panes to begin with: before encoding, and the trial that the plan takes; else the first that is there.
 */
export function firstPanes(view: WeighView): PaneOf[] {
  if (view.ways.length > 1) return view.ways.map(({ way }) => way);
  const trial =
    view.trials.find(({ key }) => key === view.chosen) ??
    view.trials.find(({ setting, difference }) => setting.format === view.formats[0] && difference !== null);
  return ["reference", trial ? (trial.setting as Choice) : "original"];
}
