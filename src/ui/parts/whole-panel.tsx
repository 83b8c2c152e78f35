"use client";

import { type ReactNode, useState } from "react";
import { base64Bytes, secondsWords, sendSeconds } from "@/core/delivery/mail";
import { formatBytes, toBytes } from "@/core/units";
/**
 * What a set of files comes to: how long it takes to send or to load, and how many like these fit on
 * something.
 */
import { Pop } from "./open";
import { useRemembered } from "./remembered";
import { Typed } from "./typed";

interface Props {
  children: ReactNode;
  label: string;
  /** Bytes of all photos, and of their files; the latter may be about. */
  before: number;
  after: number;
  files: number;
  about: boolean;
  /** Photos become sets, of which a page loads one file each: that is told elsewhere. */
  sets?: boolean;
  /** Bytes of files that a limit on a message leaves, and the limit; null where mail is not counted. */
  mail: { limit: number; room: number; bytes: number | null } | null;
}

const text = (value: unknown) => (typeof value === "string" ? value : null);
const megabits = (typed: string): number | null => {
  const value = Number(typed.replace(",", "."));
  return Number.isFinite(value) && value > 0 && value <= 1e6 ? value : null;
};

function capacity(typed: string): number | null {
  try {
    const bytes = toBytes(/^[0-9.,\s]+$/.test(typed) ? `${typed.trim().replace(",", ".")}GB` : typed, "max");
    return bytes > 0 ? bytes : null;
  } catch {
    return null;
  }
}

export function WholePanel({ children, label, before, after, files, about, mail, sets = false }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <Pop
      open={open}
      onOpen={setOpen}
      trigger={
        <button type="button" aria-label={label} className="shrink-0 text-left">
          {children}
        </button>
      }
      side="top"
      sideOffset={10}
      label="What it comes to"
      className="w-[430px]"
    >
      <Sending before={before} after={after} mail={mail} about={about} />
      {!sets && <Loading before={before} after={after} about={about} />}
      <Fitting each={files ? after / files : 0} about={about} />
    </Pop>
  );
}

const Line = ({ name, children }: { name: string; children: ReactNode }) => (
  <p className="flex items-baseline justify-between gap-3 border-b border-thin py-1">
    <span>{name}</span>
    <span className="figures text-right whitespace-nowrap">{children}</span>
  </p>
);

function Sending({ before, after, mail, about }: Pick<Props, "before" | "after" | "mail" | "about">) {
  const [typed, setTyped] = useRemembered("send speed", text);
  const speed = megabits(typed ?? "2");
  const time = (bytes: number) => (speed ? secondsWords(sendSeconds(bytes, speed)) : "–");
  return (
    <section className="mb-4">
      <header className="mb-1 flex items-baseline justify-between">
        <h3 className="font-semibold">To send by mail</h3>
        <Typed label="at" value={typed ?? "2"} onChange={setTyped} unit="Mbit/s up" bad={speed === null} />
      </header>
      {mail && (
        <Line name="The limit leaves for files">
          {formatBytes(mail.room)} of {formatBytes(mail.limit)}
        </Line>
      )}
      <Line name="The originals">
        about {formatBytes(base64Bytes(before))}, {time(base64Bytes(before))}
      </Line>
      <Line name="These files">
        {/* Only a message that is counted has its headers in the figure. */}
        {about || mail?.bytes == null ? "about " : ""}
        {formatBytes(mail?.bytes ?? base64Bytes(after))}, {time(mail?.bytes ?? base64Bytes(after))}
      </Line>
    </section>
  );
}

function Loading({ before, after, about }: Pick<Props, "before" | "after" | "about">) {
  const [typed, setTyped] = useRemembered("load speed", text);
  const speed = megabits(typed ?? "10");
  const time = (bytes: number) => (speed ? secondsWords(sendSeconds(bytes, speed)) : "–");
  return (
    <section className="mb-4">
      <header className="mb-1 flex items-baseline justify-between">
        <h3 className="font-semibold">As one web page</h3>
        <Typed label="at" value={typed ?? "10"} onChange={setTyped} unit="Mbit/s down" bad={speed === null} />
      </header>
      <Line name="With the originals">
        {formatBytes(before)}, {time(before)}
      </Line>
      <Line name="With these files">
        {about ? "about " : ""}
        {formatBytes(after)}, {time(after)}
      </Line>
    </section>
  );
}

function Fitting({ each, about }: { each: number; about: boolean }) {
  const [typed, setTyped] = useRemembered("capacity", text);
  const bytes = capacity(typed ?? "4 GB");
  return (
    <section>
      <header className="mb-1 flex items-baseline justify-between">
        <h3 className="font-semibold">How many like these fit</h3>
        <Typed label="on" value={typed ?? "4 GB"} onChange={setTyped} unit="of memory" bad={bytes === null} />
      </header>
      <Line name={`At ${about ? "about " : ""}${formatBytes(each)} each`}>
        {bytes && each
          ? `${about ? "about " : ""}${Math.floor(bytes / each).toLocaleString("en")} photos`
          : "–"}
      </Line>
    </section>
  );
}
