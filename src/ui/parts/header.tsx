"use client";

import { Redo2, Undo2 } from "lucide-react";
import type { BatchView } from "../api/contract";
import { Button } from "./button";

interface Props {
  batch: BatchView | null;
  onStep: (direction: "undo" | "redo") => void;
}

export function Header({ batch, onStep }: Props) {
  const run = batch?.run;
  const busy = run && !run.finished;
  return (
    <header className="flex items-center gap-6 border-b border-rule px-[18px]">
      <h1 className="flex items-center gap-2.5 text-[17px] font-bold tracking-tight">
        <svg width="26" height="18" viewBox="0 0 26 18" aria-hidden>
          <path d="M1 12.5h24M6 8.5v8M20 8.5v8" stroke="#1b1b1d" strokeWidth="1.6" fill="none" />
          <path d="M13 12l-4.2-7.6h8.4z" fill="var(--color-plum)" />
        </svg>
        Zumbrel
      </h1>
      <nav aria-label="Screens" className="h-full">
        <a href="/" aria-current="page" className="flex h-full items-center border-b-2 border-plum px-3 font-semibold">
          Desk
        </a>
      </nav>
      <p role="status" className="ml-auto text-second">
        {busy ? `Making files: ${run.done + run.failed} of ${run.total}` : "Nothing running"}
      </p>
      <div className="flex gap-2">
        <Button disabled={!batch?.undo} onClick={() => onStep("undo")} title={batch?.undo ? `Undo ${batch.undo}` : "Nothing to undo"} keyHint="Ctrl Z">
          <Undo2 size={14} aria-hidden /> Undo
        </Button>
        <Button disabled={!batch?.redo} onClick={() => onStep("redo")} title={batch?.redo ? `Redo ${batch.redo}` : "Nothing to redo"} aria-label="Redo">
          <Redo2 size={14} aria-hidden />
        </Button>
      </div>
    </header>
  );
}
