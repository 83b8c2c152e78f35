"use client";

/** Where a batch's brief comes from: a plain purpose, or the shelf. */
import { useState } from "react";
import { STARTERS, type Starter } from "@/core/brief";
import type { BatchView, DeskView } from "../api";
import { call, useChange } from "../api";
import { late, Menu, useLate } from "../parts";

const form = late(() => import("./starter-form").then(({ StarterForm }) => StarterForm));

interface Props {
  batch: BatchView;
  briefs: DeskView["briefs"];
}

export function ChooseBrief({ batch, briefs }: Props) {
  const [purpose, setPurpose] = useState<Starter | null>(null);
  const choose = useChange((revisionId: string) => call("PUT", `batches/${batch.id}/brief`, { revisionId }));
  useLate(form);
  const StarterForm = form.get();
  if (purpose && StarterForm)
    return <StarterForm batchId={batch.id} starter={purpose} onClose={() => setPurpose(null)} />;
  const several = batch.briefs.length > 1;
  return (
    <Menu
      className="max-h-[60vh] max-w-sm"
      trigger={
        <button type="button" className="press hover:underline">
          {batch.brief ? "Another brief" : "Choose a brief"}
        </button>
      }
      entries={[
        { heading: several ? "A purpose, for every photo without a brief of its own" : "A purpose" },
        ...STARTERS.map((starter) => ({
          key: starter.id,
          words: (
            <>
              <b className="font-semibold">{starter.name}</b>{" "}
              <span className="text-small text-second">{starter.about}</span>
            </>
          ),
          onSelect: () => void form.load().then(() => setPurpose(starter)),
        })),
        briefs.length > 0 && {
          heading: several ? "From the shelf, for the same photos" : "From the shelf",
        },
        ...briefs.map((item) => ({
          key: item.revisionId,
          words: item.name,
          onSelect: () => choose.mutate(item.revisionId),
        })),
      ]}
    />
  );
}
