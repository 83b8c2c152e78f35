"use client";

/**
 * A limit on the whole: that it is being shared out, what all photos end at, or why it cannot be and the
 * ways out.
 */
import type { Brief } from "@/core/brief";
import { cannotWords, type Offer, offerWords } from "@/core/budget";
import { overrule } from "@/core/plan/disagreements";
import { formatBytes, trimNumber } from "@/core/units";
import type { BatchView, TotalView } from "../api";
import { call, useChange } from "../api";
import { Button, ProgressBar } from "../parts";

interface Props {
  batch: BatchView;
  total: TotalView;
  brief: Brief;
  onSave: (brief: Brief, words: string) => void;
}

export function TotalNote({ batch, total, brief, onSave }: Props) {
  const split = useChange((messages: number) => call("PUT", `batches/${batch.id}/messages`, { messages }));
  const leaveOut = useChange((ids: string[]) =>
    call("POST", `batches/${batch.id}/remove`, {
      ids,
      words: `leaving out ${ids.length} photos that weigh most`,
    }),
  );
  const { limit, state, level } = total;
  const nameOf = (id: string) => batch.rows.find((row) => row.id === id)?.name ?? "a photo";
  const take = (offer: Offer) => {
    if (offer.kind === "messages") split.mutate(offer.count);
    else if (offer.kind === "photos") leaveOut.mutate(offer.ids);
    else if (offer.kind === "limit")
      onSave(
        overrule(brief, { total: { ...brief.total, max: Math.ceil(offer.bytes / 1000) * 1000 } }),
        "raising the limit on the whole",
      );
    else
      onSave(
        overrule(brief, {
          longSide: {
            ...(brief.longSide?.min !== undefined && { min: brief.longSide.min }),
            max: offer.side,
          },
        }),
        `no side over ${offer.side} px`,
      );
  };
  if (state === "cannot") {
    return (
      <div
        role="note"
        aria-label="The whole is too large"
        className="mt-2.5 border-l-[3px] border-not bg-not-wash px-3 py-2"
      >
        <p>{total.why ?? cannotWords(limit, total.bytes ?? 0)}</p>
        <div className="mt-1.5 flex flex-wrap gap-2">
          {total.offers.map((offer) => (
            <button
              key={offer.kind}
              type="button"
              onClick={() => take(offer)}
              className="box px-2.5 py-1 text-left hover:bg-wash"
            >
              <span className="press">{offerWords(offer, nameOf)}</span>{" "}
              <span className="figures text-tiny text-second">
                {offer.kind === "pixels"
                  ? "about"
                  : offer.kind === "messages"
                    ? `${formatBytes(limit.max)} each`
                    : ""}
              </span>
            </button>
          ))}
        </div>
      </div>
    );
  }
  const whole =
    limit.counted === "mail"
      ? limit.messages > 1
        ? `${limit.messages} messages of ${formatBytes(limit.max)} each`
        : `one message of ${formatBytes(limit.max)}`
      : formatBytes(limit.max);
  if (state === "settling") {
    const done = total.photos - total.waiting;
    return (
      <div role="status" className="mt-2.5 max-w-96 text-small text-second">
        Sharing {whole} among {total.photos} photos, so that all end alike to the eye
        <ProgressBar label="Sharing the whole" value={done} max={total.photos} />
      </div>
    );
  }
  return (
    <p className="mt-2.5 flex flex-wrap items-baseline gap-x-2 text-small text-second">
      <span>
        {state === "own"
          ? `All photos fit into ${whole} as they are asked; nothing is made coarser for it.`
          : `Shared out: all ${total.photos} photos end at a visible difference of about ` +
            `${trimNumber(level ?? 0, 1)} in ${whole}.`}
        {total.side !== null && ` No side is over ${total.side} px, because more pixels would look worse.`}
      </span>
      {limit.messages > 1 && (
        <Button kind="quiet" className="h-auto" onClick={() => split.mutate(1)}>
          One message after all
        </Button>
      )}
    </p>
  );
}
