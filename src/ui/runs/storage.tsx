"use client";

/** How much space is used, what can be freed, and whether everything is there that should be. */
import { useState } from "react";
import { formatBytes } from "@/core/units";
import { call, useChange, useStorage } from "../api";
import { Button, Pop } from "../parts";

interface Checked {
  files: number;
  missing: number;
  strays: number;
  strayBytes: number;
}

export function Storage() {
  const [open, setOpen] = useState(false);
  const { data, error } = useStorage(true);
  const [said, setSaid] = useState<string | null>(null);
  const [strays, setStrays] = useState(0);
  const free = useChange(async () => {
    const { files, bytes } = await call<{ files: number; bytes: number }>("POST", "storage", { do: "free" });
    setSaid(bytes ? `Freed ${formatBytes(bytes)} (${files} files).` : "There was nothing to free.");
  });
  const check = useChange(async () => {
    const found = await call<Checked>("POST", "storage", { do: "check" });
    setStrays(found.strays);
    const whole = found.missing === 0 && found.strays === 0;
    setSaid(
      whole
        ? `All ${found.files} files are there, and nothing else.`
        : `${found.files} files looked at: ${found.missing} missing or not whole, ${found.strays} ` +
            `without a row (${formatBytes(found.strayBytes)}).`,
    );
  });
  const clear = useChange(async () => {
    const { removed } = await call<{ removed: number }>("POST", "storage", { do: "strays" });
    setStrays(0);
    setSaid(`${removed} files without a row were removed.`);
  });
  const freeable = data ? data.trials + data.leftovers + data.planned : 0;
  return (
    <Pop
      open={open}
      onOpen={setOpen}
      trigger={
        <button type="button" className="border-t border-rule px-[18px] py-3 text-left hover:bg-thin">
          <span className="block text-small font-semibold">Storage</span>
          <span className="figures text-small text-second">
            {data
              ? `${formatBytes(data.total)} used, ${formatBytes(data.free)} free`
              : error
                ? "not known"
                : "…"}
          </span>
        </button>
      }
      side="right"
      align="end"
      sideOffset={8}
      label="Storage"
      className="w-[400px]"
    >
      {error && <p className="text-not">{error.message}</p>}
      {data && (
        <dl>
          <Line name="Originals in batches" bytes={data.originals} note="never removed" />
          <Line name="Files of runs" bytes={data.runs} note="until a run's files are given up" />
          <Line name="Files ready to be taken" bytes={data.ready} note="measured for the Desk" />
          <Line
            name="Trials and planned pictures"
            bytes={data.trials + data.planned}
            note="made again when they are needed"
          />
          <Line
            name="Of removed batches and runs"
            bytes={data.leftovers}
            note="kept for a week, so that they can come back"
          />
        </dl>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button disabled={!freeable || free.isPending} onClick={() => free.mutate(undefined)}>
          Free {formatBytes(freeable)}
        </Button>
        <Button disabled={check.isPending} onClick={() => check.mutate(undefined)}>
          Check that all is there
        </Button>
        {strays > 0 && (
          <Button disabled={clear.isPending} onClick={() => clear.mutate(undefined)}>
            Remove the {strays} without a row
          </Button>
        )}
      </div>
      <p role="status" className="mt-2 text-small text-second">
        {said ?? "Freeing also ends the week in which removed batches can come back."}
      </p>
    </Pop>
  );
}

const Line = ({ name, bytes, note }: { name: string; bytes: number; note: string }) => (
  <div className="flex items-baseline justify-between gap-3 border-b border-thin py-1">
    <dt>
      {name} <span className="block text-tiny text-second">{note}</span>
    </dt>
    <dd className="figures whitespace-nowrap">{formatBytes(bytes)}</dd>
  </div>
);
