"use client";

/** The pixels that the next trials have, where the brief leaves them free. */
import { formatSize } from "@/core/units";
import type { WeighedSizeView, WeighView } from "../api";

interface Props {
  view: WeighView;
  size: WeighedSizeView;
  onSize: (size: WeighedSizeView) => void;
}

export function TriedAt({ view, size, onSize }: Props) {
  const { sizes, seenAs } = view;
  if (sizes.length < 2) return null;
  // Other pixels are tried at the bytes of a trial that is there.
  const ready = view.trials.some(({ difference }) => difference !== null);
  return (
    <label className="mt-1 flex items-center gap-2 text-small text-second">
      Trials have
      <select
        value={String(size.side)}
        disabled={!ready}
        onChange={(event) => onSize(sizes.find(({ side }) => String(side) === event.target.value)!)}
        className="box h-7 min-w-0 flex-1 px-1.5 text-ink"
      >
        {sizes.map((one) => (
          <option key={String(one.side)} value={String(one.side)}>
            {[`${formatSize(one.width, one.height)} px`, ...wordsOf(one, seenAs)].join(", ")}
          </option>
        ))}
      </select>
    </label>
  );
}

function wordsOf({ side, all, width, height }: WeighedSizeView, seenAs: WeighView["seenAs"]): string[] {
  const words: string[] = [];
  if (side === null) words.push("as planned");
  if (all) words.push("all pixels");
  // All pixels at the view are looked at as they are.
  else if (seenAs?.width === width && seenAs.height === height) words.push("at the view");
  return words;
}
