"use client";

/**
 * Hands a run to one of the receivers at the counter with one press; where a form's documents are not clear,
 * the Counter asks.
 */
import { useRouter } from "next/navigation";
import { DropdownMenu } from "radix-ui";
import { call, ServerError, useChange, useCounter } from "../api";
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
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        disabled={hand.isPending}
        className="box press h-11 px-4 whitespace-nowrap hover:bg-wash"
      >
        Hand over to
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          side="top"
          sideOffset={6}
          className="box z-40 max-h-80 max-w-sm overflow-y-auto p-1"
        >
          <DropdownMenu.Label className="px-3 py-1 text-small text-second">
            A receiver at the counter
          </DropdownMenu.Label>
          {counter.data?.receivers.map(({ id, rules }) => (
            <DropdownMenu.Item
              key={id}
              onSelect={() => hand.mutate(id)}
              className="rounded px-3 py-1.5 data-[highlighted]:bg-wash data-[highlighted]:outline-none"
            >
              {rules.name} <span className="text-small text-second">{KINDS[rules.kind]}</span>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
