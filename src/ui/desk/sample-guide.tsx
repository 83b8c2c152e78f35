"use client";

/** The first job, done step by step on a sample: each step is the real thing, and shows that it is done. */
import { Check } from "lucide-react";
import { SAMPLE_BRIEF } from "@/core/brief";
import type { BatchView } from "../api";
import { call, useChange } from "../api";
import { Button } from "../parts";

/** The step that is to be done now: 1 or 2; 3 where all is done. */
function stepOf({ brief, rows }: BatchView): 1 | 2 | 3 {
  if (!brief) return 1;
  return rows.some((row) => row.made?.state === "done") ? 3 : 2;
}

export function SampleGuide({ batch }: { batch: BatchView }) {
  const ask = useChange(() =>
    call("PUT", `batches/${batch.id}/brief`, { fresh: SAMPLE_BRIEF, words: "what the permit office asks" }),
  );
  const away = useChange(() => call("DELETE", `batches/${batch.id}`));
  const step = stepOf(batch);
  return (
    <section aria-label="Your first file" className="border-b border-rule bg-wash px-[18px] py-2.5">
      <ol className="grid grid-cols-[auto_minmax(0,1.3fr)_minmax(0,1.3fr)] gap-x-6">
        <Step n={1} name="A photo" state="done">
          It is in the batch, as if you had dropped it.
        </Step>
        <Step n={2} name="What is asked" state={step > 1 ? "done" : "now"}>
          {step > 1 ? (
            "Each clause is a chip above; press one to change it."
          ) : (
            <>
              An office writes: “JPEG, 240 × 300 px, between 24 and 60 KB.”{" "}
              <Button className="mt-1" disabled={ask.isPending} onClick={() => ask.mutate(undefined)}>
                Ask for that
              </Button>
            </>
          )}
        </Step>
        <Step n={3} name="The file" state={step === 3 ? "done" : step === 2 ? "now" : "later"}>
          {step === 3 ? (
            <>
              Made, and proved on the right. Take it with the button below.{" "}
              <Button className="mt-1" disabled={away.isPending} onClick={() => away.mutate(undefined)}>
                Put the sample away
              </Button>
            </>
          ) : step === 2 ? (
            "The triangle shows where it will land, the band what is allowed. Press “Make 1 file” below."
          ) : (
            "One button below will say what it makes."
          )}
        </Step>
      </ol>
    </section>
  );
}

function Step({
  n,
  name,
  state,
  children,
}: {
  n: number;
  name: string;
  state: "done" | "now" | "later";
  children: React.ReactNode;
}) {
  return (
    <li
      aria-current={state === "now" ? "step" : undefined}
      className={`flex gap-2.5 ${state === "later" ? "text-second" : ""}`}
    >
      <span
        className={`figures mt-0.5 grid size-5 shrink-0 place-items-center rounded-full border text-tiny font-semibold ${
          state === "done"
            ? "border-met bg-met text-white"
            : state === "now"
              ? "border-plum bg-plum text-white"
              : "border-second"
        }`}
      >
        {state === "done" ? <Check size={12} aria-label="done" /> : n}
      </span>
      <div className="min-w-0">
        <b>{name}</b>
        <div className="text-small">{children}</div>
      </div>
    </li>
  );
}
