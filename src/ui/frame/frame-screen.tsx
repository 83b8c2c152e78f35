"use client";

/** Frame: one photo with the output frame on it, the result beside it, and the way to the next photo. */
import { useCallback, useState } from "react";
import { carried } from "@/core/geometry";
import type { Frame } from "@/core/photo";
import type { BatchView, RowView } from "../api";
import { call, useChange } from "../api";
import { Button, Header, useKeys, usePhotoScreen } from "../parts";
import { Controls, frameKey } from "./controls";
import { begin, unmarked } from "./head";
import { HeadPanel } from "./head-panel";
import { PhotoList } from "./photo-list";
import { Result } from "./result";
import { Stage } from "./stage";
import { useFrame } from "./use-frame";

const anyRow = () => true;

export function FrameScreen() {
  const { batch, rows, at, row, choose, back, undo, missing } = usePhotoScreen(anyRow);
  return (
    <div className="grid h-screen grid-rows-[46px_minmax(0,1fr)] overflow-hidden">
      <Header {...undo} status={row ? `${row.name}, ${at + 1} of ${rows.length}` : ""}>
        <Button keyHint="Esc" onClick={back}>
          Back to the Desk
        </Button>
      </Header>
      {batch && row ? (
        <Framing key={row.id} batch={batch} row={row} at={at} onChoose={choose} />
      ) : (
        <main className="grid place-items-center text-second">
          <p>{missing("There is no photo to frame here. Go back to the Desk and choose one.")}</p>
        </main>
      )}
    </div>
  );
}

function Framing({
  batch,
  row,
  at,
  onChoose,
}: {
  batch: BatchView;
  row: RowView;
  at: number;
  onChoose: (id: string) => void;
}) {
  const brief = batch.briefs.find((b) => b.revisionId === row.revisionId)?.body;
  if (brief) return <Editor key={row.id} batch={batch} row={row} at={at} onChoose={onChoose} brief={brief} />;
  return (
    <div className="grid min-h-0 grid-cols-[204px_minmax(0,1fr)]">
      <PhotoList rows={batch.rows} chosen={row.id} onChoose={onChoose} />
      <main className="grid place-items-center text-second">
        <p>This photo has no brief yet, so nothing is asked of its frame. Choose a brief on the Desk.</p>
      </main>
    </div>
  );
}

function Editor({
  batch,
  row,
  at,
  onChoose,
  brief,
}: {
  batch: BatchView;
  row: RowView;
  at: number;
  onChoose: (id: string) => void;
  brief: NonNullable<BatchView["brief"]>["body"];
}) {
  const editor = useFrame(batch.id, row, brief);
  const [guides, setGuides] = useState(false);
  const [round, setRound] = useState(false);
  const [along, setAlong] = useState(false);
  const { rows } = batch;
  const asksHead = brief.head !== undefined;
  const next = rows[at + 1] ?? null;
  const before = rows[at - 1] ?? null;
  const carry = useChange((to: { rowId: string; frame: Frame }) =>
    call("PUT", `batches/${batch.id}/frame`, { ...to, accepted: false }),
  );

  const go = useCallback(
    async (to: RowView | null, accepted: boolean) => {
      if (accepted || editor.unsaved) await editor.save(true);
      if (!to) return;
      if (accepted && along)
        await carry
          .mutateAsync({ rowId: to.id, frame: { ...to.frame, auto: undefined, ...carried(editor.frame) } })
          .catch(() => undefined);
      onChoose(to.id);
    },
    [editor, along, carry, onChoose],
  );

  useKeys((event) => {
    if (event.key === "Enter" && event.target instanceof HTMLButtonElement) return false;
    if (event.key === "Enter" || event.key === "n") void go(next, event.key === "Enter");
    else if (event.key === "p") void go(before, false);
    else if (event.key === "g") setGuides((on) => !on);
    else if (event.key === "o") setRound((on) => !on);
    else if (event.key === "m" && asksHead) editor.edit((e, f) => (f.marks ? unmarked(f) : begin(e, f)));
    else return frameKey(event, editor);
    return true;
  });

  const { geometry, error } = editor;
  const mode = geometry?.mode;
  return (
    <div className="grid min-h-0 grid-cols-[204px_minmax(0,1fr)_344px] grid-rows-[minmax(0,1fr)_56px] max-[1150px]:grid-cols-[160px_minmax(0,1fr)_308px]">
      <PhotoList
        rows={rows}
        chosen={row.id}
        onChoose={(id) => void go(rows.find((r) => r.id === id) ?? null, false)}
      />
      <main aria-label="Photo with its frame" className="grid min-h-0 min-w-0 grid-rows-[minmax(0,1fr)]">
        {geometry ? (
          <Stage
            row={row}
            editor={editor}
            geometry={geometry}
            guides={guides}
            round={round}
            marked={asksHead}
          />
        ) : (
          <p className="p-6 text-not">{error}</p>
        )}
      </main>
      <aside aria-label="Result and numbers" className="flex min-h-0 flex-col border-l border-rule">
        {geometry && <Result row={row} brief={brief} geometry={geometry} moving={editor.unsaved} />}
        {geometry && asksHead && <HeadPanel row={row} brief={brief} editor={editor} geometry={geometry} />}
        <Controls
          row={row}
          editor={editor}
          geometry={geometry}
          guides={guides}
          round={round}
          onGuides={() => setGuides(!guides)}
          onRound={() => setRound(!round)}
        />
      </aside>
      <footer className="col-span-3 flex items-center gap-4 border-t border-rule bg-sheet px-[18px]">
        <p role="status" className="min-w-0 text-small leading-tight text-second">
          {error && geometry ? (
            <span className="text-not">{error}</span>
          ) : asksHead && editor.frame.marks ? (
            "Drag the lines onto crown and chin, or choose one with Tab and use the arrow keys: the frame " +
            "follows."
          ) : brief.ink && mode === "pad" ? (
            "Ink is looked for on all of the photo. Press + to bring the frame closer and look in a " +
            "part only."
          ) : mode === "pad" ? (
            "Nothing is cut: background is added around the photo."
          ) : mode === "whole" || mode === "stretch" ? (
            "The whole photo is used. Bring the frame closer to cut."
          ) : (
            "Drag the frame, or use the arrow keys: a pixel, with shift ten. + and − bring it " +
            "closer, comma and full stop straighten."
          )}
        </p>
        <label className="ml-auto flex shrink-0 items-center gap-2">
          <input
            type="checkbox"
            checked={along}
            onChange={(event) => setAlong(event.target.checked)}
            className="size-4 accent-plum"
          />
          Take this frame along to the next
        </label>
        <Button keyHint="P" disabled={!before} onClick={() => void go(before, false)}>
          Before
        </Button>
        <Button keyHint="N" disabled={!next} onClick={() => void go(next, false)}>
          Next
        </Button>
        <Button kind="main" keyHint="Enter" onClick={() => void go(next, true)}>
          {next ? "Right so, next photo" : "Right so"}
        </Button>
      </footer>
    </div>
  );
}
