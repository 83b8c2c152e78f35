"use client";

/** Weigh: file size against harm, in panes that look at the same place. */
import { useCallback } from "react";
import type { BatchView, RowView } from "../api";
import { Button, Header, useKeys, usePhotoScreen } from "../parts";
import { Comparing } from "./comparing";

const weighable = (row: RowView) => row.assignmentId !== null && row.geometry !== null;

export function WeighScreen() {
  const { batch, rows, at, row, choose, back, undo, missing } = usePhotoScreen(weighable);
  return (
    <div className="grid h-screen grid-rows-[46px_minmax(0,1fr)] overflow-hidden">
      <Header {...undo} status={row ? `${row.name}, ${at + 1} of ${rows.length}` : ""}>
        {rows.length > 1 && row && <Steps rows={rows} at={at} onChoose={(next) => choose(next.id)} />}
        <Button keyHint="Esc" onClick={back}>
          Back to the Desk
        </Button>
      </Header>
      {batch && row?.assignmentId ? (
        <Comparing batch={batch} row={row} />
      ) : (
        <main className="grid place-items-center text-second">
          <p>
            {missing(
              "There is nothing to weigh here: a photo with a brief is needed. Go back to the Desk " +
                "and choose one.",
            )}
          </p>
        </main>
      )}
    </div>
  );
}

function Steps({
  rows,
  at,
  onChoose,
}: {
  rows: BatchView["rows"];
  at: number;
  onChoose: (row: RowView) => void;
}) {
  const go = useCallback((by: number) => rows[at + by] && onChoose(rows[at + by]), [rows, at, onChoose]);
  useKeys((event) => {
    if (event.key !== "," && event.key !== ".") return false;
    go(event.key === "," ? -1 : 1);
    return true;
  });
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
