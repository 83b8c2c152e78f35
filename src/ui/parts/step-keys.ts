"use client";

import { useEffect } from "react";

/** Ctrl Z and Ctrl Shift Z (or the Command key), outside of fields that have an undo of their own. */
export function useStepKeys(step: ((direction: "undo" | "redo") => void) | null): void {
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement;
      if (typing || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z" || !step) return;
      event.preventDefault();
      step(event.shiftKey ? "redo" : "undo");
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, [step]);
}
