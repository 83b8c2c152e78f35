"use client";

import { Redo2, Undo2 } from "lucide-react";
import Link from "next/link";
import { usePathname } from "next/navigation";
import type { ReactNode } from "react";
import type { Direction } from "../api";
import { Button } from "./button";
import { HelpButton } from "./help";

interface Props {
  /** What undo and redo would do, in words; null where there is nothing. */
  undo: string | null;
  redo: string | null;
  /** Absent on screens without edits. */
  onStep?: (direction: Direction) => void;
  status: string;
  /** Further buttons of the screen. */
  children?: ReactNode;
}

const SCREENS = [
  { href: "/", name: "Desk" },
  { href: "/briefs", name: "Briefs" },
  { href: "/runs", name: "Runs" },
  { href: "/counter", name: "Counter" },
];

export function Header({ undo, redo, onStep, status, children }: Props) {
  const here = usePathname();
  return (
    <header className="flex items-center gap-6 border-b border-rule px-[18px]">
      <h1 className="flex items-center gap-2.5 text-[17px] font-bold tracking-tight">
        <svg width="26" height="18" viewBox="0 0 26 18" aria-hidden>
          <path d="M1 12.5h24M6 8.5v8M20 8.5v8" stroke="#1b1b1d" strokeWidth="1.6" fill="none" />
          <path d="M13 12l-4.2-7.6h8.4z" fill="var(--color-plum)" />
        </svg>
        Zumbrel
      </h1>
      <nav aria-label="Screens" className="flex h-full">
        {SCREENS.map(({ href, name }) => (
          <Link
            key={href}
            href={href}
            prefetch={false}
            aria-current={here === href ? "page" : undefined}
            className={`flex h-full items-center border-b-2 px-3 ${here === href ? "border-plum font-semibold" : "border-transparent hover:bg-wash"}`}
          >
            {name}
          </Link>
        ))}
      </nav>
      <p role="status" className="ml-auto truncate text-second">
        {status}
      </p>
      <div className="flex gap-2">
        {children}
        {onStep && (
          <>
            <Button
              disabled={!undo}
              onClick={() => onStep("undo")}
              title={undo ? `Undo ${undo}` : "Nothing to undo"}
              keyHint="Ctrl Z"
            >
              <Undo2 size={14} aria-hidden /> Undo
            </Button>
            <Button
              disabled={!redo}
              onClick={() => onStep("redo")}
              title={redo ? `Redo ${redo}` : "Nothing to redo"}
              aria-label="Redo"
            >
              <Redo2 size={14} aria-hidden />
            </Button>
          </>
        )}
        <HelpButton />
      </div>
    </header>
  );
}
