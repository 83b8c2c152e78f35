"use client";

/** The brief's clauses as chips that open in place. */
import { DropdownMenu, Popover } from "radix-ui";
import { useState } from "react";
import { resolveBrief, type Brief } from "@/core/brief";
import { call, useChange } from "../api/client";
import type { BatchView, DeskView } from "../api/contract";
import { ChipForm } from "./chip-forms";
import { CHIPS, otherClauses, withClauses, type Chip } from "./chips";

interface Props {
  batch: BatchView;
  briefs: DeskView["briefs"];
}

interface BriefEdit {
  brief: Brief;
  words: string;
}

const EMPTY: Brief = { zumbrelBrief: 1, name: "A brief of your own" };

export function BriefStrip({ batch, briefs }: Props) {
  const edit = useChange((change: BriefEdit) => call("PUT", `batches/${batch.id}/brief`, change));
  const choose = useChange((revisionId: string) => call("PUT", `batches/${batch.id}/brief`, { revisionId }));
  // What was just said is shown at once, not when the server has answered: chips that move later are missed by the pointer.
  const brief = edit.isPending ? edit.variables.brief : (batch.brief?.body ?? EMPTY);
  // What is said comes first, what can be added after it.
  const chips = [...CHIPS.filter((chip) => chip.words(brief) !== null), ...CHIPS.filter((chip) => chip.words(brief) === null)];
  const others = otherClauses(brief);
  const note = batch.brief ? (batch.brief.refusal ?? resolveBrief(brief).fileSize.note) : null;
  const save = (chip: Chip, clauses: Partial<Brief> | null) => {
    edit.mutate({ brief: withClauses(brief, chip, clauses ?? {}), words: clauses ? `changing ${chip.title.toLowerCase()}` : `removing ${chip.title.toLowerCase()}` });
  };
  return (
    <section aria-label="Brief" className="border-b border-rule px-[18px] pt-3 pb-3">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-[16px] font-bold [overflow-wrap:anywhere]">{brief.name}</h2>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="press hover:underline">{batch.brief ? "Another brief" : "Choose a brief"}</DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="start" sideOffset={4} className="box z-40 max-h-80 max-w-sm overflow-y-auto p-1">
              {briefs.map((item) => (
                <DropdownMenu.Item key={item.revisionId} onSelect={() => choose.mutate(item.revisionId)} className="rounded px-3 py-1.5 data-[highlighted]:bg-wash data-[highlighted]:outline-none">
                  {item.name}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        {brief.from && <span className="text-small text-second">from {brief.from}</span>}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {chips.map((chip) => (
          <ChipButton key={chip.key} chip={chip} brief={brief} onSave={(clauses) => save(chip, clauses)} />
        ))}
        {others.length > 0 && <span className="figures text-small text-second">{others.join(" · ")}</span>}
      </div>
      {note && (
        <p role="note" className="mt-2.5 border-l-[3px] border-needs bg-needs-wash px-3 py-1.5">
          {batch.brief?.refusal ? `This brief has clauses that are ${note}. Choose another brief or remove them.` : note}
        </p>
      )}
    </section>
  );
}

interface ChipProps {
  chip: Chip;
  brief: Brief;
  onSave: (clauses: Partial<Brief> | null) => void;
}

function ChipButton({ chip, brief, onSave }: ChipProps) {
  const [open, setOpen] = useState(false);
  const words = chip.words(brief);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      {words === null ? (
        <Popover.Trigger className="press rounded-box border border-dashed border-[#9a9a98] px-2.5 py-1 hover:bg-wash data-[state=open]:border-plum">Add {chip.title.toLowerCase()}</Popover.Trigger>
      ) : (
        <Popover.Trigger className="box px-2.5 py-1 hover:bg-wash data-[state=open]:border-plum">
          <span className="mr-1 text-small text-second">{chip.title}</span> <span className="figures font-semibold">{words}</span>
        </Popover.Trigger>
      )}
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={6} aria-label={`${chip.title} of the brief`} className="box z-40 w-[330px] border-plum p-4">
          <ChipForm
            chip={chip}
            brief={brief}
            onSave={(clauses) => {
              setOpen(false);
              onSave(clauses);
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
