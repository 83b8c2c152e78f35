"use client";

/** A receiver's wording pasted right where it is needed: read while it is typed, used with one press. */
import { Popover } from "radix-ui";
import { useDeferredValue, useMemo, useState } from "react";
import type { Brief } from "@/core/brief";
import { type Reading, readWording, UNNAMED } from "@/core/brief/read";
import { findDisagreements } from "@/core/plan/disagreements";
import { call, useChange } from "../api";
import { messageOf, statedChips } from "../clauses";
import { Button } from "../parts";

interface Props {
  batchId: string;
  /** Rows that are chosen or marked. */
  chosen: string[];
}

export function PasteWording({ batchId, chosen }: Props) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const read = useDeferredValue(text);
  const { reading, error } = useMemo(() => tryRead(read), [read]);
  const use = useChange(({ brief, rows }: { brief: Brief; rows?: string[] }) =>
    call("PUT", `batches/${batchId}/brief`, {
      fresh: brief,
      words: `reading ${brief.name}`.slice(0, 300),
      rows,
    }),
  );
  const ask = useChange((briefs: Brief[]) => call("POST", `batches/${batchId}/slots`, { briefs }));
  const take = (brief: Brief, rows?: string[]) => {
    use.mutate({ brief, rows });
    // With several briefs in one wording the others may be wanted too.
    if ((reading?.briefs.length ?? 0) < 2) setOpen(false);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="press hover:underline">Paste a wording</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label="A receiver's wording"
          className="box z-40 max-h-[76vh] w-[440px] overflow-y-auto border-plum p-4"
        >
          <label>
            <span className="mb-1.5 block font-semibold">What the receiver writes</span>
            <textarea
              value={text}
              onChange={(event) => setText(event.target.value)}
              autoFocus
              rows={5}
              className="box w-full resize-y p-2"
            />
          </label>
          {error && (
            <p role="alert" className="mt-2 text-not">
              {error}
            </p>
          )}
          {reading && read.trim() !== "" && reading.briefs.length === 0 && (
            <p className="mt-2">Found no rules here.</p>
          )}
          {reading && reading.briefs.length > 1 && (
            <div className="mt-3 flex items-center gap-3 border-t border-thin pt-2.5">
              <p className="min-w-0 flex-1">{reading.briefs.length} documents, each with rules of its own.</p>
              <Button
                className="border-plum"
                disabled={ask.isPending}
                onClick={() => {
                  ask.mutate(reading.briefs);
                  setOpen(false);
                }}
              >
                {reading.briefs.length === 2 ? "Prepare both" : `Prepare all ${reading.briefs.length}`}
              </Button>
            </div>
          )}
          {reading?.briefs.map((brief) => (
            <FoundBrief
              key={`${brief.name} ${brief.read?.[0]?.start}`}
              brief={brief}
              rows={chosen}
              onTake={take}
            />
          ))}
          {(reading?.unread.length ?? 0) > 0 && (
            <p className="mt-3 text-small text-second">
              Not understood:{" "}
              {reading!.unread
                .slice(0, 4)
                .map((part) => `“${part.text.replace(/\s+/g, " ").slice(0, 60)}”`)
                .join(", ")}
              {reading!.unread.length > 4 ? ` and ${reading!.unread.length - 4} more` : ""}
            </p>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function tryRead(text: string): { reading: Reading | null; error: string | null } {
  try {
    return { reading: readWording(text), error: null };
  } catch (error) {
    return { reading: null, error: messageOf(error) };
  }
}

function FoundBrief({
  brief,
  rows,
  onTake,
}: {
  brief: Brief;
  rows: string[];
  onTake: (brief: Brief, rows?: string[]) => void;
}) {
  const clashes = findDisagreements(brief).length;
  const photos = rows.length === 1 ? "this photo" : `these ${rows.length} photos`;
  return (
    <section aria-label={brief.name} className="mt-3 border-t border-thin pt-2.5">
      {brief.name !== UNNAMED && <h3 className="font-semibold">{brief.name}</h3>}
      <p className="mt-1 flex flex-wrap gap-x-3 gap-y-0.5">
        {statedChips(brief).map((chip) => (
          <span key={chip.key}>
            <span className="text-small text-second">{chip.title}</span>{" "}
            <b className="figures">{chip.words(brief)}</b>
          </span>
        ))}
      </p>
      {clashes > 0 && (
        <p className="mt-1 text-small text-needs">
          {clashes === 1
            ? "Its clauses contradict each other in one place."
            : `Its clauses contradict each other in ${clashes} places.`}
        </p>
      )}
      <div className="mt-2 flex gap-2">
        <Button onClick={() => onTake(brief)}>Use for the batch</Button>
        {rows.length > 0 && <Button onClick={() => onTake(brief, rows)}>Use for {photos}</Button>}
      </div>
    </section>
  );
}
