"use client";

/** A pasted wording, read while it is typed. The reader is the heaviest part of the Desk: it is loaded when a wording is pasted. */
import { useDeferredValue, useMemo } from "react";
import type { Brief } from "@/core/brief";
import { type Reading, readWording, UNNAMED } from "@/core/brief/read";
import { findDisagreements } from "@/core/plan/disagreements";
import type { BatchView } from "../api";
import { call, useChange } from "../api";
import { messageOf, statedChips } from "../clauses";
import { Button } from "../parts";
import { RefusalPanel, refusalsIn } from "../refusal";

export interface Pasted {
  text: string;
  /** The text that was said to be rules although it looks like a refusal. */
  asRules: string;
}

interface Props extends Pasted {
  batch: BatchView;
  /** Rows that are chosen or marked. */
  chosen: string[];
  /** The row, or the document without a photo, whose brief is shown. */
  subject: string | null;
  onChange: (pasted: Partial<Pasted>) => void;
  onClose: () => void;
}

export function PastedWording({ batch, chosen, subject, text, asRules, onChange, onClose }: Props) {
  const batchId = batch.id;
  const read = useDeferredValue(text);
  const { reading, error } = useMemo(() => tryRead(read), [read]);
  const refusals = useMemo(() => refusalsIn(read, batch), [read, batch]);
  const refused = refusals.length > 0 && asRules !== read;
  const use = useChange(({ brief, rows }: { brief: Brief; rows?: string[] }) =>
    call("PUT", `batches/${batchId}/brief`, {
      fresh: brief,
      words: `reading ${brief.name}`.slice(0, 300),
      rows,
    }),
  );
  const ask = useChange((briefs: Brief[]) => call("POST", `batches/${batchId}/slots`, { briefs }));
  const askAll = (briefs: Brief[]) => {
    ask.mutate(briefs);
    onClose();
  };
  const take = (brief: Brief, rows?: string[]) => {
    use.mutate({ brief, rows });
    // With several briefs in one wording the others may be wanted too.
    if ((reading?.briefs.length ?? 0) < 2) onClose();
  };
  return (
    <>
      {error && (
        <p role="alert" className="mt-2 text-not">
          {error}
        </p>
      )}
      {refused ? (
        <>
          <RefusalPanel
            batch={batch}
            refusals={refusals}
            chosen={subject}
            onTaken={() => {
              onChange({ text: "" });
              onClose();
            }}
          />
          <Button kind="quiet" className="mt-2 text-small" onClick={() => onChange({ asRules: read })}>
            It is no refusal: read it as rules
          </Button>
        </>
      ) : (
        <Found reading={reading} read={read} chosen={chosen} onTake={take} onAsk={askAll} />
      )}
    </>
  );
}

interface FoundProps {
  reading: Reading | null;
  read: string;
  chosen: string[];
  onTake: (brief: Brief, rows?: string[]) => void;
  onAsk: (briefs: Brief[]) => void;
}

/** The briefs that were read, and what was not understood. */
function Found({ reading, read, chosen, onTake, onAsk }: FoundProps) {
  return (
    <>
      {reading && read.trim() !== "" && reading.briefs.length === 0 && (
        <p className="mt-2">Found no rules here.</p>
      )}
      {reading && reading.briefs.length > 1 && (
        <div className="mt-3 flex items-center gap-3 border-t border-thin pt-2.5">
          <p className="min-w-0 flex-1">{reading.briefs.length} documents, each with rules of its own.</p>
          <Button className="border-plum" onClick={() => onAsk(reading.briefs)}>
            {reading.briefs.length === 2 ? "Prepare both" : `Prepare all ${reading.briefs.length}`}
          </Button>
        </div>
      )}
      {reading?.briefs.map((brief) => (
        <FoundBrief
          key={`${brief.name} ${brief.read?.[0]?.start}`}
          brief={brief}
          rows={chosen}
          onTake={onTake}
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
    </>
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
