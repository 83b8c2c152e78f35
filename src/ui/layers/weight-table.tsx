"use client";

/** What weighs how much: every part of the file, the heaviest first, with its share drawn. */
import { formatBytes, trimNumber } from "@/core/units";
import type { LayersView } from "../api";

const KINDS = {
  layer: "layer",
  preview: "stored picture",
  thumbnail: "thumbnail",
  extra: "beside the picture",
  frame: "the file's own",
};

export function WeightTable({
  view,
  lit,
  onLit,
}: {
  view: LayersView;
  lit: string | null;
  onLit: (place: string | null) => void;
}) {
  const heaviest = Math.max(1, ...view.parts.map((part) => part.bytes));
  return (
    <section aria-label="What weighs how much" className="flex min-h-0 min-w-0 flex-col">
      <div className="px-4 pt-3 pb-1">
        <h2 className="text-[16px] font-bold">What weighs how much</h2>
        <p className="figures text-small text-second">
          {formatBytes(view.bytes)} in all, {view.width} × {view.height} px
        </p>
      </div>
      <div
        tabIndex={0}
        role="region"
        aria-label="Weights, can be scrolled"
        className="min-h-0 flex-1 overflow-y-auto px-4 pb-3 outline-offset-[-2px]"
      >
        <table className="w-full table-fixed border-collapse">
          <thead className="sticky top-0 bg-paper text-left text-small text-second">
            <tr className="border-b border-rule">
              <th className="py-1 font-normal">Part</th>
              <th className="w-[120px] py-1 font-normal">Kind</th>
              <th className="w-[84px] py-1 text-right font-normal">Bytes</th>
              <th className="w-[64px] py-1 text-right font-normal">Share</th>
            </tr>
          </thead>
          <tbody>
            {view.parts.map((part) => (
              <tr
                key={part.path}
                onPointerEnter={() => onLit(part.places[0] ?? null)}
                onPointerLeave={() => onLit(null)}
                className={`border-b border-thin ${lit !== null && part.places.includes(lit) ? "bg-wash" : ""}`}
              >
                <td className="py-1.5 pr-3">
                  <span className="block truncate" title={part.path}>
                    {part.name}
                  </span>
                  <span aria-hidden className="mt-1 block h-[5px] bg-wash">
                    <span
                      className={`block h-full ${part.kind === "layer" && !part.hidden ? "bg-plum" : "bg-second"}`}
                      style={{ width: `${(part.bytes / heaviest) * 100}%` }}
                    />
                  </span>
                </td>
                <td className="py-1.5 text-small text-second">
                  {part.hidden
                    ? "hidden layer"
                    : view.format === "tiff"
                      ? part.kind === "layer"
                        ? "page"
                        : "smaller copy"
                      : KINDS[part.kind]}
                </td>
                <td className="figures py-1.5 text-right">{formatBytes(part.bytes)}</td>
                <td className="figures py-1.5 text-right text-second">
                  {trimNumber((part.bytes / view.bytes) * 100, 1)} %
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
