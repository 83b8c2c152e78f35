"use client";

/**
 * Every trial that was made, the smallest first: size, what it saves, what is seen of it, how long it took.
 */
import { memo } from "react";
import { formatName } from "@/core/brief";
import { type Choice, choiceName } from "@/core/coding";
import { CLEAN } from "@/core/difference";
import { formatBytes, formatSize, trimNumber } from "@/core/units";
import type { TrialView, WeighView } from "../api";
import { asked } from "./lines";
import { choiceOf } from "./panes";

interface Props {
  view: WeighView;
  numbers: ReadonlyMap<string, number>;
  onShow: (choice: Choice) => void;
  /** Keeps the photo's own data, packed tighter; null where that is what is taken already. */
  onPacked: (() => void) | null;
}

/** Nothing is saved by a file that is larger than the photo was. */
const saved = (bytes: number, source: number) =>
  bytes < source ? `${Math.round((1 - bytes / source) * 100)} %` : "larger";

export const TrialList = memo(function TrialList({ view, numbers, onShow, onPacked }: Props) {
  return (
    <table className="w-full border-collapse text-small">
      <thead className="sticky top-0 bg-paper">
        <tr className="border-b border-rule text-left text-second">
          <th scope="col" className="py-1.5 font-semibold">
            Trial
          </th>
          {["Size", "Saves", "Difference", "Took"].map((title) => (
            <th key={title} scope="col" className="py-1.5 pl-2 text-right font-semibold">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {view.trials.map((trial) => (
          <Row
            key={trial.key}
            trial={trial}
            view={view}
            number={numbers.get(trial.key) ?? null}
            onShow={onShow}
          />
        ))}
        {view.packed !== null && (
          <tr className="border-b border-thin">
            <th scope="row" className="py-1.5 pl-[26px] text-left font-normal">
              Its own data, packed tighter
              {onPacked ? (
                <button type="button" className="press ml-1.5 hover:underline" onClick={onPacked}>
                  take it
                </button>
              ) : (
                <span className="press ml-1.5">taken</span>
              )}
            </th>
            <Figure value={formatBytes(view.packed)} />
            <Figure value={saved(view.packed, view.sourceBytes)} />
            <Figure value="0" strong />
            <td />
          </tr>
        )}
      </tbody>
    </table>
  );
});

function Row({
  trial,
  view,
  number,
  onShow,
}: {
  trial: TrialView;
  view: WeighView;
  number: number | null;
  onShow: (choice: Choice) => void;
}) {
  const { setting, size, bytes, difference, ms } = trial;
  const { min, max } = view.range;
  const outside = !asked(setting.format, view)
    ? `${formatName(setting.format)} is not asked`
    : max !== null && bytes > max
      ? "above the ceiling"
      : min !== null && bytes < min
        ? "below the floor"
        : null;
  const taken = trial.key === view.chosen;
  return (
    <tr className={`border-b border-thin ${number !== null ? "bg-wash" : ""}`}>
      <th scope="row" className="p-0 text-left font-normal">
        <button
          type="button"
          onClick={() => onShow(choiceOf(trial))}
          title={outside ? `${outside}; show it in a pane` : "Show it in a pane"}
          className="flex w-full items-center gap-2 py-1.5 text-left hover:underline"
        >
          <span
            aria-hidden={number === null}
            className={`figures grid size-[18px] shrink-0 place-items-center rounded-full text-[11px] ${number !== null ? "bg-plum text-white" : ""}`}
          >
            {number}
          </span>
          <span className={outside ? "text-second" : ""}>
            {choiceName(setting as Choice)}
            {taken && <span className="press ml-1.5">taken</span>}
            {outside && <span className="sr-only">, {outside}</span>}
            {size.side !== null && (
              <span className="figures block text-tiny text-second">
                {formatSize(size.width, size.height)} px
              </span>
            )}
          </span>
        </button>
      </th>
      <Figure value={formatBytes(bytes)} faint={outside !== null && asked(setting.format, view)} />
      <Figure value={saved(bytes, view.sourceBytes)} />
      <Figure
        value={difference === null ? "…" : trimNumber(difference, 2)}
        strong={difference !== null && difference <= CLEAN}
      />
      <Figure value={ms === null ? "" : ms < 950 ? `${ms} ms` : `${trimNumber(ms / 1000, 1)} s`} />
    </tr>
  );
}

const Figure = ({
  value,
  strong = false,
  faint = false,
}: {
  value: string;
  strong?: boolean;
  faint?: boolean;
}) => (
  <td
    className={`figures py-1.5 pl-2 text-right whitespace-nowrap ${strong ? "font-semibold" : ""} ${faint ? "text-second line-through decoration-1" : ""}`}
  >
    {value}
  </td>
);
