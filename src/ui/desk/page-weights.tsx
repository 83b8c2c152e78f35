"use client";

/** Which files a screen takes, what they weigh and how long they load, before and after; and the markup to paste. */
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { formatName } from "@/core/brief";
import { type PageWeight, pageWeights, pictureMarkup, secondsFor } from "@/core/delivery/picture-set";
import { formatBytes, trimNumber } from "@/core/units";
import type { BatchView } from "../api";
import { call } from "../api";
import { Button, Typed, useRemembered } from "../parts";
import { copied, pageOf } from "./markup";
import { WeightChart } from "./weight-chart";

const text = (value: unknown) => (typeof value === "string" ? value : null);

/** What is typed as a number above 0; null where it is none. */
function amount(typed: string, most: number): number | null {
  const value = Number(typed.replace(",", ".").replace(/\s*%$/, ""));
  return Number.isFinite(value) && value > 0 && value <= most ? value : null;
}

export function PageWeights({ batch }: { batch: BatchView }) {
  const [typedShare, setShare] = useRemembered("page share", text);
  const [typedSpeed, setSpeed] = useRemembered("load speed", text);
  const share = amount(typedShare ?? "100", 100);
  const speed = amount(typedSpeed ?? "10", 1e6);
  const page = useMemo(() => pageOf(batch.rows), [batch.rows]);
  const weights = useMemo(() => pageWeights(page, (share ?? 100) / 100), [page, share]);
  const about = page.some(({ row }) => row.figure === "about");
  if (!page.length) return <p>No photo here becomes a set yet.</p>;
  return (
    <>
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-x-4">
        <h3 className="font-semibold">
          A page with {page.length === 1 ? "this picture" : `these ${page.length} pictures`}
          {about ? ", about" : ""}
        </h3>
        <span className="flex gap-4">
          <Typed
            label="each as wide as"
            value={typedShare ?? "100"}
            bad={share === null}
            onChange={setShare}
            unit="% of the screen"
          />
          <Typed
            label="at"
            value={typedSpeed ?? "10"}
            bad={speed === null}
            onChange={setSpeed}
            unit="Mbit/s"
          />
        </span>
      </div>
      <Weights weights={weights} speed={speed} about={about} />
      <Markup batch={batch} page={page} share={share ?? 100} />
    </>
  );
}

const ROW = 25;

function Weights({
  weights,
  speed,
  about,
}: {
  weights: readonly PageWeight[];
  speed: number | null;
  about: boolean;
}) {
  const [{ before }] = weights;
  const time = (bytes: number) =>
    speed ? `${trimNumber(secondsFor(bytes, speed), bytes < 1e6 ? 2 : 1)} s` : "–";
  return (
    <div className="relative mb-4">
      <table className="figures w-full table-fixed">
        <caption className="sr-only">Bytes and seconds of the page for each screen</caption>
        <thead className="font-words text-left text-tiny tracking-normal text-second">
          <tr>
            <th scope="col" className="w-[70px] font-normal">
              Screen
            </th>
            <th scope="col" className="w-[52px] font-normal">
              Density
            </th>
            <th scope="col" className="w-[132px] font-normal">
              Takes
            </th>
            <th scope="col" className="font-normal">
              <span className="sr-only">Before and after, drawn</span>
            </th>
            <th scope="col" className="w-[84px] text-right font-normal">
              Bytes
            </th>
            <th scope="col" className="w-[62px] text-right font-normal">
              Loads in
            </th>
          </tr>
        </thead>
        <tbody>
          {weights.map((one) => (
            <tr key={`${one.width} ${one.density}`} className="border-t border-thin" style={{ height: ROW }}>
              <th scope="row" className="text-left font-normal">
                {one.width} px
              </th>
              <td>{one.density}×</td>
              <td className="truncate text-second">{takenWords(one)}</td>
              <td />
              <td className="text-right font-semibold">
                {about ? "~" : ""}
                {formatBytes(one.after)}
              </td>
              <td className="text-right">{time(one.after)}</td>
            </tr>
          ))}
          <tr className="border-t border-rule text-second" style={{ height: ROW }}>
            <th scope="row" colSpan={3} className="text-left font-normal font-words tracking-normal">
              The photos as they came, on any screen
            </th>
            <td />
            <td className="text-right">{formatBytes(before)}</td>
            <td className="text-right">{time(before)}</td>
          </tr>
        </tbody>
      </table>
      <WeightChart weights={weights} row={ROW} />
    </div>
  );
}

/** "960 px AVIF", "480–960 px": the files that a screen takes. */
function takenWords({ taken }: PageWeight): string {
  const widths = taken.map(({ width }) => width);
  const [low, high] = [Math.min(...widths), Math.max(...widths)];
  const formats = new Set(taken.map(({ format }) => format));
  const kind = formats.size === 1 ? ` ${formatName(taken[0].format)}` : "";
  return `${low === high ? low : `${low}–${high}`} px${kind}`;
}

function Markup({
  batch,
  page,
  share,
}: {
  batch: BatchView;
  page: ReturnType<typeof pageOf>;
  share: number;
}) {
  const [standing, setStanding] = useState(false);
  const [eager, setEager] = useState(false);
  const standIns = useQuery({
    queryKey: ["stand-ins", batch.id],
    queryFn: () => call<Record<string, string>>("GET", `batches/${batch.id}/stand-ins`),
    enabled: standing,
    staleTime: 0,
  });
  const wordless = page.filter(({ row }) => !row.alt).length;
  const markup = page
    .map(({ row, files }, i) =>
      pictureMarkup(files, {
        alt: row.alt,
        sizes: `${trimNumber(share, 1)}vw`,
        loading: eager && i === 0 ? "eager" : "lazy",
        standIn: (standing && standIns.data?.[row.id]) || null,
      }),
    )
    .join("\n\n");
  return (
    <section aria-label="Markup">
      <header className="mb-1 flex items-baseline justify-between gap-4">
        <h3 className="font-semibold">The markup to paste</h3>
        <span className="flex gap-4 text-small">
          <Tick label="first picture at once" on={eager} onChange={setEager} />
          <Tick label="blurred stand-ins" on={standing} onChange={setStanding} />
        </span>
      </header>
      <textarea
        readOnly
        aria-label="Markup of all pictures"
        value={markup}
        rows={7}
        onFocus={(event) => event.target.select()}
        className="box figures w-full resize-none px-2 py-1.5 text-tiny whitespace-pre"
      />
      <div className="mt-1 flex items-center justify-between gap-4">
        <Button onClick={() => copied(markup, "The markup of the page is copied")}>Copy all of it</Button>
        <p className="text-small text-second">
          {wordless === 0
            ? "Every picture has words for those who do not see it."
            : `${wordless} of ${page.length} ${wordless === 1 ? "has" : "have"} no words yet for those who do not see it: type them beside the photo.`}
        </p>
      </div>
    </section>
  );
}

function Tick({ label, on, onChange }: { label: string; on: boolean; onChange: (next: boolean) => void }) {
  return (
    <label className="flex items-center gap-1.5">
      <input
        type="checkbox"
        checked={on}
        onChange={(event) => onChange(event.target.checked)}
        className="size-4 accent-plum"
      />
      {label}
    </label>
  );
}
