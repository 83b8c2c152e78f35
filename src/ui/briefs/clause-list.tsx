"use client";

/**
 * The clauses of one brief: each with its gauge and the words that it came from, disagreements under them.
 */
import { useMemo } from "react";
import { type Brief, type ClauseKey, resolveBrief } from "@/core/brief";
import { clauseGauge, NOTHING } from "@/core/proof/gauge";
import {
  AddClauses,
  type Chip,
  ChipPopover,
  chipOf,
  DisagreementList,
  isWished,
  receiversWords,
  statedChips,
} from "../clauses";
import { Gauge } from "../parts";
import { linkOf, numbersOf, sourceWords } from "./spans";

interface Props {
  brief: Brief;
  /** Which of the briefs on the screen this is. */
  index: number;
  /** All of them: numbers run through. */
  all: readonly Brief[];
  lit: ReadonlySet<string>;
  onLight: (keys: readonly string[]) => void;
  onSave: (brief: Brief, words: string) => void;
}

const ROW =
  "grid grid-cols-[28px_90px_minmax(0,1fr)_112px_minmax(0,150px)] items-center gap-x-2 border-b " +
  "border-thin max-[1150px]:grid-cols-[24px_78px_minmax(0,1fr)_72px_minmax(0,110px)]";

/** What holds where the brief says nothing, as far as people ask about it. */
const DEFAULTS: readonly [ClauseKey, string][] = [
  ["format", "the photo's own kind"],
  ["colour", "sRGB, 8 bit"],
  ["metadata", "nothing private"],
];

export function ClauseList({ brief, index, all, lit, onLight, onSave }: Props) {
  const numbers = useMemo(() => numbersOf(all), [all]);
  const chips = statedChips(brief);
  const light = (clauses: readonly string[]) =>
    onLight([...new Set(clauses.map((clause) => linkOf(index, chipOf(clause as ClauseKey).key)))]);
  return (
    <>
      <ul aria-label={`Clauses of ${brief.name}`} className="border-t border-rule">
        {chips.map((chip) => (
          <ClauseRow
            key={chip.key}
            {...{ chip, brief, index, lit, onLight, onSave }}
            number={numbers.get(linkOf(index, chip.key)) ?? null}
          />
        ))}
        {DEFAULTS.filter(([key]) => brief[key] === undefined).map(([key, words]) => (
          <li key={key} className={`${ROW} py-[7px] text-second`}>
            <span />
            <span>{chipOf(key).title}</span>
            <span className="figures px-1.5">{words}</span>
            <span />
            <span className="text-small">not asked: our default</span>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap gap-2">
        <AddClauses brief={brief} onSave={onSave} usual={false} />
      </div>
      <DisagreementList brief={brief} onSave={onSave} onLight={light} />
    </>
  );
}

interface RowProps extends Omit<Props, "all"> {
  chip: Chip;
  number: number | null;
}

function ClauseRow({ chip, brief, index, number, lit, onLight, onSave }: RowProps) {
  const key = linkOf(index, chip.key);
  const gauge = clauseGauge(chip.key, resolveBrief(brief), NOTHING, NOTHING);
  const source = sourceWords(brief, chip.key);
  const receivers = receiversWords(brief, chip);
  const on = lit.has(key);
  return (
    <li
      onMouseEnter={() => onLight([key])}
      onMouseLeave={() => onLight([])}
      onFocus={() => onLight([key])}
      onBlur={() => onLight([])}
      className={`${ROW} py-[5px] ${on ? "bg-wash shadow-[inset_3px_0_0_var(--color-plum)]" : ""}`}
    >
      <span className="text-center text-small font-bold text-plum">{number}</span>
      <span className="text-second">{chip.title}</span>
      <span className="min-w-0">
        <ChipPopover
          chip={chip}
          brief={brief}
          onSave={onSave}
          trigger={
            <button
              type="button"
              aria-label={`Change ${chip.title.toLowerCase()}: ${chip.words(brief)}`}
              className="figures min-w-0 rounded-box border border-transparent px-1.5 py-0.5 text-left text-[14px] font-semibold hover:border-rule hover:bg-sheet data-[state=open]:border-plum"
            >
              {chip.words(brief)}
            </button>
          }
        />
      </span>
      <span>
        {gauge && <Gauge {...gauge} tone="open" width={112} label={`${chip.title}: ${chip.words(brief)}`} />}
      </span>
      <span className="min-w-0 text-small text-second">
        {receivers !== null ? (
          <span className="text-needs">the receiver asks {receivers}</span>
        ) : (
          <span className="line-clamp-2 [overflow-wrap:anywhere]">
            {isWished(brief, chip) && <b className="font-semibold">wished: </b>}
            {source ?? "by hand"}
          </span>
        )}
      </span>
    </li>
  );
}
