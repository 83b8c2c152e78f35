"use client";

/** Undo and redo of a batch's edits: each names the edit that it means. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { sayError } from "../say";
import { call } from "./call";
import { fetchAnew } from "./client";
import type { BatchView, Stepped } from "./contract";

export type Direction = "undo" | "redo";

/** An edit made here a moment ago is waited for: it is the one that is meant. */
const LOOK_MS = 25;
const MOST_LOOKS = 120;

export function useStepEdit(batchId: string | null) {
  const client = useQueryClient();
  const scope = `step ${batchId}`;
  return useMutation({
    scope: { id: scope },
    mutationFn: async (direction: Direction): Promise<Stepped | null> => {
      const queryKey = ["batch", batchId];
      // Steps that wait for this one are under way too, as the library counts.
      const edits = () => client.isMutating({ predicate: ({ options }) => options.scope?.id !== scope });
      const busy = () => edits() > 0 || client.isFetching({ queryKey, exact: true }) > 0;
      for (let n = 0; n < MOST_LOOKS && busy(); n += 1)
        await new Promise((done) => setTimeout(done, LOOK_MS));
      const label = client.getQueryData<BatchView>(queryKey)?.[direction];
      if (!label) return null;
      const stepped = await call<Stepped>("POST", `batches/${batchId}/${direction}`, { edit: label.edit });
      // The next step is that of the new label, not of the one that was shown.
      client.setQueryData<BatchView>(queryKey, (old) => old && { ...old, ...labelsOf(stepped) });
      return stepped;
    },
    onError: (error) => sayError(error.message),
    onSettled: () => void fetchAnew(client),
  });
}

const labelsOf = ({ undo, redo }: Stepped) => ({ undo, redo });
