"use client";

/**
 * The brief as a checklist for one photo: each rule in plain words, met as the photo is, and as its file
 * will be.
 */
import { useMemo } from "react";
import {
  type Brief,
  CLAUSE_KEYS,
  type ClauseKey,
  clauseNames,
  clauseWords,
  resolveBrief,
} from "@/core/brief";
import { type Check, checkFacts } from "@/core/proof";
import type { RowView } from "../api";
import { StateMark } from "../parts";

interface Props {
  brief: Brief;
  row: RowView;
}

/** These rule how a file is made; nothing in the file can be held against them. */
const HOW: ReadonlySet<ClauseKey> = new Set<ClauseKey>([
  "pick",
  "frame",
  "background",
  "enlarge",
  "view",
  "sharpen",
  "padding",
  "names",
  "layers",
  "frames",
]);

export function Checklist({ brief, row }: Props) {
  const now = useMemo(
    () =>
      new Map(
        checkFacts({ brief, resolved: resolveBrief(brief), facts: row.before }).map((check) => [
          check.clause,
          check,
        ]),
      ),
    [brief, row.before],
  );
  const checks = row.made?.state === "done" ? row.made.checks : row.checks;
  const will = new Map(checks.map((check) => [check.clause, check]));
  const keys = CLAUSE_KEYS.filter((key) => brief[key] !== undefined && !HOW.has(key));
  return (
    <section aria-label="Checklist">
      <div className="grid grid-cols-[1fr_38px_38px] gap-x-2 border-b border-thin pb-1 text-tiny text-second">
        <span>{brief.name}</span>
        <span className="text-center">now</span>
        <span className="text-center">{row.made?.state === "done" ? "made" : "will be"}</span>
      </div>
      <ul>
        {keys.map((key) => (
          <li
            key={key}
            className="grid grid-cols-[1fr_38px_38px] items-start gap-x-2 border-b border-thin py-1.5"
          >
            <span>
              {clauseNames[key]} <b className="figures">{clauseWords(brief, key)}</b>
              {brief.wishes?.includes(key) && <span className="text-tiny text-second"> wished</span>}
              <Found check={will.get(key) ?? now.get(key) ?? null} />
            </span>
            <Mark check={now.get(key) ?? null} />
            <Mark check={will.get(key) ?? null} />
          </li>
        ))}
      </ul>
      {keys.length === 0 && (
        <p className="py-1.5 text-small text-second">
          This brief asks nothing that could be read off a file.
        </p>
      )}
      {(brief.onlyYou?.length ?? 0) > 0 && (
        <>
          <h3 className="mt-3 text-small font-semibold text-second">Only you can check</h3>
          <ul className="mt-1 list-disc space-y-1 pl-5">
            {brief.onlyYou!.map((rule) => (
              <li key={rule}>{rule}</li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

function Found({ check }: { check: Check | null }) {
  return check && <span className="figures block text-tiny text-second">found {check.found}</span>;
}

function Mark({ check }: { check: Check | null }) {
  if (!check || (check.ok === null && !check.gaveWay)) {
    return (
      <span className="text-center text-second">
        <span aria-hidden>–</span>
        <span className="sr-only">not known yet</span>
      </span>
    );
  }
  const words = check.ok ? "met" : check.gaveWay ? "gave way" : "not met";
  return (
    <span className="flex justify-center pt-0.5" title={words}>
      <StateMark small state={check.ok ? "meets" : check.gaveWay ? "needs" : "cannot"} />
      <span className="sr-only">{words}</span>
    </span>
  );
}
