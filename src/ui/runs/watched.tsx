"use client";

/** Folders of the machine where Zumbrel runs, whose photos are made into files as they come. */
import { useState } from "react";
import type { WatchesView, WatchView } from "../api";
import { call, useChange, useShelf, useWatches } from "../api";
import { Button, Pop } from "../parts";

/** Nothing is shown where no folder was allowed at the start. */
export function Watched() {
  const [open, setOpen] = useState(false);
  const { data } = useWatches(true);
  if (!data?.watchRoots.length || !data.outRoots.length) return null;
  const { watches } = data;
  const waiting = watches.reduce((sum, { needsYou }) => sum + needsYou, 0);
  const trouble = watches.some(({ problem }) => problem);
  return (
    <Pop
      open={open}
      onOpen={setOpen}
      trigger={
        <button type="button" className="border-t border-rule px-[18px] py-3 text-left hover:bg-thin">
          <span className="block text-small font-semibold">Watched folders</span>
          <span className="figures text-small text-second">
            {watches.length === 0
              ? "none yet"
              : `${watches.length} ${trouble ? "· one does not run" : "watched"}`}
            {waiting > 0 && <span className="text-needs"> · {waiting} need you</span>}
          </span>
        </button>
      }
      side="right"
      align="end"
      sideOffset={8}
      label="Watched folders"
      className="max-h-[calc(100vh-60px)] w-[460px] overflow-y-auto"
    >
      {watches.length > 0 && (
        <ul aria-label="Folders that are watched" className="mb-4">
          {watches.map((watch) => (
            <WatchRow key={watch.id} watch={watch} />
          ))}
        </ul>
      )}
      <NewWatch roots={data} />
    </Pop>
  );
}

function WatchRow({ watch }: { watch: WatchView }) {
  const stop = useChange(() => call("DELETE", `watches/${watch.id}`));
  return (
    <li className="border-b border-thin py-2 first:pt-0">
      <div className="flex items-baseline gap-3">
        <span className="figures min-w-0 flex-1 font-semibold [overflow-wrap:anywhere]">{watch.folder}</span>
        <Button disabled={stop.isPending} onClick={() => stop.mutate(undefined)}>
          Stop
        </Button>
      </div>
      <p className="text-small text-second [overflow-wrap:anywhere]">
        {watch.brief} → <span className="figures">{watch.out}</span>
      </p>
      <p className="figures text-small">
        {watch.ready} ready
        {watch.needsYou > 0 && <span className="text-needs"> · {watch.needsYou} in needs-you</span>}
      </p>
      {watch.problem ? (
        <p role="alert" className="text-small text-not [overflow-wrap:anywhere]">
          {watch.problem}
        </p>
      ) : (
        <p className="text-small text-second [overflow-wrap:anywhere]">
          {watch.said ? `Last: ${watch.said}` : "Waiting for the first photo."}
        </p>
      )}
    </li>
  );
}

function NewWatch({ roots }: { roots: WatchesView }) {
  const shelf = useShelf();
  const [from, setFrom] = useState({ root: roots.watchRoots[0], folder: "" });
  const [out, setOut] = useState({ root: roots.outRoots[0], folder: "" });
  const [chosen, setChosen] = useState<string | null>(null);
  const briefs = shelf.data?.briefs ?? [];
  const revisionId = chosen ?? briefs[0]?.revisionId ?? "";
  const begin = useChange(async () => {
    await call("POST", "watches", { from, out, revisionId });
    setFrom({ ...from, folder: "" });
    setOut({ ...out, folder: "" });
  });
  return (
    <form
      aria-label="Watch another folder"
      onSubmit={(event) => {
        event.preventDefault();
        begin.mutate(undefined);
      }}
    >
      <Place label="Photos come to lie in" roots={roots.watchRoots} value={from} onChange={setFrom} />
      <label className="mb-2 block">
        <span className="mb-1 block text-small text-second">Brief from the shelf</span>
        <select
          value={revisionId}
          onChange={(event) => setChosen(event.target.value)}
          className="box h-8 w-full px-1.5"
        >
          {briefs.map((one) => (
            <option key={one.id} value={one.revisionId}>
              {one.body.name}
            </option>
          ))}
        </select>
      </label>
      <Place label="What is ready goes to" roots={roots.outRoots} value={out} onChange={setOut} />
      <Button kind="plain" type="submit" disabled={begin.isPending || !revisionId}>
        Watch it
      </Button>
      <p className="mt-2 text-small text-second">
        What cannot be met goes to needs-you there, with a text that says why. Originals stay where they are.
      </p>
    </form>
  );
}

interface Where {
  root: string;
  folder: string;
}

function Place({
  label,
  roots,
  value,
  onChange,
}: {
  label: string;
  roots: readonly string[];
  value: Where;
  onChange: (value: Where) => void;
}) {
  return (
    <fieldset className="mb-2">
      <legend className="mb-1 text-small text-second">{label}</legend>
      <div className="flex gap-2">
        <select
          aria-label={`${label}: folder that was allowed at the start`}
          value={value.root}
          onChange={(event) => onChange({ ...value, root: event.target.value })}
          className="box figures h-8 min-w-0 flex-1 px-1.5"
        >
          {roots.map((root) => (
            <option key={root}>{root}</option>
          ))}
        </select>
        <input
          aria-label={`${label}: folder inside it, if any`}
          placeholder="folder inside it"
          value={value.folder}
          maxLength={400}
          onChange={(event) => onChange({ ...value, folder: event.target.value })}
          autoComplete="off"
          className="box figures h-8 w-40 px-2"
        />
      </div>
    </fieldset>
  );
}
