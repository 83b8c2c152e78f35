"use client";

/** Weigh: file size against harm, in panes that look at the same place. */
import { useRouter } from "next/navigation";
import { useCallback, useEffect, useMemo } from "react";
import { call, useBatch, useChange, useEvents } from "../api/client";
import type { BatchView, RowView } from "../api/contract";
import { useAddress } from "../parts/address";
import { Button } from "../parts/button";
import { Header } from "../parts/header";
import { useStepKeys } from "../parts/step-keys";
import { Comparing } from "./comparing";

export function WeighScreen() {
  useEvents();
  const [address, choose] = useAddress();
  const { data: batch, error } = useBatch(address?.batch ?? null);
  const step = useChange((direction: "undo" | "redo") => call("POST", `batches/${address?.batch}/${direction}`));
  useStepKeys(batch ? step.mutate : null);
  const router = useRouter();
  const back = useCallback(() => router.push(address?.batch ? `/?batch=${address.batch}` : "/"), [router, address]);
  useEffect(() => {
    const key = (event: KeyboardEvent) => event.key === "Escape" && back();
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, [back]);

  const rows = useMemo(() => (batch?.rows ?? []).filter((row) => row.assignmentId !== null && row.geometry !== null), [batch]);
  const at = Math.max(0, rows.findIndex((row) => row.id === address?.row));
  const row = rows[at] ?? null;
  return (
    <div className="grid h-screen grid-rows-[46px_minmax(0,1fr)] overflow-hidden">
      <Header undo={batch?.undo ?? null} redo={batch?.redo ?? null} onStep={(direction) => step.mutate(direction)} status={row ? `${row.name}, ${at + 1} of ${rows.length}` : ""}>
        {rows.length > 1 && row && <Steps rows={rows} at={at} onChoose={(next) => choose(next.id)} />}
        <Button keyHint="Esc" onClick={back}>
          Back to the Desk
        </Button>
      </Header>
      {batch && row?.assignmentId ? (
        <Comparing batch={batch} row={row} />
      ) : (
        <main className="grid place-items-center text-second">
          <p>{error ? error.message : address && (!address.batch || batch) ? "There is nothing to weigh here: a photo with a brief is needed. Go back to the Desk and choose one." : "Fetching the photo."}</p>
        </main>
      )}
    </div>
  );
}

function Steps({ rows, at, onChoose }: { rows: BatchView["rows"]; at: number; onChoose: (row: RowView) => void }) {
  const go = useCallback((by: number) => rows[at + by] && onChoose(rows[at + by]), [rows, at, onChoose]);
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.closest("input, textarea, select, [role=dialog], [role=menu]");
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === ",") go(-1);
      if (event.key === ".") go(1);
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, [go]);
  return (
    <>
      <Button keyHint="," disabled={at === 0} aria-label="Photo before" onClick={() => go(-1)}>
        ←
      </Button>
      <Button keyHint="." disabled={at === rows.length - 1} aria-label="Next photo" onClick={() => go(1)}>
        →
      </Button>
    </>
  );
}
