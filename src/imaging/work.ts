/** What threads are asked for, and how it is done: the same on a thread and in place. */
import { develop, type Developed, type Development, type Samples } from "@/core/develop";
import { Reference, type Difference, type Pixels } from "@/core/difference";

export type Work = { kind: "develop"; samples: Samples; plan: Development } | { kind: "difference"; id: string; reference: Pixels; trial: Pixels };

/** A comparison without its map, which nobody asks for across threads. */
export type Judged = Omit<Difference, "map">;

/** The references met last: what they alone give is not worked out again for every trial. */
const references = new Map<string, Reference>();
const KEPT = 2;

export function carryOut(work: Work): Developed | Judged {
  if (work.kind === "develop") return develop(work.samples, work.plan);
  const reference = references.get(work.id) ?? new Reference(work.reference);
  references.delete(work.id);
  references.set(work.id, reference);
  if (references.size > KEPT) references.delete(references.keys().next().value!);
  const { difference, worst, shift } = reference.compare(work.trial);
  return { difference, worst, shift };
}
