"use client";

/** Totals, names, and the one button that says what it will do. */
import { formatBytes } from "@/core/units";
import type { BatchView, RowView, TotalView } from "../api";
import { call, useChange } from "../api";
import { Button, Figure, Gauge, RunGoing, rowState, TakeAway, WholePanel } from "../parts";
import { NamesPanel } from "./names-panel";
import { PagePanel } from "./page-panel";

/** Bytes that a row's file has, or will have. */
const bytesOf = (row: RowView): number => (row.made?.state === "done" ? row.made.bytes : row.bytes) ?? 0;

export function RunBar({ batch }: { batch: BatchView }) {
  const { rows, run } = batch;
  const start = useChange((anew: boolean) => call("POST", `batches/${batch.id}/runs`, { anew }));
  const states = rows.map(rowState);
  const able = rows.filter(
    (row, i) => row.revisionId !== null && (states[i].state !== "cannot" || row.made?.state === "failed"),
  );
  const asked = batch.briefs.length > 0;
  const waiting = states.filter((s) => s.state === "needs").length;
  const about = able.some((row) => row.figure === "about" && row.made?.state !== "done");
  const before = rows.reduce((sum, row) => sum + row.before.bytes, 0);
  const after = able.reduce((sum, row) => sum + bytesOf(row), 0);
  const made = able.filter((row) => row.made?.state === "done");
  const total =
    batch.totals.find((one) => one.revisionId === batch.brief?.revisionId) ?? batch.totals[0] ?? null;
  const sharing = batch.totals.some((one) => one.state === "settling");
  const tooLarge = batch.totals.some((one) => one.state === "cannot");
  const busy = run !== null && !run.finished;
  const allMade = made.length > 0 && made.length === able.length;
  const files = (n: number) => `${n} ${n === 1 ? "file" : "files"}`;
  const count = (list: readonly RowView[]) => list.reduce((sum, row) => sum + (row.set?.length ?? 1), 0);
  const left = count(able) - count(made);
  const sets = rows.filter((row) => row.set).length;
  const words = !asked
    ? "Say what is asked first"
    : tooLarge
      ? "Too large together"
      : sharing
        ? "Sharing the whole"
        : !able.length
          ? "Nothing can be made"
          : made.length && left < count(able)
            ? `Make ${files(left)} more`
            : `Make ${files(count(able))}`;
  const will = able.length && asked ? `${about ? "about " : ""}${formatBytes(after)}` : "–";
  const mail =
    total?.limit.counted === "mail"
      ? { limit: total.limit.max * total.limit.messages, room: total.room, bytes: about ? null : total.bytes }
      : null;
  return (
    <footer
      aria-label="Run"
      className="col-span-2 col-start-2 flex h-[68px] items-center gap-7 border-t border-rule bg-sheet px-[18px] max-[1150px]:gap-4"
    >
      <Figure title="Now" value={formatBytes(before)} />
      <WholePanel
        label={`What it comes to: ${will}`}
        before={before}
        after={after}
        files={count(able)}
        about={about}
        mail={mail}
        sets={sets > 0}
      >
        {total ? (
          <WholeFigure total={total} about={about} />
        ) : (
          <Figure title={allMade ? "After" : "Will be"} value={will} />
        )}
      </WholePanel>
      {sets > 0 && (
        <PagePanel batch={batch}>
          <Figure title="On a page" value={`${sets} ${sets === 1 ? "picture" : "pictures"}`} />
        </PagePanel>
      )}
      <NamesPanel batch={batch} />
      {waiting > 0 && !allMade && !busy && <Figure title="Waiting for you" value={`${waiting} to look at`} />}
      <div className="ml-auto flex shrink-0 items-center gap-3">
        {busy ? (
          <RunGoing run={run} />
        ) : allMade && run ? (
          <>
            <Button kind="quiet" disabled={start.isPending} onClick={() => start.mutate(true)}>
              Make again
            </Button>
            <TakeAway
              runId={run.id}
              files={count(made)}
              itemId={made[0].made!.itemId}
              messages={total?.limit.counted === "mail" ? total.limit.messages : 0}
            />
          </>
        ) : (
          <Button
            kind="main"
            disabled={able.length === 0 || start.isPending || !asked || sharing || tooLarge}
            onClick={() => start.mutate(false)}
          >
            {words}
          </Button>
        )}
      </div>
    </footer>
  );
}

/** The whole against its limit. */
function WholeFigure({ total, about }: { total: TotalView; about: boolean }) {
  const { limit, bytes } = total;
  const max = limit.max * limit.messages;
  const title =
    limit.counted === "files"
      ? "All files"
      : limit.messages > 1
        ? `${limit.messages} messages`
        : "As one message";
  const value =
    bytes === null
      ? `limit ${formatBytes(max)}`
      : `${about ? "about " : ""}${formatBytes(bytes)} of ${formatBytes(max)}`;
  const tone =
    total.state === "cannot"
      ? "cannot"
      : bytes !== null && !about
        ? bytes <= max
          ? "meets"
          : "cannot"
        : "open";
  return (
    <Figure title={title} value={value}>
      <Gauge
        min={null}
        max={max}
        now={total.now}
        will={bytes}
        tone={tone}
        width={150}
        label={`now ${formatBytes(total.now)}, will be ${value}`}
      />
    </Figure>
  );
}
