/** Which pictures stand side by side. A trial is named by its choice, so that the same setting can be shown of the next photo. */
import { choiceName, choiceSchema, settingKey, settingOf, type Choice } from "@/core/search";
import type { TrialView, WeighView } from "../api/contract";

export type PaneOf = "reference" | "original" | Choice;

export const MOST_PANES = 6;
export const LEAST_PANES = 2;

export const pixelsOf = ({ geometry }: WeighView): number => geometry.width * geometry.height;

/** What the server calls the picture; null for one that has no pixels of its own. */
export function pictureKey(pane: PaneOf, view: WeighView): string | null {
  if (pane === "reference" || pane === "original") return pane;
  const setting = settingOf(pane, pixelsOf(view));
  return setting && settingKey(setting);
}

export const trialOf = (pane: PaneOf, view: WeighView): TrialView | null => {
  const key = typeof pane === "string" ? null : pictureKey(pane, view);
  return view.trials.find((trial) => trial.key === key) ?? null;
};

export const paneName = (pane: PaneOf): string => (pane === "reference" ? "Before encoding" : pane === "original" ? "The photo itself" : choiceName(pane));

export const samePane = (a: PaneOf, b: PaneOf): boolean => JSON.stringify(a) === JSON.stringify(b);

/** A pane's name in the address and back; null for what is not understood. */
export const writePanes = (panes: readonly PaneOf[]): string => JSON.stringify(panes);
export function readPanes(text: string | null): PaneOf[] | null {
  try {
    const value: unknown = JSON.parse(text ?? "null");
    if (!Array.isArray(value)) return null;
    const panes = value.slice(0, MOST_PANES).map((pane): PaneOf => (pane === "reference" || pane === "original" ? pane : choiceSchema.parse(pane)));
    return panes.length >= LEAST_PANES ? panes : null;
  } catch {
    return null;
  }
}

/** The panes to begin with: before encoding, and the trial that the plan takes; else the first that is there. */
export function firstPanes(view: WeighView): PaneOf[] {
  const trial = view.trials.find(({ key }) => key === view.chosen) ?? view.trials.find(({ setting, difference }) => setting.format === view.formats[0] && difference !== null);
  return ["reference", trial ? (trial.setting as Choice) : "original"];
}
