"use client";

import { useDeferredValue, useState } from "react";
import { useBatch } from "../api";
/** Where files were handed over: what came back is pasted here. */
import { Pop } from "../parts";
import { RefusalPanel, refusalsIn } from "./refusal-panel";

interface Props {
  batchId: string;
  /** The photo that is meant where the answer names no document. */
  photoId: string | null;
}

export function AnswerButton({ batchId, photoId }: Props) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const read = useDeferredValue(text);
  const { data: batch } = useBatch(open ? batchId : null);
  const refusals = batch ? refusalsIn(read, batch) : [];
  const chosen = batch?.rows.find((row) => row.photoId === photoId)?.id ?? batch?.rows[0]?.id ?? null;
  return (
    <Pop
      open={open}
      onOpen={setOpen}
      trigger={
        <button type="button" className="press text-small hover:underline">
          Paste an answer
        </button>
      }
      align="end"
      label="A receiver's answer"
      className="max-h-[76vh] w-[440px] overflow-y-auto"
    >
      <label>
        <span className="mb-1.5 block font-semibold">What came back after files were refused</span>
        <textarea
          value={text}
          onChange={(event) => setText(event.target.value)}
          autoFocus
          rows={4}
          className="box w-full resize-y p-2"
        />
      </label>
      {batch && refusals.length > 0 && (
        <RefusalPanel batch={batch} refusals={refusals} chosen={chosen} onTaken={() => setOpen(false)} />
      )}
      {batch && read.trim() !== "" && refusals.length === 0 && (
        <p className="mt-2">No refusal was found in it. Rules are pasted on the Desk.</p>
      )}
    </Pop>
  );
}
