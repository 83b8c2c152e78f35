/**
 * Which pictures stand side by side. A trial is named by its choice, so that the same setting can be shown
 * of the next photo.
 */
import {
  atSide,
  type Choice,
  choiceName,
  choiceSchema,
  settingKey,
  settingOf,
  sideOf,
  trialKey,
} from "@/core/coding";
import { longSide, pixelsOf } from "@/core/geometry";
import type { Rect } from "@/core/photo";
import type { TrialView, WeighedSizeView, WeighView } from "../api";

/** Pictures that are no trials: before encoding, the photo itself, and the two ways of taking a raw file. */
const PLAIN_PANES = ["reference", "original", "developed", "camera"] as const;
export type PaneOf = (typeof PLAIN_PANES)[number] | Choice;

export const MOST_PANES = 6;
export const LEAST_PANES = 2;

/** The pixels that a choice has on this photo: the nearest of those that it can be weighed at. */
export const sizeFor = (choice: Choice, view: WeighView): WeighedSizeView =>
  nearestSize(sideOf(choice), view);

export function nearestSize(side: number | null, { sizes }: WeighView): WeighedSizeView {
  const planned = sizes.find((size) => size.side === null)!;
  if (side === null) return planned;
  const off = (size: WeighedSizeView) => Math.abs(Math.log(longSide(size) / side));
  return sizes.reduce((best, size) => (off(size) < off(best) ? size : best), planned);
}

/** The choice as it is weighed on this photo. */
export const onPhoto = (choice: Choice, view: WeighView): Choice =>
  atSide(choice, sizeFor(choice, view).side);

/** What the server calls the picture; null for one that has no pixels of its own. */
export function pictureKey(pane: PaneOf, view: WeighView): string | null {
  if (typeof pane === "string") return pane;
  const size = sizeFor(pane, view);
  const setting = settingOf(pane, pixelsOf(size));
  return setting && trialKey(settingKey(setting), size.side);
}

export const choiceOf = ({ setting, size }: TrialView): Choice => atSide(setting as Choice, size.side);

/** Where a trial is worst, in pixels of the planned picture. */
export function worstOf({ worst, size }: TrialView, { geometry }: WeighView): Rect | null {
  if (!worst || size.side === null) return worst;
  const [sx, sy] = [geometry.width / size.width, geometry.height / size.height];
  return { x: worst.x * sx, y: worst.y * sy, width: worst.width * sx, height: worst.height * sy };
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
  typeof pane === "string" ? PLAIN_NAMES[pane] : choiceName(atSide(pane, null));

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
  return ["reference", trial ? choiceOf(trial) : "original"];
}
