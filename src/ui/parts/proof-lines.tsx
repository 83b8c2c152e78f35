/**
 * The lines of a proof: each clause with what was found and what was asked, and what else happened to the
 * file.
 */
import { clauseNames } from "@/core/brief";
import type { Check } from "@/core/proof";
import { formatBytes } from "@/core/units";
import { StateMark } from "./state-mark";

interface Props {
  checks: readonly Check[];
  bytes: number | null;
  dropped: readonly string[];
  unchanged: readonly string[];
}

export function ProofLines({ checks, bytes, dropped, unchanged }: Props) {
  return (
    <>
      <ul className="mt-1.5 space-y-1">
        {checks.map((check) => (
          <li key={check.clause} className="grid grid-cols-[16px_68px_1fr] items-start gap-1.5">
            <span className="pt-0.5">
              <StateMark small state={check.ok === false ? "cannot" : check.ok ? "meets" : "needs"} />
              <span className="sr-only">
                {check.ok === false ? "not met" : check.ok ? "met" : check.gaveWay ? "gave way" : "not known"}
              </span>
            </span>
            <span className="text-small">{clauseNames[check.clause]}</span>
            <span className="figures text-small">
              <b>{check.found}</b>
              <span className="block text-tiny text-second">asked: {check.asked}</span>
            </span>
          </li>
        ))}
      </ul>
      {bytes !== null && checks.length === 0 && (
        <p className="text-small">
          Nothing was asked that can be checked; the file weighs {formatBytes(bytes)}.
        </p>
      )}
      {dropped.length > 0 && <p className="mt-2 text-small text-second">Left out: {dropped.join(", ")}.</p>}
      {unchanged.length > 0 && (
        <p className="mt-2 text-small text-second">Not asked and unchanged: {unchanged.join("; ")}.</p>
      )}
    </>
  );
}
