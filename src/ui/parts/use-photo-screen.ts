"use client";

/**
 * What the screens that work on one photo of a batch share: the batch and the photo of the address, undo,
 * and the way back.
 */
import { useRouter } from "next/navigation";
import { useCallback, useEffect, useMemo, useRef } from "react";
import type { Direction, RowView } from "../api";
import { useBatch, useEvents, useStepEdit } from "../api";
import { useAddress } from "./address";
import { useStepKeys } from "./step-keys";

/** `fits`: which photos of the batch the screen can work on. */
export function usePhotoScreen(fits: (row: RowView) => boolean) {
  useEvents();
  const [address, setAddress] = useAddress();
  // What was still being saved when somebody left does not bring them back.
  const leaving = useRef(false);
  const choose = useCallback(
    (...to: Parameters<typeof setAddress>) => {
      if (!leaving.current) setAddress(...to);
    },
    [setAddress],
  );
  const { data: batch, error } = useBatch(address?.batch ?? null);
  const step = useStepEdit(address?.batch ?? null);
  useStepKeys(batch ? step.mutate : null);
  const router = useRouter();
  const back = useCallback(() => {
    leaving.current = true;
    router.push(address?.batch ? `/?batch=${address.batch}` : "/");
  }, [router, address]);
  useEffect(() => {
    const key = (event: KeyboardEvent) => event.key === "Escape" && !event.defaultPrevented && back();
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, [back]);
  const rows = useMemo(() => (batch?.rows ?? []).filter(fits), [batch, fits]);
  const at = Math.max(
    0,
    rows.findIndex((row) => row.id === address?.row),
  );
  return {
    batch,
    rows,
    at,
    row: rows[at] ?? null,
    choose,
    back,
    undo: {
      undo: batch?.undo?.words ?? null,
      redo: batch?.redo?.words ?? null,
      onStep: (direction: Direction) => step.mutate(direction),
    },
    /** Why there is nothing yet, or nothing at all. */
    missing: (words: string) =>
      error ? error.message : address && (!address.batch || batch) ? words : "Fetching the photo.",
  };
}
