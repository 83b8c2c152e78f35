"use client";

/** Where a batch's brief comes from: a plain purpose, or the shelf. */
import { DropdownMenu } from "radix-ui";
import { type ReactNode, useState } from "react";
import { STARTERS, type Starter } from "@/core/brief";
import type { BatchView, DeskView } from "../api";
import { call, useChange } from "../api";
import { late, useLate } from "../parts";

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
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="press hover:underline">
        {batch.brief ? "Another brief" : "Choose a brief"}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          className="box z-40 max-h-[60vh] max-w-sm overflow-y-auto p-1"
        >
          <Heading>{several ? "A purpose, for every photo without a brief of its own" : "A purpose"}</Heading>
          {STARTERS.map((starter) => (
            // The menu has to be gone before the form takes the focus.
            <Item
              key={starter.id}
              onSelect={() => setTimeout(() => void form.load().then(() => setPurpose(starter)))}
            >
              <b className="font-semibold">{starter.name}</b>{" "}
              <span className="text-small text-second">{starter.about}</span>
            </Item>
          ))}
          {briefs.length > 0 && (
            <Heading>{several ? "From the shelf, for the same photos" : "From the shelf"}</Heading>
          )}
          {briefs.map((item) => (
            <Item key={item.revisionId} onSelect={() => choose.mutate(item.revisionId)}>
              {item.name}
            </Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const Heading = ({ children }: { children: ReactNode }) => (
  <DropdownMenu.Label className="px-3 py-1 text-small text-second">{children}</DropdownMenu.Label>
);

const Item = ({ children, onSelect }: { children: ReactNode; onSelect: () => void }) => (
  <DropdownMenu.Item
    onSelect={onSelect}
    className="rounded px-3 py-1.5 data-[highlighted]:bg-wash data-[highlighted]:outline-none"
  >
    {children}
  </DropdownMenu.Item>
);
