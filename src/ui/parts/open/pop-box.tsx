"use client";

import { Popover } from "radix-ui";
import type { PopProps } from "./types";

export function PopBox({ open, onOpen, trigger, label, className, children, ...place }: PopProps) {
  return (
    <Popover.Root open={open} onOpenChange={onOpen}>
      <Popover.Trigger asChild>{trigger}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          {...place}
          aria-label={label}
          className={`box z-40 border-plum p-4 ${className}`}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
