"use client";

/** What a receiver publishes, and what can be done with it. */
import { ClipboardCopy } from "lucide-react";
import Link from "next/link";
import { useState } from "react";
import type { ReceiverView } from "../api";
import { call, useChange } from "../api";
import { Button } from "../parts";
import { say, sayError } from "../say";
import { RulesForm } from "./rules-form";
import { KINDS, MOODS } from "./words";

/** As it is published; several documents stand beside each other. */
function Wording({ text }: { text: string }) {
  const [first, ...documents] = text.split("\n\n");
  return (
    <div className="text-small leading-relaxed [overflow-wrap:anywhere]">
      <p className="whitespace-pre-wrap">{first}</p>
      {documents.length > 0 && (
        <div className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-x-5 gap-y-3">
          {documents.map((document) => (
            <p key={document} className="border-l border-rule pl-3 whitespace-pre-wrap">
              {document}
            </p>
          ))}
        </div>
      )}
    </div>
  );
}

export function Notice({ view, smtpPort }: { view: ReceiverView; smtpPort: number | null }) {
  const { rules } = view;
  const [changing, setChanging] = useState(false);
  const read = useChange(async () => {
    const { names } = await call<{ names: string[] }>("POST", `counter/${view.id}/briefs`, {});
    say(
      names.length === 1
        ? `“${names[0]}” is on the shelf.`
        : `${names.length} briefs are on the shelf, one a document.`,
    );
  });
  const mood = useChange((next: string) =>
    call("PUT", `counter/${view.id}`, { rules: { ...rules, mood: next } }),
  );
  return (
    <section aria-label="What it asks">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-[16px] font-bold [overflow-wrap:anywhere]">{rules.name}</h2>
        <span className="text-small text-second">{KINDS[rules.kind]}</span>
        <label className="ml-auto flex items-center gap-1.5 text-small text-second">
          Today it
          <select
            value={rules.mood}
            onChange={(event) => mood.mutate(event.target.value)}
            className="box h-7 px-1.5 text-ink"
          >
            {MOODS.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        </label>
      </div>
      {rules.kind === "mailbox" && smtpPort && (
        <p className="text-small text-second">
          Any mail program of this machine can send to it:{" "}
          <span className="figures text-ink">{rules.address}</span> by SMTP at{" "}
          <span className="figures text-ink">127.0.0.1:{smtpPort}</span>, without sign-in.
        </p>
      )}
      {changing ? (
        <RulesForm view={view} onDone={() => setChanging(false)} />
      ) : (
        <div className="mt-2 grid grid-cols-[minmax(0,1fr)_152px] gap-4 rounded-box border border-rule bg-sheet p-4">
          <Wording text={view.wording} />
          <div className="flex flex-col items-stretch gap-1.5">
            <Button className="border-plum" disabled={read.isPending} onClick={() => read.mutate(undefined)}>
              Read into briefs
            </Button>
            <Button
              onClick={() => {
                void navigator.clipboard.writeText(view.wording).then(
                  () => say("The wording is copied."),
                  () => sayError("The browser did not let the wording be copied."),
                );
              }}
            >
              <ClipboardCopy size={14} aria-hidden /> Copy the wording
            </Button>
            <Button onClick={() => setChanging(true)}>Change the rules</Button>
            <Link href="/briefs" className="press px-1 py-1 text-center text-small hover:underline">
              To the shelf
            </Link>
          </div>
        </div>
      )}
    </section>
  );
}
