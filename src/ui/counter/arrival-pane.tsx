"use client";

/** A receiver's answer: the reasons, and the pictures as it shows or prints them. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { formatBytes, formatSize } from "@/core/units";
import type { Rules } from "@/receivers";
import type { ArrivalView } from "../api";
import { call } from "../api";
import { Button, StateMark } from "../parts";

type Sizes = {
  sizes: ({ width: number; height: number; scale: number | null; ppi: number | null } | null)[];
};

export function ArrivalPane({ arrival, rules }: { arrival: ArrivalView; rules: Rules }) {
  const [n, setN] = useState(0);
  const sizes = useQuery({
    queryKey: ["arrival", arrival.id],
    queryFn: () => call<Sizes>("GET", `counter/arrivals/${arrival.id}`),
    staleTime: Infinity,
  });
  const file = arrival.files[n] ?? null;
  const size = sizes.data?.sizes[n] ?? null;
  const { answer, message } = arrival;
  return (
    <aside aria-label="Answer" className="flex min-h-0 flex-col border-l border-rule">
      <figure className="shrink-0 bg-ground">
        <div className="grid h-[228px] place-items-center p-4">
          {file &&
            (rules.kind === "wall" ? (
              <OnWall arrivalId={arrival.id} n={n} name={file.name} rules={rules} />
            ) : rules.kind === "print" && size?.ppi ? (
              <Printed arrivalId={arrival.id} n={n} name={file.name} />
            ) : (
              <img
                src={`/api/counter/arrivals/${arrival.id}/file?n=${n}`}
                alt={`${file.name}, as it arrived`}
                className="max-h-[196px] max-w-full"
              />
            ))}
        </div>
        <figcaption className="figures px-3 pb-2 text-tiny">
          <span className="flex min-h-[30px] items-center justify-between gap-2">
            <span className="min-w-0 font-semibold [overflow-wrap:anywhere]">
              {file ? file.name : "no file"}
            </span>
            {arrival.files.length > 1 && (
              <span className="flex shrink-0 items-center gap-1">
                <Button aria-label="The file before" disabled={n === 0} onClick={() => setN(n - 1)}>
                  ‹
                </Button>
                {n + 1} of {arrival.files.length}
                <Button
                  aria-label="The next file"
                  disabled={n === arrival.files.length - 1}
                  onClick={() => setN(n + 1)}
                >
                  ›
                </Button>
              </span>
            )}
          </span>
          {file &&
            captions(rules, size, file.bytes).map((line) => (
              <span key={line} className="block">
                {line}
              </span>
            ))}
        </figcaption>
      </figure>
      <div
        tabIndex={0}
        role="region"
        aria-label="The receiver's answer"
        className="min-h-0 flex-1 overflow-y-auto px-4 py-3 outline-offset-[-2px]"
      >
        <p
          className={`border-l-[3px] px-3 py-1.5 ${answer.accepted ? "border-met bg-wash" : "border-not bg-not-wash"}`}
        >
          {answer.words}
        </p>
        {message && (
          <dl className="mt-3 grid grid-cols-[64px_1fr] gap-x-2 text-small">
            <dt className="text-second">Subject</dt>
            <dd className="[overflow-wrap:anywhere]">{message.subject || "none"}</dd>
            <dt className="text-second">From</dt>
            <dd className="[overflow-wrap:anywhere]">{message.from}</dd>
            <dt className="text-second">Size</dt>
            <dd className="figures">{formatBytes(message.bytes)} as it came</dd>
          </dl>
        )}
        <ul className="mt-3 space-y-2">
          {answer.lines.map((line, i) => (
            <li key={`${line.about} ${i}`} className="grid grid-cols-[18px_minmax(0,1fr)] gap-1.5">
              <span className="pt-0.5">
                <StateMark small state={line.ok ? "meets" : "cannot"} />
                <span className="sr-only">{line.ok ? "in order" : "not in order"}</span>
              </span>
              <span className="[overflow-wrap:anywhere]">
                <b>{line.about}</b>
                <span className="block text-small">{line.words}</span>
              </span>
            </li>
          ))}
        </ul>
      </div>
    </aside>
  );
}

function captions(rules: Rules, size: Sizes["sizes"][number], bytes: number): string[] {
  if (!size) return [formatBytes(bytes)];
  const px = `${formatSize(size.width, size.height)} px, ${formatBytes(bytes)}`;
  if (rules.kind === "print" && size.ppi)
    return [px, `24 × 18 mm of the print, near the eye, at ${Math.round(size.ppi)} ppi`];
  if (rules.kind === "wall" && size.scale) return [px, `on the screen at ${Math.round(size.scale * 100)} %`];
  return [px];
}

/** The whole screen, small, with what is not picture left dark, as it hangs there. */
function OnWall({
  arrivalId,
  n,
  name,
  rules,
}: {
  arrivalId: string;
  n: number;
  name: string;
  rules: { width: number; height: number };
}) {
  return (
    <span
      className="relative block overflow-hidden bg-black outline-[6px] outline-[#2a2a2a]"
      style={{
        aspectRatio: `${rules.width} / ${rules.height}`,
        width: `min(100% - 12px, ${Math.round((184 * rules.width) / rules.height)}px)`,
      }}
    >
      <img
        src={`/api/counter/arrivals/${arrivalId}/file?n=${n}`}
        alt={`${name} on the wall screen`}
        className="absolute inset-0 size-full object-contain"
      />
    </span>
  );
}

function Printed({ arrivalId, n, name }: { arrivalId: string; n: number; name: string }) {
  return (
    <img
      src={`/api/counter/arrivals/${arrivalId}/file?n=${n}&as=print`}
      alt={`A part of ${name}, as printed and seen close to the eye`}
      className="max-h-[200px] max-w-full rounded-[2px] border-4 border-white"
    />
  );
}
