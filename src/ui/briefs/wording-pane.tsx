"use client";

/** The receiver's wording, with the words that became clauses tied to them. */
import { useMemo, useState } from "react";
import type { Brief } from "@/core/brief";
import type { Unread } from "@/core/brief/read";
import { Button } from "../parts";
import { type Piece, piecesOf } from "./spans";

interface Props {
  /** Null where a brief has no wording. */
  wording: string | null;
  briefs: readonly Brief[];
  /** What has to be known to make clauses of some of it. */
  asks: readonly Unread[];
  lit: ReadonlySet<string>;
  onLight: (keys: readonly string[]) => void;
  editing: boolean;
  error: string | null;
  onEdit: () => void;
  /** A wording that was typed or pasted. */
  onText: (text: string) => void;
  onDone: () => void;
}

export function WordingPane({
  wording,
  briefs,
  asks,
  lit,
  onLight,
  editing,
  error,
  onEdit,
  onText,
  onDone,
}: Props) {
  const pieces = useMemo(() => (wording ? piecesOf(wording, briefs) : []), [wording, briefs]);
  return (
    <section
      aria-label="The receiver's wording"
      className="flex min-h-0 flex-col border-r border-rule bg-sheet px-5 pt-4"
    >
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-[15px] font-bold">The receiver&apos;s wording</h2>
        {!editing && wording !== null && (
          <button type="button" onClick={onEdit} className="press hover:underline">
            Change the wording
          </button>
        )}
      </div>
      {editing ? (
        <>
          <textarea
            value={wording ?? ""}
            onChange={(event) => onText(event.target.value)}
            autoFocus
            aria-label="Wording"
            placeholder="Paste what the receiver writes: a page, a mail, a leaflet."
            className="box mt-3 min-h-48 flex-1 resize-none p-3 text-[15px] leading-[1.75]"
          />
          <div className="flex items-center gap-3 py-3">
            <Button disabled={!(wording ?? "").trim()} onClick={onDone}>
              Show what was read
            </Button>
            {error && (
              <p role="alert" className="text-not">
                {error}
              </p>
            )}
          </div>
        </>
      ) : wording === null ? (
        <p className="mt-3 max-w-sm text-second">
          This brief was written by hand, so there is no wording behind it. Its clauses can be changed on the
          right.
        </p>
      ) : (
        <>
          <p
            tabIndex={0}
            className="mt-2 min-h-0 flex-1 overflow-y-auto outline-offset-[-2px] text-[15px] leading-[1.8] [overflow-wrap:anywhere] whitespace-pre-wrap"
          >
            {pieces.map((piece) => (
              <PieceView
                key={piece.start}
                piece={piece}
                lit={piece.keys.some((key) => lit.has(key))}
                onLight={onLight}
              />
            ))}
          </p>
          {asks.length > 0 && <Asks asks={asks} />}
          <p aria-hidden className="flex gap-4 border-t border-thin py-3 text-small">
            <span className="border-b-2 border-plum bg-[#eee2ee] px-0.5">read</span>
            <span className="border-b-2 border-[#8d8d8f] bg-rail px-0.5">only you can check</span>
            <span className="border-b-2 border-dotted border-needs px-0.5">not understood</span>
          </p>
        </>
      )}
    </section>
  );
}

function PieceView({ piece, lit, onLight }: { piece: Piece; lit: boolean; onLight: Props["onLight"] }) {
  if (piece.kind === "plain") return piece.text;
  if (piece.kind === "you") return <span className="border-b-2 border-[#8d8d8f] bg-rail">{piece.text}</span>;
  if (piece.kind === "unread")
    return <span className="border-b-2 border-dotted border-needs">{piece.text}</span>;
  return (
    <span
      role="mark"
      tabIndex={0}
      aria-label={`${piece.text}, clause ${piece.number}`}
      onMouseEnter={() => onLight(piece.keys)}
      onMouseLeave={() => onLight([])}
      onFocus={() => onLight(piece.keys)}
      onBlur={() => onLight([])}
      className={`rounded-t-[3px] border-b-2 border-plum px-0.5 ${lit ? "bg-plum text-white" : "bg-[#eee2ee]"}`}
    >
      {piece.text}
      <sup className={`ml-0.5 text-[10px] font-bold ${lit ? "" : "text-plum"}`}>{piece.number}</sup>
    </span>
  );
}

function Asks({ asks }: { asks: readonly Unread[] }) {
  const [all, setAll] = useState(false);
  const shown = all ? asks : asks.slice(0, 4);
  return (
    <ul aria-label="Questions" className="max-h-40 overflow-y-auto border-t border-thin py-2 text-small">
      {shown.map((part) => (
        <li key={`${part.start} ${part.ask}`} className="py-0.5">
          <b className="figures">{part.text.replace(/\s+/g, " ").slice(0, 60)}</b> {part.ask}
        </li>
      ))}
      {!all && asks.length > shown.length && (
        <li>
          <button type="button" onClick={() => setAll(true)} className="press hover:underline">
            {asks.length - shown.length} more questions
          </button>
        </li>
      )}
    </ul>
  );
}
