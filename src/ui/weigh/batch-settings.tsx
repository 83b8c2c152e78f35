"use client";

/** Several settings for the whole batch: the total of each, one to take, or all of them into folders. */
import { useQuery } from "@tanstack/react-query";
import { Download, X } from "lucide-react";
import { memo, useEffect } from "react";
import { type Choice, choiceName, forAll } from "@/core/coding";
import { formatBytes, trimNumber } from "@/core/units";
import type { BatchView, ComparedView } from "../api";
import { call, useChange } from "../api";
import { Button } from "../parts";

const CLEAN: Choice = { aim: "clean" };
const same = (a: Choice, b: Choice) => JSON.stringify(forAll(a)) === JSON.stringify(forAll(b));

interface Props {
  batch: BatchView;
  /** Of the active pane; null where it shows no trial. */
  choice: Choice | null;
  onShow: (choice: Choice) => void;
}

export const BatchSettings = memo(function BatchSettings({ batch, choice, onShow }: Props) {
  const { data, refetch } = useQuery({
    queryKey: ["batch", batch.id, "comparison"],
    queryFn: () => call<{ totals: ComparedView[] }>("GET", `batches/${batch.id}/comparison`),
  });
  const totals = data?.totals ?? [];
  const choices = totals.map((total) => total.choice);
  const set = useChange((next: Choice[]) => call("PUT", `batches/${batch.id}/comparison`, { choices: next }));
  const take = useChange((taken: Choice) => call("PUT", `batches/${batch.id}/choice`, { choice: taken }));
  const make = useChange(() => call("POST", `batches/${batch.id}/comparison/run`, {}));
  const waiting = totals.some((total) => total.done < total.photos);
  useEffect(() => {
    if (!waiting) return;
    const timer = setInterval(() => void refetch(), 2000);
    return () => clearInterval(timer);
  }, [waiting, refetch]);
  if (batch.rows.length < 2) return null;
  const { run } = batch;
  const add = (next: Choice) => set.mutate([...choices, next]);
  const has = (one: Choice) => choices.some((other) => same(one, other));
  return (
    <section
      aria-label="Settings for the whole batch"
      className="max-h-[46%] shrink-0 overflow-y-auto border-t border-rule px-4 py-2.5"
    >
      <div className="flex items-baseline justify-between gap-2">
        <h3 className="font-semibold">For all {batch.rows.length} photos</h3>
        {totals.length > 0 && <span className="text-tiny text-second">a name shows it in a pane</span>}
      </div>
      {totals.length > 0 && (
        <ul className="mt-1">
          {totals.map((total) => (
            <li
              key={JSON.stringify(total.choice)}
              className="grid grid-cols-[minmax(0,1fr)_auto_auto_auto] items-center gap-2 border-b border-thin py-1"
            >
              <button
                type="button"
                disabled={"aim" in total.choice}
                onClick={() => onShow(total.choice)}
                className="min-w-0 truncate text-left enabled:hover:underline"
              >
                {choiceName(total.choice)}
                {total.elsewise > 0 && (
                  <span className="block truncate text-tiny text-needs">
                    the brief does not allow it for {total.elsewise}
                  </span>
                )}
                {total.failed > 0 && (
                  <span className="block truncate text-tiny text-not">{total.failed} cannot be made</span>
                )}
              </button>
              <span className="figures text-right text-small">
                {total.done < total.photos ? `${total.done} of ${total.photos}` : formatBytes(total.bytes)}
                {total.worst !== null && total.done === total.photos && (
                  <span className="block text-tiny text-second">at worst {trimNumber(total.worst, 2)}</span>
                )}
              </span>
              <Button disabled={take.isPending} onClick={() => take.mutate(total.choice)}>
                Take
              </Button>
              <button
                type="button"
                aria-label={`Do not compare ${choiceName(total.choice)}`}
                className="press grid size-6 place-items-center rounded hover:bg-wash"
                onClick={() => set.mutate(choices.filter((one) => one !== total.choice))}
              >
                <X size={14} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {choice && !has(choice) && (
          <Button disabled={set.isPending || choices.length >= 5} onClick={() => add(choice)}>
            Add up {choiceName(choice)}
          </Button>
        )}
        {!has(CLEAN) && (
          <Button disabled={set.isPending || choices.length >= 5} onClick={() => add(CLEAN)}>
            Add up clean
          </Button>
        )}
        {totals.length > 1 &&
          (run && !run.finished ? (
            <span
              role="status"
              className="text-small text-second"
            >{`${run.done + run.failed} of ${run.total} made`}</span>
          ) : (
            <Button disabled={waiting || make.isPending} onClick={() => make.mutate(undefined)}>
              Make all, a folder each
            </Button>
          ))}
        {run?.finished && run.folders && (
          <a
            href={`/api/runs/${run.id}/zip`}
            download
            className="box press inline-flex h-7 items-center gap-1.5 px-2.5 hover:bg-wash"
          >
            <Download size={14} aria-hidden /> {run.done} files as ZIP
          </a>
        )}
      </div>
    </section>
  );
});
