"use client";

/** Parts of a screen whose script is loaded when the page is idle, so that the screen itself is there sooner. */
import { useEffect } from "react";

export interface Late<T> {
  /** Null until it is loaded. */
  get(): T | null;
  load(): Promise<T>;
}

export function late<T>(fetch: () => Promise<T>): Late<T> {
  let value: T | null = null;
  let loading: Promise<T> | null = null;
  return {
    get: () => value,
    load() {
      loading ??= fetch().then((loaded) => {
        value = loaded;
        return loaded;
      });
      // What did not come is asked for again.
      loading.catch(() => {
        loading = null;
      });
      return loading;
    },
  };
}

/** Loads it as soon as nothing else is to be done. */
export function useLate(part: Late<unknown>): void {
  useEffect(() => {
    const load = () => void part.load().catch(() => undefined);
    // Not every browser says when it is idle.
    if (!("requestIdleCallback" in window)) {
      const timer = setTimeout(load, 300);
      return () => clearTimeout(timer);
    }
    const handle = requestIdleCallback(load, { timeout: 1000 });
    return () => cancelIdleCallback(handle);
  }, [part]);
}
