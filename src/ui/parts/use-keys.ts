"use client";

import { useEffect, useRef } from "react";

/** Fields and layers that have keys of their own. */
const OWN_KEYS = "input, textarea, select, [role=dialog], [role=menu]";

/**
 * Keys of a whole screen, by the sign that they give whatever the layout: `act` answers whether it took one.
 * What is typed into fields, and keys with Ctrl, Alt or Command, are left alone.
 */
export function useKeys(act: (event: KeyboardEvent) => boolean): void {
  const latest = useRef(act);
  latest.current = act;
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      const { target } = event;
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
      if (target instanceof HTMLElement && target.closest(OWN_KEYS)) return;
      if (latest.current(event)) event.preventDefault();
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, []);
}
