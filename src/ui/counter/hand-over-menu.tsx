"use client";

/**
 * Hands a run to one of the receivers at the counter with one press; where a form's documents are not clear,
 * the Counter asks.
 */
import { useRouter } from "next/navigation";
import { call, ServerError, useChange, useCounter } from "../api";
import { Menu } from "../parts";
import { KINDS } from "./words";

export function HandOver({ runId }: { runId: string }) {
  const router = useRouter();
  const counter = useCounter();
  const hand = useChange(async (receiver: string) => {
    try {
      await call("POST", `counter/${receiver}/handover`, { runId });
      router.push(`/counter?receiver=${receiver}`);
    } catch (error) {
      if (!(error instanceof ServerError) || !error.message.includes("Choose them on the Counter"))
        throw error;
      router.push(`/counter?receiver=${receiver}&run=${runId}`);
    }
  });
  return (
    <Menu
      align="end"
      side="top"
      sideOffset={6}
      className="max-h-80 max-w-sm"
      trigger={
        <button
          type="button"
          disabled={hand.isPending}
          className="box press h-11 px-4 whitespace-nowrap hover:bg-wash"
        >
          Hand over to
        </button>
      }
      entries={[
        { heading: "A receiver at the counter" },
        ...(counter.data?.receivers ?? []).map(({ id, rules }) => ({
          key: id,
          words: (
            <>
              {rules.name} <span className="text-small text-second">{KINDS[rules.kind]}</span>
            </>
          ),
          onSelect: () => hand.mutate(id),
        })),
      ]}
    />
  );
}
