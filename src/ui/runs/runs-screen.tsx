"use client";

import { useCallback, useEffect, useState } from "react";
import { formatBytes } from "@/core/units";
import type { RunView } from "../api";
import { useEvents, useRun, useRuns } from "../api";
/** Runs: what was made, when and from what, with proofs; what can be taken away, made again or given up. */
import { Header, when } from "../parts";
import { RunDetails } from "./run-details";
import { Storage } from "./storage";
import { Watched } from "./watched";

interface Address {
  /** Null where it names none. */
  run: string | null;
}

/**
 * The chosen run stands in the address, so that a reload comes back to it. A list that is older than the run that the
 * address names does not count: until that run is here nothing is shown, least of all another one's files.
 */
function useChosenRun(runs: readonly RunView[] | null) {
  /** Null until the address was read, which is only right when the screen is there. */
  const [address, setAddress] = useState<Address | null>(null);
  useEffect(() => setAddress({ run: new URLSearchParams(window.location.search).get("run") }), []);
  const choose = useCallback((id: string) => {
    setAddress({ run: id });
    window.history.replaceState(null, "", `?run=${id}`);
  }, []);
  const named = useRun(address?.run ?? null);
  const id = address?.run && !named.error ? address.run : address ? (runs?.[0]?.id ?? null) : null;
  return { id, choose };
}

export function RunsScreen() {
  useEvents();
  const list = useRuns();
  const runs = list.data?.runs ?? null;
  const { id, choose } = useChosenRun(runs);
  const { data: run, error } = useRun(id);
  const going = runs?.filter((one) => !one.progress.finished).length ?? 0;
  return (
    <div className="grid h-screen grid-rows-[46px_1fr] overflow-hidden">
      <Header
        undo={null}
        redo={null}
        status={going ? `${going} ${going === 1 ? "run" : "runs"} going` : "Nothing running"}
      />
      <div className="grid min-h-0 grid-cols-[244px_minmax(0,1fr)] max-[1150px]:grid-cols-[200px_minmax(0,1fr)]">
        <aside aria-label="Runs" className="flex min-h-0 flex-col border-r border-rule bg-rail">
          <h2 className="px-[18px] pt-3.5 pb-1 text-small font-semibold text-second">
            Runs, the newest first
          </h2>
          <ul className="min-h-0 flex-1 overflow-y-auto px-3 pb-3">
            {list.error && <li className="p-2 text-not">{list.error.message}</li>}
            {runs?.map((one) => (
              <li key={one.id}>
                <button
                  type="button"
                  aria-current={one.id === id}
                  onClick={() => choose(one.id)}
                  className={`mb-1 w-full rounded-box border px-2.5 py-2 text-left ${one.id === id ? "border-rule bg-sheet" : "border-transparent hover:bg-thin"}`}
                >
                  <span className="block font-semibold [overflow-wrap:anywhere]">
                    {one.title.split(" · ")[0]}
                  </span>
                  <span className="block truncate text-small text-second">
                    {one.title.split(" · ").slice(1).join(" · ")}
                  </span>
                  <span className="figures block text-small text-second">
                    {when(one.at)} ·{" "}
                    <span className="whitespace-nowrap">
                      {one.progress.done} of {one.progress.total}
                    </span>
                    {!one.progress.finished && " so far"}
                  </span>
                  <span className="figures block text-small text-second">
                    {one.filesGone
                      ? "files given up"
                      : `${formatBytes(one.before)} → ${formatBytes(one.after)}`}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          <Watched />
          <Storage />
        </aside>
        <main className="min-h-0 min-w-0">
          {runs?.length === 0 && (
            <div className="grid h-full place-items-center">
              <p className="max-w-sm text-center text-second">
                Nothing was made yet. Bring photos in on the Desk, say what is asked, and press the button at
                the bottom right.
              </p>
            </div>
          )}
          {error && <p className="p-6 text-not">{error.message}</p>}
          {run && run.id === id && <RunDetails key={run.id} run={run} />}
        </main>
      </div>
    </div>
  );
}
