"use client";

import Link from "next/link";
import { useMemo, useState } from "react";
import type { Limit } from "@/core/budget";
import { base64Bytes, fileBytesWithin } from "@/core/delivery/mail";
import { formatBytes } from "@/core/units";
import type { RunDetail, RunItemView } from "../api";
import { call, useChange, useDesk } from "../api";
import { HandOver } from "../counter";
import {
  Button,
  differenceWords,
  Figure,
  Menu,
  RunGoing,
  StateMark,
  TakeAway,
  WholePanel,
  when,
} from "../parts";
import { AnswerButton } from "../refusal";
import { say } from "../say";
import { ItemPane } from "./item-pane";
import { ItemTable } from "./item-table";
import { PutInto } from "./put-into";
import { SizeChart } from "./size-chart";
/** One run: totals, what each file was and is, its proof, and what can be done with it. */
import type { Order } from "./words";

const ORDERS: readonly [Order, string][] = [
  ["largest", "Largest first"],
  ["worst", "Most visible difference first"],
  ["made", "In their order"],
];

function ordered(items: readonly RunItemView[], order: Order): RunItemView[] {
  if (order === "made") return [...items];
  const value = (item: RunItemView) => (order === "largest" ? (item.bytes ?? -1) : (item.difference ?? -1));
  // What failed is worse than any difference.
  const rank = (item: RunItemView) => (item.state === "failed" ? Infinity : value(item));
  return [...items].sort((a, b) => (rank(b) === rank(a) ? 0 : rank(b) - rank(a)));
}

/** What the limit leaves for files is what the messages have beside theirs, taken off it. */
function mailFigures({ messages, items }: RunDetail, { max, messages: allowed }: Limit) {
  const bytes = messages.reduce((sum, message) => sum + message.bytes, 0);
  const beside =
    bytes - items.reduce((sum, item) => sum + (item.state === "done" ? base64Bytes(item.bytes ?? 0) : 0), 0);
  return { limit: max * allowed, room: fileBytesWithin(max * allowed - beside), bytes };
}

