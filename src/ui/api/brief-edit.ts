"use client";

/** Edits of the brief that a photo has. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { Brief } from "@/core/brief";
import { sayError } from "../say";
import { call } from "./call";
import { fetchAnew } from "./client";
import type { BatchView } from "./contract";

interface BriefEdit {
  /** The brief as it is when this edit's turn comes, to the one that is wanted. */
  change: (now: Brief) => Brief;
  /** What was done, for undo. */
  words: string;
  /** The photo, or the document without one, whose brief it is; null: the batch's. */
  row: string | null;
}

/** Where none is chosen yet. */
export const NO_BRIEF: Brief = { zumbrelBrief: 1, name: "A brief of your own" };

/** The brief that a row or a document has, its own or that of the batch; null where there is none yet. */
export const briefOf = (batch: BatchView, row: string | null) => {
  const own = [...batch.rows, ...batch.slots].find(({ id }) => id === row)?.revisionId;
  return batch.briefs.find(({ revisionId }) => revisionId === own) ?? batch.brief;
};

/**
 * Edits are sent one after the other, each of the revision that the one before it made: somebody who is
 * faster than the server loses nothing.
 */
export function useBriefEdit(batchId: string) {
  const client = useQueryClient();
  return useMutation({
    scope: { id: `brief ${batchId}` },
    mutationFn: ({ change, words, row }: BriefEdit) => {
      const batch = client.getQueryData<BatchView>(["batch", batchId]);
      const use = batch && briefOf(batch, row);
      const brief = change(use?.body ?? NO_BRIEF);
      return call("PUT", `batches/${batchId}/brief`, { brief, words, of: use?.revisionId ?? null });
    },
    onError: (error) => sayError(error.message),
    onSettled: () => fetchAnew(client),
  });
}
