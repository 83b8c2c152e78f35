"use client";

/** A refusal held against the briefs in use: old and new, clause by clause, taken with one press. */
import { type DocumentRefusal, readRefusals } from "@/core/brief/refusal";
import { heldAgainst, otherwise } from "@/core/plan/refusals";
import type { BatchView, BriefInUse, Retaken, RowView } from "../api";
import { briefOf, call, useChange } from "../api";
import { Button } from "../parts";
import { say } from "../say";

interface Props {
  batch: BatchView;
  refusals: readonly DocumentRefusal[];
  /** The row, or the document without a photo, that is meant where the refusal names none. */
  chosen: string | null;
  onTaken: () => void;
}

/** What a pasted text refuses; empty where it is no refusal. */
export const refusalsIn = (text: string, batch: BatchView): DocumentRefusal[] =>
  readRefusals(
    text,
    batch.slots.map((slot) => slot.name),
  );

interface Meant {
  refusal: DocumentRefusal;
  use: BriefInUse;
  row: RowView | null;
}

/** The brief and the photo that each refusal is about. */
function meantBy({ batch, refusals, chosen }: Props): Meant[] {
  return refusals.flatMap((refusal) => {
    const slot = batch.slots.find((one) => one.name === refusal.name);
    const id = slot ? (slot.row ?? slot.id) : chosen;
    const use = briefOf(batch, id);
    return use ? [{ refusal, use, row: batch.rows.find((row) => row.id === id) ?? null }] : [];
  });
}

export function RefusalPanel(props: Props) {
  const { batch, onTaken } = props;
  const meant = meantBy(props).map((one) => ({ ...one, ...heldAgainst(one.use.body, one.refusal.asked) }));
  const changing = meant.filter(({ changes }) => changes.length > 0);
  const made = batch.rows.some((row) => row.made?.state === "done");
  const take = useChange(async () => {
    const words = `taking what ${changing.map(({ use }) => use.body.name).join(" and ")} was refused for`;
    const { runId, again, kept } = await call<Retaken>("POST", `batches/${batch.id}/refusal`, {
      words: words.slice(0, 300),
      changes: changing.map(({ brief, use }) => ({ brief, of: use.revisionId })),
    });
    if (runId) say(saidOf(again, kept));
    onTaken();
  });
  if (!meant.length)
    return (
      <p className="mt-3">
        This is an answer to files that were refused, but no brief is in use here. Choose the photo that it is
        about.
      </p>
    );
  return (
    <section aria-label="Refused" className="mt-3">
      {meant.map(({ refusal, use, row, changes, same }, i) => (
        <div key={`${use.revisionId} ${i}`} className="border-t border-thin py-2.5">
          <h3 className="font-semibold">{refusal.name ?? use.body.name}</h3>
          {refusal.found.length > 0 && (
            <p className="mt-0.5">
              It found <b className="figures">{refusal.found.map((one) => one.words).join(", ")}</b>.
            </p>
          )}
          {row?.made?.facts &&
            otherwise(refusal.found, row.made.facts).map((words) => (
              <p key={words} className="mt-0.5 text-needs">
                {words}
              </p>
            ))}
          {changes.length > 0 && (
            <table className="mt-1.5 w-full">
              <thead>
                <tr className="text-left text-small text-second">
                  <th className="font-normal">Clause</th>
                  <th className="font-normal">now</th>
                  <th className="font-normal">as it asks</th>
                </tr>
              </thead>
              <tbody>
                {changes.map(({ clause, name, old, next }) => (
                  <tr key={clause} className="border-t border-thin align-top">
                    <td className="py-1 pr-2">{name}</td>
                    <td className="figures py-1 pr-2 text-second">{old ?? "free"}</td>
                    <td className="figures py-1 font-semibold">{next}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {same.length > 0 && (
            <p className="mt-1 text-small text-second">
              The brief asks the same already:{" "}
              {same.map(({ name, next }) => `${name.toLowerCase()} ${next}`).join(", ")}.
            </p>
          )}
          {!changes.length && !same.length && (
            <p className="mt-1 text-small text-second">It does not say what it asks. Ask it for its limit.</p>
          )}
        </div>
      ))}
      {changing.length > 0 && (
        <Button className="mt-1 border-plum" disabled={take.isPending} onClick={() => take.mutate(undefined)}>
          {made ? "Take this, and make again what no longer obeys" : "Take this"}
        </Button>
      )}
    </section>
  );
}

const saidOf = (again: number, kept: number): string => {
  const files = (n: number) => `${n} ${n === 1 ? "file" : "files"}`;
  const stay = kept
    ? `; ${files(kept)} ${kept === 1 ? "stays" : "stay"} as ${kept === 1 ? "it is" : "they are"}`
    : "";
  return again
    ? `${files(again)} ${again === 1 ? "is" : "are"} made again${stay}.`
    : `Every file obeys as it is.`;
};
