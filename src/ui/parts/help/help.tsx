"use client";

/**
 * The way to the sheet with keys and words, the same on every screen; the sheet is loaded when it is opened, and stays
 * open while the screen behind it changes.
 */
import dynamic from "next/dynamic";
import { usePathname } from "next/navigation";
import { useSyncExternalStore } from "react";
import { Button } from "../button";
import { useKeys } from "../use-keys";

const HelpSheet = dynamic(async () => (await import("./sheet")).HelpSheet, { ssr: false });

let open = false;
const listeners = new Set<() => void>();

function show(next: boolean): void {
  open = next;
  for (const listener of listeners) listener();
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** The sheet itself, once for all screens. */
export function Help() {
  const path = usePathname();
  const shown = useSyncExternalStore(
    subscribe,
    () => open,
    () => false,
  );
  useKeys(({ key }) => {
    if (key !== "?") return false;
    show(true);
    return true;
  });
  return shown ? <HelpSheet path={path} onClose={() => show(false)} /> : null;
}

export function HelpButton() {
  return (
    <Button aria-label="Keys and words" aria-haspopup="dialog" onClick={() => show(true)}>
      <kbd className="figures font-semibold">?</kbd>
    </Button>
  );
}
