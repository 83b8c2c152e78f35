"use client";

/** The measures that make layered artwork lighter, each with what it really saves. */
import { useQuery } from "@tanstack/react-query";
import type { Lighter } from "@/core/photo";
import type { Savings } from "@/core/pixels/layers";
import { formatBytes, formatSize, trimNumber } from "@/core/units";
import type { LayersView, LighterView, RowView } from "../api";
import { call, useChange } from "../api";
import { Slide } from "../parts";

interface Props {
  batchId: string;
  row: RowView;
  view: LayersView;
}

type Switch = "repack" | "crop" | "hidden" | "extras";
const SWITCHES: readonly [key: Switch, label: string, note: string][] = [
  ["repack", "Pack pictures tighter", "every pixel the same"],
  ["crop", "Cut away what is empty around layers", "nothing is lost"],
  ["hidden", "Leave out hidden layers", "they are gone from the file"],
  ["extras", "Leave out what lies beside the picture", "a history, for example"],
];

export function Measures({ batchId, row, view }: Props) {
  const { format } = view;
  const put = useChange((lighter: Lighter) =>
    call("PUT", `batches/${batchId}/frame`, {
      rowId: row.id,
      frame: { ...row.frame, lighter },
      accepted: false,
    }),
  );
  // What was just set is shown at once, not when the server has answered.
  const lighter = put.isPending ? put.variables : view.lighter;
  const set = (change: Partial<Lighter>) => put.mutate({ ...lighter, ...change });
  const { data, error, isFetching } = useQuery({
    queryKey: ["lighter", row.photoId, row.revisionId, lighter],
    queryFn: () => call<LighterView>("POST", `assignments/${row.assignmentId}/layers`, lighter),
    staleTime: Infinity,
    placeholderData: (old?: LighterView) => old,
  });
  const saves = (key: keyof Savings) =>
    data ? (data.savings[key] > 0 ? `−${formatBytes(data.savings[key])}` : "nothing") : "…";
  const has = (kind: "preview" | "thumbnail") => view.parts.some((part) => part.kind === kind);
  const shown = format === "tiff" ? SWITCHES.slice(0, 1) : SWITCHES;
  return (
    <section aria-label="Measures" className="mt-4 border-t border-rule pt-3">
      <h2 className="font-semibold">How it becomes lighter</h2>
      {shown.map(([key, label, note]) => (
        <label key={key} className="mt-1.5 grid grid-cols-[16px_minmax(0,1fr)_auto] items-start gap-x-2">
          <input
            type="checkbox"
            checked={lighter[key]}
            onChange={(event) => set({ [key]: event.target.checked })}
            className="mt-0.5 size-4 accent-plum"
          />
          <span>
            {label} <span className="block text-small text-second">{note}</span>
          </span>
          <span className="figures text-right">{saves(key)}</span>
        </label>
      ))}
      {has("preview") && (
        <Stored
          label={format === "tiff" ? "Smaller copies" : "Stored picture"}
          value={lighter.preview}
          smaller={format === "tiff" ? null : saves("previewSmaller")}
          drop={saves("previewDrop")}
          onSet={(preview) => set({ preview })}
        />
      )}
      {has("thumbnail") && (
        <Stored
          label="Thumbnail"
          value={lighter.thumbnail}
          smaller={saves("thumbnailSmaller")}
          drop={saves("thumbnailDrop")}
          onSet={(thumbnail) => set({ thumbnail })}
        />
      )}
      <Slide
        label="Pixels"
        value={lighter.scale}
        min={10}
        max={100}
        say={(value) => `${trimNumber(value, 0)} %`}
        onSet={(scale) => set({ scale })}
      />
      <p className="text-small text-second">
        of each side, for all at once; never under a floor of the brief.
      </p>
      <p role="status" className="mt-3 border-t border-thin pt-2">
        {error ? (
          <span className="text-not">{error.message}</span>
        ) : data ? (
          <>
            <b className="figures">{formatBytes(data.bytes)}</b>{" "}
            <span className="figures text-second">
              of {formatBytes(view.bytes)}, {formatSize(data.width, data.height)} px
              {isFetching ? ", being measured anew" : ""}
            </span>
          </>
        ) : (
          <span className="text-second">Being measured.</span>
        )}
      </p>
      {data?.told.map((words) => (
        <p key={words} className="mt-1.5 text-small text-needs">
          {words}
        </p>
      ))}
    </section>
  );
}

interface StoredProps {
  label: string;
  value: Lighter["preview"];
  /** What it saves; null where it cannot be made smaller. */
  smaller: string | null;
  drop: string;
  onSet: (value: Lighter["preview"]) => void;
}

function Stored({ label, value, smaller, drop, onSet }: StoredProps) {
  return (
    <label className="mt-2 grid grid-cols-[minmax(0,1fr)_auto] items-center gap-2">
      {label}
      <select
        aria-label={label}
        value={value}
        onChange={(event) => onSet(event.target.value as Lighter["preview"])}
        className="box figures h-7 px-1.5"
      >
        <option value="keep">stays</option>
        {smaller !== null && <option value="smaller">smaller, {smaller}</option>}
        <option value="drop">left out, {drop}</option>
      </select>
    </label>
  );
}
