"use client";

import { useKeys } from "../parts";

interface Actions {
  spot: () => void;
  flicker: () => void;
  map: () => void;
  apparent: () => void;
  light: () => void;
  zoom: (direction: 1 | -1) => void;
  pan: (dx: number, dy: number) => void;
  fit: () => void;
  whole: () => void;
  add: () => void;
  close: (index: number) => void;
  choose: (index: number) => void;
  active: number;
}

/** Screen pixels that an arrow key moves the view; with shift ten times as far. */
const STEP = 24;

/** The keys of Weigh, the same that its buttons show. */
export function useWeighKeys(actions: Actions): void {
  useKeys((event) => {
    const { target } = event;
    // Space and Enter press the button that has the focus.
    if (event.key === " " && target instanceof HTMLElement && target.closest("button, a, summary"))
      return false;
    return act(actions, event);
  });
}

function act(actions: Actions, event: KeyboardEvent): boolean {
  const far = event.shiftKey ? STEP * 10 : STEP;
  const scrolls = event.target instanceof HTMLElement && event.target.closest("[role=region]");
  switch (event.key) {
    case "w":
      actions.spot();
      return true;
    case " ":
      actions.flicker();
      return true;
    case "m":
      actions.map();
      return true;
    case "t":
      actions.apparent();
      return true;
    case "l":
      actions.light();
      return true;
    case "+":
    case "=":
      actions.zoom(1);
      return true;
    case "-":
      actions.zoom(-1);
      return true;
    case "0":
      actions.fit();
      return true;
    case "h":
      actions.whole();
      return true;
    case "n":
      actions.add();
      return true;
    case "x":
      actions.close(actions.active);
      return true;
    case "ArrowLeft":
    case "ArrowRight":
    case "ArrowUp":
    case "ArrowDown":
      if (scrolls) return false;
      actions.pan(
        event.key === "ArrowLeft" ? -far : event.key === "ArrowRight" ? far : 0,
        event.key === "ArrowUp" ? -far : event.key === "ArrowDown" ? far : 0,
      );
      return true;
    default:
      if (!/^[1-6]$/.test(event.key)) return false;
      actions.choose(Number(event.key) - 1);
      return true;
  }
}
