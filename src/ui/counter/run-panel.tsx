"use client";

/** A run that is to be handed to the chosen receiver; for a form with the document that each file is. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { ReceiverView } from "../api";
import { call, useChange, useRun } from "../api";
import { Button } from "../parts";

interface Props {
  view: ReceiverView;
  runId: string;
  onDone: () => void;
}

export function RunPanel({ view, runId, onDone }: Props) {
  const run = useRun(runId);
  const form = view.rules.kind === "form" ? view.rules : null;
  const match = useQuery({
    queryKey: ["counter", view.id, "run", runId],
    queryFn: () =>
      call<{ files: { itemId: string; name: string }[]; slots: Record<string, string> }>(
        "GET",
        `counter/${view.id}/run?run=${runId}`,
      ),
    enabled: form !== null,
  });
  const [own, setOwn] = useState<Record<string, string>>({});
  const slots = { ...match.data?.slots, ...own };
  const handOver = useChange(async () => {
    const given = Object.fromEntries(Object.entries(slots).filter(([, item]) => item !== ""));
    await call("POST", `counter/${view.id}/handover`, { runId, ...(form && { slots: given }) });
    onDone();
  });
  const made = run.data?.items.filter((item) => item.state === "done").length ?? 0;
  if (run.error) return <p className="text-not">{run.error.message}</p>;
  return (
    <section aria-label="Files to hand over" className="rounded-box border border-plum bg-wash px-4 py-3">
      <div className="flex flex-wrap items-center gap-3">
        <p className="[overflow-wrap:anywhere]">
          <b>{run.data?.title.split(" · ")[0]}</b>, {made} {made === 1 ? "file" : "files"} of a run
        </p>
        <Button
          className="ml-auto border-plum"
          disabled={handOver.isPending || made === 0 || (form !== null && !match.data)}
          onClick={() => handOver.mutate(undefined)}
        >
          Hand over
        </Button>
        <Button kind="quiet" onClick={onDone}>
          Not now
        </Button>
      </div>
      {form && match.data && (
        <ul className="mt-2 space-y-1">
          {form.slots.map((slot) => (
            <li key={slot.key}>
              <label className="flex items-center gap-2">
                <span className="w-36 shrink-0">{slot.title}</span>
                <select
                  className="box h-7 min-w-48 px-1.5"
                  value={slots[slot.key] ?? ""}
                  onChange={(event) => setOwn({ ...own, [slot.key]: event.target.value })}
                >
                  <option value="">no file</option>
                  {match.data.files.map((file) => (
                    <option key={file.itemId} value={file.itemId}>
                      {file.name}
                    </option>
                  ))}
                </select>
              </label>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
