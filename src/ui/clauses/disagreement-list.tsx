"use client";

/** Where clauses contradict each other, in plain words, with the ways out as buttons. */
import { useMemo } from "react";
import type { Brief } from "@/core/brief";
import type { Size } from "@/core/photo";
import { findDisagreements, overrule } from "@/core/plan/disagreements";

interface Props {
  brief: Brief;
  /** With a photo, also what that photo cannot give. */
  photo?: Size | null;
  /** Period in px of a dot screen in the photo; null where none beats with the new pixels. */
  dotScreen?: number | null;
  /** Its file was made, meets the brief and shows no loss. */
  clean?: boolean;
  onSave: (brief: Brief, words: string) => void;
  /** Lights up the clauses that a disagreement is about. */
  onLight?: (clauses: readonly string[]) => void;
}

export function DisagreementList({
  brief,
  photo = null,
  dotScreen = null,
  clean = false,
  onSave,
  onLight,
}: Props) {
  const { width, height } = photo ?? { width: 0, height: 0 };
  const found = useMemo(
    () => findDisagreements(brief, width ? { width, height } : null, dotScreen, clean),
    [brief, width, height, dotScreen, clean],
  );
  return found.map((disagreement) => (
    <div
      key={disagreement.why}
      role="note"
      aria-label="Disagreement"
      onMouseEnter={() => onLight?.(disagreement.clauses)}
      onMouseLeave={() => onLight?.([])}
      className="mt-2.5 border-l-[3px] border-needs bg-needs-wash px-3 py-2"
    >
      <p>
        {disagreement.why} <span className="text-second">{disagreement.wins}</span>
      </p>
      <div className="mt-1.5 flex flex-wrap gap-2">
        {disagreement.choices.map((choice) => (
          <button
            key={choice.label}
            type="button"
            onFocus={() => onLight?.(disagreement.clauses)}
            onBlur={() => onLight?.([])}
            onClick={() =>
              onSave(overrule(brief, choice.change), choice.label[0].toLowerCase() + choice.label.slice(1))
            }
            className="box px-2.5 py-1 text-left hover:bg-wash"
          >
            <span className="press">{choice.label}</span>{" "}
            <span className="figures text-tiny text-second">{choice.effect}</span>
          </button>
        ))}
      </div>
    </div>
  ));
}
