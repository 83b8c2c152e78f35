"use client";

/** What a page with all these pictures weighs, and its markup; its script is loaded when it is opened. */
import { type ReactNode, useState } from "react";
import type { BatchView } from "../api";
import { late, Pop, useWanted } from "../parts";

const weights = late(() => import("./page-weights").then((part) => part.PageWeights));

export function PagePanel({ batch, children }: { batch: BatchView; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  const PageWeights = useWanted(weights, open, () => setOpen(false));
  return (
    <Pop
      open={open && PageWeights !== null}
      onOpen={setOpen}
      trigger={
        <button
          type="button"
          aria-label="What a page with these pictures weighs"
          className="shrink-0 text-left"
        >
          {children}
        </button>
      }
      side="top"
      sideOffset={10}
      collisionPadding={12}
      label="What the page weighs"
      className="max-h-[calc(100vh-110px)] w-[680px] overflow-y-auto"
    >
      {PageWeights && <PageWeights batch={batch} />}
    </Pop>
  );
}
