"use client";

/** What a page with all these pictures weighs, and its markup; its script is loaded when it is opened. */
import dynamic from "next/dynamic";
import { Popover } from "radix-ui";
import { type ReactNode, useState } from "react";
import type { BatchView } from "../api";
import { Waiting } from "../parts";

const PageWeights = dynamic(async () => (await import("./page-weights")).PageWeights, {
  ssr: false,
  loading: () => <Waiting />,
});

export function PagePanel({ batch, children }: { batch: BatchView; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger aria-label="What a page with these pictures weighs" className="shrink-0 text-left">
        {children}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="start"
          sideOffset={10}
          collisionPadding={12}
          aria-label="What the page weighs"
          className="box z-40 max-h-[calc(100vh-110px)] w-[680px] overflow-y-auto border-plum p-4"
        >
          <PageWeights batch={batch} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