export function RunDetails({ run }: { run: RunDetail }) {
  const [order, setOrder] = useState<Order>("largest");
  const [chosen, setChosen] = useState<string | null>(null);
  const items = useMemo(() => ordered(run.items, order), [run.items, order]);
  const item = items.find((one) => one.id === chosen) ?? items[0] ?? null;
  const made = run.items.filter((one) => one.state === "done");
  const worst = made.reduce<RunItemView | null>(
    (most, one) => ((one.difference ?? -1) > (most?.difference ?? -1) ? one : most),
    null,
  );
  const again = run.progress.failed + run.progress.cancelled;
  const retry = useChange(() => call("POST", `runs/${run.id}/state`, { to: "retry" }));
  const mail = run.limit?.counted === "mail" ? mailFigures(run, run.limit) : null;
  const [title, ...brief] = run.title.split(" · ");
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_300px] max-[1150px]:grid-cols-[minmax(0,1fr)_252px]">
      <section
        aria-label={title}
        className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_auto_minmax(0,1fr)_auto]"
      >
        <header className="px-[18px] pt-3 pb-2">
          <div className="flex flex-wrap items-baseline gap-x-3">
            <h2 className="text-[16px] font-bold [overflow-wrap:anywhere]">{title}</h2>
            <span className="text-small text-second">{brief.join(" · ")}</span>
            <span className="figures text-small text-second">{when(run.at)}</span>
            <Link href={`/?batch=${run.batchId}`} className="press text-small hover:underline">
              To its batch
            </Link>
            {run.progress.finished && (
              <span className="ml-auto flex gap-4 text-small">
                <AnswerButton batchId={run.batchId} photoId={item?.photoId ?? null} />
                <Again run={run} />
                <GiveUp run={run} />
              </span>
            )}
          </div>
          <div className="mt-2 flex flex-wrap items-end gap-x-7 gap-y-2">
            <Figure title="Before" value={formatBytes(run.before)} />
            <WholePanel
              label="What it comes to"
              before={run.before}
              after={run.after}
              files={made.length}
              about={false}
              mail={mail}
            >
              <Figure title="After" value={formatBytes(run.after)} />
            </WholePanel>
            <Figure title="Made" value={`${run.progress.done} of ${run.progress.total}`} />
            <Figure
              title="Largest difference"
              value={
                worst?.difference == null ? "–" : differenceWords(worst.difference, worst.differenceAbout)
              }
            />
            {run.total && (
              <span className="flex items-center gap-1.5">
                <StateMark small state={run.total.ok ? "meets" : "cannot"} />
                <Figure title={`Total, ${run.total.asked}`} value={run.total.found} />
              </span>
            )}
          </div>
        </header>
        <div className="min-w-0 overflow-hidden border-b border-rule px-[18px] pb-2">
          <SizeChart items={items} chosen={item?.id ?? null} onChoose={setChosen} />
        </div>
        <ItemTable
          items={items}
          chosen={item?.id ?? null}
          onChoose={setChosen}
          order={order}
          orders={ORDERS}
          onOrder={setOrder}
        />
        <footer
          aria-label="What to do with this run"
          className="flex min-h-[64px] items-center gap-3 border-t border-rule bg-sheet px-[18px]"
        >
          {!run.progress.finished ? (
            <div className="ml-auto">
              <RunGoing run={run.progress} />
            </div>
          ) : (
            <div className="ml-auto flex items-center gap-3">
              {again > 0 && !run.filesGone && (
                <Button disabled={retry.isPending} onClick={() => retry.mutate(undefined)}>
                  Make the {again} again that {run.progress.cancelled ? "are missing" : "failed"}
                </Button>
              )}
              {made.length > 0 && !run.filesGone && <HandOver runId={run.id} />}
              {run.outRoots.length > 0 && made.length > 0 && !run.filesGone && <PutInto run={run} />}
              {made.length > 0 && !run.filesGone && (
                <TakeAway
                  runId={run.id}
                  files={made.length}
                  itemId={made[0].id}
                  messages={mail ? run.messages.length : 0}
                  more={false}
                />
              )}
            </div>
          )}
        </footer>
      </section>
      {item ? (
        <ItemPane item={item} filesGone={run.filesGone} runId={run.id} />
      ) : (
        <aside aria-label="Chosen file" className="border-l border-rule bg-ground" />
      )}
    </div>
  );
}

/** The same photos under another brief: the batch takes it, which can be undone there. */
function Again({ run }: { run: RunDetail }) {
  const desk = useDesk();
  const use = useChange(async (revisionId: string) => {
    await call("PUT", `batches/${run.batchId}/brief`, { revisionId });
    window.location.assign(`/?batch=${run.batchId}`);
  });
  const there = desk.data?.batches.some((batch) => batch.id === run.batchId) ?? false;
  if (!there) return null;
  return (
    <Menu
      side="top"
      sideOffset={6}
      className="max-h-80 max-w-sm"
      trigger={
        <button type="button" className="press whitespace-nowrap hover:underline">
          With another brief
        </button>
      }
      entries={[
        { heading: "The batch takes this brief, and you go to the Desk" },
        ...(desk.data?.briefs ?? []).map((brief) => ({
          key: brief.revisionId,
          words: brief.name,
          onSelect: () => use.mutate(brief.revisionId),
        })),
      ]}
    />
  );
}

function GiveUp({ run }: { run: RunDetail }) {
  const back = useChange(() => call("PUT", `runs/${run.id}`, {}));
  const drop = useChange(async () => {
    await call("DELETE", `runs/${run.id}`);
    say("The files are given up; what was made and proved stays on record.", {
      action: { label: "Keep them", onClick: () => back.mutate(undefined) },
      duration: 20_000,
    });
  });
  if (run.filesGone) return <span className="text-second">Its files were given up; this is the record.</span>;
  return (
    <Button
      kind="quiet"
      className="h-auto"
      title="The record with its proofs stays"
      disabled={drop.isPending}
      onClick={() => drop.mutate(undefined)}
    >
      Give the files up
    </Button>
  );
}
