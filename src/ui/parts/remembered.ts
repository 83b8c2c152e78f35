"use client";

/** State that outlives a change of screen, in this window only. */
import { useCallback, useEffect, useState } from "react";

export function useRemembered<T>(
  key: string,
  check: (value: unknown) => T | null,
): [T | null, (next: T | null | ((old: T | null) => T | null)) => void] {
  const [value, setValue] = useState<T | null>(null);
  useEffect(() => {
    try {
      setValue(check(JSON.parse(sessionStorage.getItem(key) ?? "null")));
    } catch {
      // Nothing that could be read was there.
    }
    // The check never changes for a key.
  }, [key]);
  const set = useCallback(
    (next: T | null | ((old: T | null) => T | null)) =>
      setValue((old) => {
        const now = typeof next === "function" ? (next as (old: T | null) => T | null)(old) : next;
        try {
          if (now === null) sessionStorage.removeItem(key);
          else sessionStorage.setItem(key, JSON.stringify(now));
        } catch {
          // Full or switched off: it is only remembered for as long as this screen is open.
        }
        return now;
      }),
    [key],
  );
  return [value, set];
}
