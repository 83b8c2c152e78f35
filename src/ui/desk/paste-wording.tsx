"use client";

import dynamic from "next/dynamic";
import { useState } from "react";
import type { BatchView } from "../api";
/** A receiver's wording pasted right where it is needed, and used with one press. */
import { Pop } from "../parts";
import type { Pasted } from "./pasted-wording";

const PastedWording = dynamic(() => import("./pasted-wording").then((part) => part.PastedWording), {
  ssr: false,
});

interface Props {
  batch: BatchView;
  chosen: string[];
  subject: string | null;
}

export function PasteWording(props: Props) {
  const [open, setOpen] = useState(false);
  const [pasted, setPasted] = useState<Pasted>({ text: "", asRules: "" });
  const change = (part: Partial<Pasted>) => setPasted((before) => ({ ...before, ...part }));
  return (
    <Pop
      open={open}
      onOpen={setOpen}
      trigger={
        <button type="button" className="press hover:underline">
          Paste a wording
        </button>
      }
      label="A receiver's wording"
      className="max-h-[76vh] w-[440px] overflow-y-auto"
    >
      {/* There at once, so that no key is lost while the reader is loaded. */}
      <label>
        <span className="mb-1.5 block font-semibold">
          What the receiver writes: its rules, or why it refused a file
        </span>
        <textarea
          value={pasted.text}
          onChange={(event) => change({ text: event.target.value })}
          autoFocus
          rows={5}
          className="box w-full resize-y p-2"
        />
      </label>
      <PastedWording {...props} {...pasted} onChange={change} onClose={() => setOpen(false)} />
    </Pop>
  );
}
