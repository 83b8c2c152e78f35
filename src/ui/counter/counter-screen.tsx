"use client";

/** Counter: the simulated receivers. What they ask, what was handed to them, and what they answered. */
import { useCallback, useEffect, useState } from "react";
import type { CounterView } from "../api";
import { useCounter, useEvents, useReceiver } from "../api";
import { Header } from "../parts";
import { ArrivalPane } from "./arrival-pane";
import { Arrivals } from "./arrivals";
import { Notice } from "./notice";
import { PackagePanel } from "./package-panel";
import { RunPanel } from "./run-panel";
import { KINDS, ruleWords } from "./words";

/** The chosen receiver, and the run that is to be handed over, stand in the address. */
function useAddress(receivers: CounterView["receivers"] | null) {
  const [asked, setAsked] = useState<{ receiver: string | null; run: string | null }>({
    receiver: null,
    run: null,
  });
  useEffect(() => {
    const query = new URLSearchParams(window.location.search);
    setAsked({ receiver: query.get("receiver"), run: query.get("run") });
  }, []);
  const go = useCallback((receiver: string, run: string | null) => {
    setAsked({ receiver, run });
    window.history.replaceState(null, "", `?receiver=${receiver}${run ? `&run=${run}` : ""}`);
  }, []);
  return {
    receiver: receivers?.find((one) => one.id === asked.receiver)?.id ?? receivers?.[0]?.id ?? null,
    run: asked.run,
    go,
  };
}

export function CounterScreen() {
  useEvents();
  const counter = useCounter();
  const { receiver, run, go } = useAddress(counter.data?.receivers ?? null);
  const { data, error } = useReceiver(receiver);
  const [chosen, setChosen] = useState<string | null>(null);
  const view = data?.id === receiver ? data : null;
  const arrival = view ? (view.arrivals.find((one) => one.id === chosen) ?? view.arrivals[0] ?? null) : null;
  const going =
    view?.handovers.filter((one) => one.state === "waiting" || one.state === "sending").length ?? 0;
  return (
    <div className="grid h-screen grid-rows-[46px_1fr] overflow-hidden">
      <Header undo={null} redo={null} status={going ? "Handing over" : "Nothing on its way"} />
      <div className="grid min-h-0 grid-cols-[216px_minmax(0,1fr)_324px] max-[1150px]:grid-cols-[176px_minmax(0,1fr)_268px]">
        <aside
          aria-label="Receivers"
          className="flex min-h-0 flex-col overflow-y-auto border-r border-rule bg-rail"
        >
          <h2 className="px-[18px] pt-3.5 pb-1 text-small font-semibold text-second">At the counter</h2>
          <ul className="px-3">
            {(counter.error ?? error) && (
              <li className="p-2 text-not">{(counter.error ?? error)!.message}</li>
            )}
            {counter.data?.receivers.map(({ id, rules }) => (
              <li key={id}>
                <button
                  type="button"
                  aria-current={id === receiver}
                  onClick={() => go(id, run)}
                  className={`mb-1 w-full rounded-box border px-2.5 py-2 text-left ${id === receiver ? "border-rule bg-sheet" : "border-transparent hover:bg-thin"}`}
                >
                  <span className="block text-small text-second">{KINDS[rules.kind]}</span>
                  <span className="block font-semibold [overflow-wrap:anywhere]">{rules.name}</span>
                  <span className="figures block text-small text-second">{ruleWords(rules)}</span>
                </button>
              </li>
            ))}
          </ul>
          <p className="mt-auto p-[18px] text-small text-second">
            These receivers are made up, to try files before they count. Nothing leaves this machine.
          </p>
        </aside>
        <main className="min-h-0 min-w-0 overflow-y-auto">
          {view && (
            <div key={view.id} className="mx-auto max-w-[860px] space-y-5 px-[22px] py-4">
              <Notice view={view} smtpPort={counter.data?.smtpPort ?? null} />
              {run && <RunPanel key={run} view={view} runId={run} onDone={() => go(view.id, null)} />}
              {view.rules.kind === "form" && !run && <PackagePanel view={view} rules={view.rules} />}
              <Arrivals view={view} chosen={arrival?.id ?? null} onChoose={setChosen} />
            </div>
          )}
        </main>
        {view && arrival ? (
          <ArrivalPane key={arrival.id} arrival={arrival} rules={view.rules} />
        ) : (
          <aside aria-label="Answer" className="border-l border-rule">
            <div className="h-[228px] bg-ground" />
            <p className="px-4 py-3 text-second">
              What the receiver answers will stand here, with its reasons.
            </p>
          </aside>
        )}
      </div>
    </div>
  );
}
