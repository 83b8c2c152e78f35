"use client";

/** What was handed over, the newest first: on its way, broken off, or answered. */
import { formatBytes } from "@/core/units";
import type { ReceiverView } from "../api";
import { call, useChange } from "../api";
import { Button, StateMark, when } from "../parts";

interface Props {
  view: ReceiverView;
  chosen: string | null;
  onChoose: (id: string) => void;
}

export function Arrivals({ view, chosen, onChoose }: Props) {
  const again = useChange((id: string) => call("POST", `counter/handovers/${id}`, {}));
  const open = view.handovers.filter((one) => one.state !== "answered");
  // A message that was turned away at once left nothing behind but its answer.
  const empty = view.arrivals.length === 0 && open.length === 0;
  return (
    <section aria-label="What was handed over">
      <h3 className="font-semibold">What was handed over</h3>
      {empty && (
        <p className="mt-1 text-second">
          Nothing yet. Make files on the Desk, then hand the run over from Runs
          {view.rules.kind === "form" ? ", or prepare the documents above" : ""}.
        </p>
      )}
      {open.map((one) => (
        <div
          key={one.id}
          role={one.state === "failed" ? "alert" : "status"}
          className={`mt-1.5 flex items-center gap-3 rounded-box border border-rule px-3 py-2 ${one.state === "failed" ? "bg-not-wash" : ""}`}
        >
          {one.state === "failed" ? (
            <>
              <StateMark small state="cannot" />
              <span className="min-w-0 flex-1">{one.error}</span>
              <Button disabled={again.isPending} onClick={() => again.mutate(one.id)}>
                Try again
              </Button>
            </>
          ) : (
            <span>
              {one.state === "sending" ? "On its way" : "Waiting for its run"}
              {one.tries > 1 && `, try ${one.tries}`}
            </span>
          )}
        </div>
      ))}
      <ul className="mt-1.5 space-y-1">
        {view.arrivals.map((arrival) => (
          <li key={arrival.id}>
            <button
              type="button"
              aria-current={arrival.id === chosen}
              onClick={() => onChoose(arrival.id)}
              className={`grid w-full grid-cols-[18px_minmax(0,1fr)_auto] items-center gap-2 rounded-box border px-3 py-1.5 text-left ${arrival.id === chosen ? "border-plum bg-wash" : "border-thin hover:bg-wash"}`}
            >
              <StateMark small state={arrival.answer.accepted ? "meets" : "cannot"} />
              <span className="truncate">{arrival.answer.words}</span>
              <span className="figures text-small text-second">
                {arrival.files.length} {arrival.files.length === 1 ? "file" : "files"},{" "}
                {formatBytes(
                  arrival.message?.bytes ?? arrival.files.reduce((sum, file) => sum + file.bytes, 0),
                )}{" "}
                · {when(arrival.at)}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
