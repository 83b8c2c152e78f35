"use client";

/** What no machine can check, to be ticked by a person; kept with the run. */
import { useId } from "react";
import { call, useChange } from "../api";

interface Props {
  runId: string;
  itemId: string;
  rules: readonly string[];
  ticks: Readonly<Record<string, string>>;
}

export function TickList({ runId, itemId, rules, ticks }: Props) {
  const heading = useId();
  const tick = useChange((change: { rule: string; on: boolean }) =>
    call("PUT", `runs/${runId}/ticks`, { itemId, ...change }),
  );
  if (!rules.length) return null;
  const on = (rule: string) =>
    tick.isPending && tick.variables.rule === rule ? tick.variables.on : ticks[rule] !== undefined;
  return (
    <section className="mt-3" aria-labelledby={heading}>
      <h4 id={heading} className="text-small font-semibold text-second">
        Only you can check
      </h4>
      <ul className="mt-1 space-y-1">
        {rules.map((rule) => (
          <li key={rule}>
            <label className="flex items-start gap-2">
              <input
                type="checkbox"
                className="mt-0.5 size-4 shrink-0 accent-plum"
                checked={on(rule)}
                onChange={(event) => tick.mutate({ rule, on: event.target.checked })}
              />
              <span className="[overflow-wrap:anywhere]">{rule}</span>
            </label>
          </li>
        ))}
      </ul>
    </section>
  );
}
