"use client";

import Link from "next/link";
import { DropdownMenu } from "radix-ui";
import { type FocusEvent, useRef } from "react";
import type { Entry, MenuProps } from "./types";

interface Props extends MenuProps {
  open: boolean;
  onOpen: (open: boolean) => void;
  /** Whether a key opened it before the library was there, which then knows nothing of it. */
  byKey: boolean;
}

const ITEM = "block rounded px-3 py-1.5 data-[highlighted]:bg-wash data-[highlighted]:outline-none";

export function MenuList({ open, onOpen, byKey, trigger, entries, className, ...place }: Props) {
  const toFirst = useRef(byKey);
  const focus = (event: FocusEvent<HTMLElement>) => {
    if (!toFirst.current || event.target !== event.currentTarget) return;
    toFirst.current = false;
    event.currentTarget.querySelector<HTMLElement>("[role=menuitem]")?.focus();
  };
  return (
    <DropdownMenu.Root open={open} onOpenChange={onOpen}>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          {...place}
          onFocus={focus}
          className={`box z-40 overflow-y-auto p-1 ${className ?? ""}`}
        >
          {entries.map((entry, i) => entry && <One key={keyOf(entry, i)} entry={entry} />)}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const keyOf = (entry: Entry, i: number): string | number =>
  typeof entry === "object" && "key" in entry && entry.key ? entry.key : i;

function One({ entry }: { entry: Entry }) {
  if (entry === "line") return <DropdownMenu.Separator className="my-1 border-t border-thin" />;
  if ("heading" in entry)
    return (
      <DropdownMenu.Label className="px-3 py-1 text-small text-second">{entry.heading}</DropdownMenu.Label>
    );
  if ("onSelect" in entry)
    return (
      // The menu has to be gone before anything else takes the focus.
      <DropdownMenu.Item onSelect={() => setTimeout(entry.onSelect)} className={ITEM}>
        {entry.words}
      </DropdownMenu.Item>
    );
  return (
    <DropdownMenu.Item asChild className={entry.download ? ITEM : `${ITEM} press`}>
      {entry.download ? (
        <a href={entry.href} download>
          {entry.words}
        </a>
      ) : (
        <Link href={entry.href}>{entry.words}</Link>
      )}
    </DropdownMenu.Item>
  );
}
