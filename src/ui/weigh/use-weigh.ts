"use client";

/** The comparison of one assignment: asked for while the page is open, given up when it is left. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import type { Choice } from "@/core/coding";
import type { TrialView, WeighView } from "../api";
import { call } from "../api";
import { sayError } from "../say";
import { onPhoto, pictureKey } from "./panes";
import { Tiles } from "./tiles";

/** A page that does not ask for so long counts as gone; well within the server's patience. */
const HERE_MS = 8000;

/** `rowId`: while another assignment of the same photo is planned, what is there of the one before stays. */
export function useWeigh(assignmentId: string | null, rowId: string) {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: ["weigh", assignmentId],
    queryFn: () => call<WeighView>("GET", `weigh/${assignmentId}`),
    enabled: assignmentId !== null,
    refetchInterval: HERE_MS,
    refetchIntervalInBackground: true,
  });
  const last = useRef<{ rowId: string; view: WeighView } | null>(null);
  const fresh = query.data && query.data.ladder !== null ? query.data : null;
  if (fresh) last.current = { rowId, view: fresh };
  const view = fresh ?? (last.current?.rowId === rowId ? last.current.view : (query.data ?? null));

  useEffect(() => {
    if (!assignmentId) return;
    const leave = () =>
      void fetch(`/api/weigh/${assignmentId}`, { method: "DELETE", keepalive: true }).catch(() => undefined);
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      leave();
      client.removeQueries({ queryKey: ["weigh", assignmentId] });
    };
  }, [assignmentId, client]);

  const shownId = view?.id ?? null;
  const tiles = useMemo(() => (shownId ? new Tiles(shownId) : null), [shownId]);
  useEffect(() => () => tiles?.close(), [tiles]);

  /** Asks for a trial where there is none yet. */
  const ask = useCallback(
    async (choice: Choice) => {
      if (!view || view.trials.some((trial) => trial.kept && trial.key === pictureKey(choice, view))) return;
      try {
        const { trial } = await call<{ trial: TrialView | null }>("POST", `weigh/${view.id}/trials`, {
          choice: onPhoto(choice, view),
        });
        // Shown at once; the server's events tell the rest a little later.
        if (trial)
          client.setQueryData<WeighView>(
            ["weigh", view.id],
            (old) =>
              old && {
                ...old,
                trials: [...old.trials.filter(({ key }) => key !== trial.key), trial].sort(
                  (one, two) => one.bytes - two.bytes,
                ),
              },
          );
      } catch (error) {
        sayError(error instanceof Error ? error.message : String(error));
      }
    },
    [view, client],
  );
  return { view, error: query.error, tiles, ask };
}

/** Whether any picture here has light above white. */
export function useBright(tiles: Tiles | null): boolean {
  const subscribe = useCallback(
    (listener: () => void) => tiles?.subscribe(listener) ?? (() => undefined),
    [tiles],
  );
  return useSyncExternalStore(
    subscribe,
    () => tiles?.bright ?? false,
    () => false,
  );
}

/** Grows whenever squares have come; those of one frame count once. */
export function useTicks(tiles: Tiles): number {
  const [ticks, setTicks] = useState(0);
  useEffect(() => {
    let frame = 0;
    const drawn = () => {
      frame = 0;
      setTicks((n) => n + 1);
    };
    const unsubscribe = tiles.subscribe(() => (frame ||= requestAnimationFrame(drawn)));
    return () => {
      cancelAnimationFrame(frame);
      unsubscribe();
    };
  }, [tiles]);
  return ticks;
}
