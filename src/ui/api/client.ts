"use client";

/** Queries on the server; what changes there comes back as events. */
import {
  keepPreviousData,
  type QueryClient,
  useMutation,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useEffect } from "react";
import { sayError } from "../say";
import { fetchBatch } from "./batch-news";
import { call } from "./call";
import type {
  BatchView,
  CounterView,
  DeskView,
  ReceiverView,
  RunDetail,
  RunView,
  ShelfBrief,
  StorageView,
} from "./contract";
import type { WatchesView } from "./watch-contract";

export const useDesk = () => useQuery({ queryKey: ["desk"], queryFn: () => call<DeskView>("GET", "desk") });

export const useBatch = (id: string | null) =>
  useQuery({
    queryKey: ["batch", id],
    queryFn: (): Promise<BatchView> => fetchBatch(id!),
    enabled: id !== null,
    placeholderData: keepPreviousData,
  });

export const useRuns = () =>
  useQuery({ queryKey: ["runs"], queryFn: () => call<{ runs: RunView[] }>("GET", "runs") });

export const useRun = (id: string | null) =>
  useQuery({
    queryKey: ["runs", id],
    queryFn: () => call<RunDetail>("GET", `runs/${id}`),
    enabled: id !== null,
    placeholderData: keepPreviousData,
  });

export const useStorage = (enabled: boolean) =>
  useQuery({ queryKey: ["storage"], queryFn: () => call<StorageView>("GET", "storage"), enabled });

const WATCHES_MS = 2000;
/** Nothing announces what becomes of watched folders: they are asked for while they are looked at. */
export const useWatches = (looked: boolean) =>
  useQuery({
    queryKey: ["watches"],
    queryFn: () => call<WatchesView>("GET", "watches"),
    refetchInterval: looked ? WATCHES_MS : false,
  });

export const useShelf = () =>
  useQuery({ queryKey: ["shelf"], queryFn: () => call<{ briefs: ShelfBrief[] }>("GET", "briefs") });

export const useCounter = () =>
  useQuery({ queryKey: ["counter"], queryFn: () => call<CounterView>("GET", "counter") });

export const useReceiver = (id: string | null) =>
  useQuery({
    queryKey: ["counter", id],
    queryFn: () => call<ReceiverView>("GET", `counter/${id}`),
    enabled: id !== null,
    placeholderData: keepPreviousData,
  });

/**
 * Fetches anew what is shown. A first fetch that is still under way may have begun before the change that is meant:
 * the cache would join it, so that it is fetched once more when it is there.
 */
export async function fetchAnew(
  client: QueryClient,
  filters: { queryKey?: readonly unknown[] } = {},
): Promise<void> {
  const begun = client
    .getQueryCache()
    .findAll(filters)
    .filter(({ state }) => state.fetchStatus === "fetching" && state.data === undefined);
  await client.invalidateQueries(filters);
  await Promise.all(begun.map(({ queryKey }) => client.invalidateQueries({ queryKey, exact: true })));
}

/** A change on the server; failures are said, and what is shown is fetched anew. */
export function useChange<V>(change: (value: V) => Promise<unknown>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onError: (error) => sayError(error.message),
    onSettled: () => fetchAnew(client),
  });
}

const SOON_MS = 250;
/** Waits so many times as long as the last fetch took. */
const PEACE = 4;

/**
 * Keeps the queries fresh from the server's events: at most four times a second, and never before the last
 * answer is there.
 */
export function useEvents(): void {
  const client = useQueryClient();
  useEffect(() => {
    const source = new EventSource("/api/events");
    let stale = new Set<string>();
    let timer: ReturnType<typeof setTimeout> | null = null;
    let closed = false;
    const refresh = async () => {
      const ids = stale;
      stale = new Set();
      const keys = ids.has("") ? [["batch"]] : [...ids].map((id) => ["batch", id]);
      const start = performance.now();
      await Promise.all(
        [["desk"], ["weigh"], ["runs"], ["counter"], ...keys].map((queryKey) =>
          fetchAnew(client, { queryKey }),
        ),
      );
      // A batch of thousands takes longer to fetch: the more so, the longer it is left in peace.
      pause = Math.max(SOON_MS, (performance.now() - start) * PEACE);
      timer = null;
      if (stale.size) later();
    };
    let pause = SOON_MS;
    const later = () => {
      if (!closed) timer ??= setTimeout(() => void refresh(), pause);
    };
    source.onmessage = (event: MessageEvent<string>) => {
      const { batchId } = JSON.parse(event.data) as { batchId?: string | null };
      stale.add(batchId ?? "");
      later();
    };
    source.onopen = () => {
      stale.add("");
      later();
    };
    return () => {
      closed = true;
      source.close();
      if (timer) clearTimeout(timer);
    };
  }, [client]);
}
