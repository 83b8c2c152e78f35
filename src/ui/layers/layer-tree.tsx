"use client";

/**
 * The layers and groups of the file, from the top, each with a tick for whether it takes part when all are
 * flattened.
 */
import type { Frame } from "@/core/photo";
import type { LayersView, LayerView, RowView } from "../api";
import { call, useChange } from "../api";
import { Button } from "../parts";

interface Props {
  batchId: string;
  row: RowView;
  view: LayersView;
  /** Place that is pointed at, here or among the weights. */
  lit: string | null;
  onLit: (place: string | null) => void;
}

export function LayerTree({ batchId, row, view, lit, onLit }: Props) {
  const set = useChange((change: Pick<Frame, "layers" | "page">) =>
    call("PUT", `batches/${batchId}/frame`, {
      rowId: row.id,
      frame: { ...row.frame, ...change },
      accepted: false,
    }),
  );
  const pages = view.format === "tiff";
  // What was just ticked is shown at once, not when the server has answered.
  const { layers: now, page: nowPage } = set.isPending ? { ...row.frame, ...set.variables } : row.frame;
  const isShown = ({ place, shown, visible }: LayerView) =>
    !set.isPending
      ? shown
      : pages
        ? Number(place) + 1 === (nowPage ?? 1)
        : now?.shown.includes(place) || (visible && !now?.hidden.includes(place));
  const toggle = ({ place, shown, visible }: LayerView) => {
    if (pages) return set.mutate({ page: Number(place) + 1 });
    const { shown: on = [], hidden: off = [] } = row.frame.layers ?? {};
    const rest = { shown: on.filter((p) => p !== place), hidden: off.filter((p) => p !== place) };
    const next = !shown;
    // What is as the file says needs no mention.
    set.mutate({
      layers:
        next === visible
          ? rest
          : next
            ? { ...rest, shown: [...rest.shown, place] }
            : { ...rest, hidden: [...rest.hidden, place] },
    });
  };
  const changed = row.frame.layers && row.frame.layers.shown.length + row.frame.layers.hidden.length > 0;
  return (
    <>
      <div className="flex items-center justify-between gap-2 px-4 pt-3 pb-1">
        <h2 className="text-[16px] font-bold">{pages ? "Pages" : "Layers, top first"}</h2>
        {changed && !view.keeps && (
          <Button onClick={() => set.mutate({ layers: { shown: [], hidden: [] } })}>As the file says</Button>
        )}
      </div>
      <ul
        tabIndex={0}
        aria-label={pages ? "Pages of the file" : "Layers of the file"}
        className="min-h-0 flex-1 overflow-y-auto px-2 pb-2 outline-offset-[-2px]"
      >
        {view.layers.map((layer) => (
          <li
            key={layer.place}
            onPointerEnter={() => onLit(layer.place)}
            onPointerLeave={() => onLit(null)}
            className={`rounded ${lit === layer.place ? "bg-wash" : ""}`}
            style={{ paddingLeft: (layer.place.split(".").length - 1) * 18 }}
          >
            <label
              className={`flex min-h-7 items-center gap-2 px-2 ${layer.seen || pages ? "" : "text-second"}`}
            >
              <input
                type={pages ? "radio" : "checkbox"}
                name={pages ? "page" : undefined}
                checked={isShown(layer)}
                disabled={view.keeps}
                onChange={() => toggle(layer)}
                className="size-4 shrink-0 accent-plum"
              />
              <span className={`min-w-0 truncate ${layer.group ? "font-semibold" : ""}`} title={layer.name}>
                {layer.name}
              </span>
              {layer.how && (
                <span className="figures ml-auto shrink-0 text-tiny text-second">{layer.how}</span>
              )}
            </label>
          </li>
        ))}
      </ul>
      {view.keeps && (
        <p className="px-4 pb-2 text-small text-second">All stay in the file, shown or hidden as they are.</p>
      )}
    </>
  );
}
