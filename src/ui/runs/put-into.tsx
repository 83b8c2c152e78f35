"use client";

/**
 * A run's files into a folder of the machine where Zumbrel runs, one of those that were allowed at its start.
 */
import { FolderDown } from "lucide-react";
import { useState } from "react";
import type { RunDetail } from "../api";
import { call, useChange } from "../api";
import { Button, Pop } from "../parts";
import { say } from "../say";

export function PutInto({ run }: { run: RunDetail }) {
  const [open, setOpen] = useState(false);
  const [root, setRoot] = useState(run.outRoots[0]);
  const [folder, setFolder] = useState("");
  const put = useChange(async () => {
    const { written, renamed } = await call<{ written: number; renamed: number }>(
      "POST",
      `runs/${run.id}/out`,
      { root, folder },
    );
    setOpen(false);
    const numbered = renamed
      ? ` ${renamed} got a number behind the name, because a file of that name was there.`
      : "";
    say(`${written} files are in ${root}${folder ? `/${folder}` : ""}.${numbered}`);
  });
  return (
    <Pop
      open={open}
      onOpen={setOpen}
      trigger={
        <button
          type="button"
          className="box press inline-flex h-11 items-center gap-2 px-3 whitespace-nowrap hover:bg-wash"
        >
          <FolderDown size={16} aria-hidden /> Into a folder
        </button>
      }
      side="top"
      align="end"
      sideOffset={8}
      label="Into a folder of this machine"
      className="w-96"
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          put.mutate(undefined);
        }}
      >
        <label className="mb-2 block">
          <span className="mb-1 block text-small text-second">Folder that was allowed at the start</span>
          <select
            value={root}
            onChange={(event) => setRoot(event.target.value)}
            className="box figures h-8 w-full px-1.5"
          >
            {run.outRoots.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        </label>
        <label className="mb-3 block">
          <span className="mb-1 block text-small text-second">Folder inside it, if any</span>
          <input
            value={folder}
            maxLength={400}
            onChange={(event) => setFolder(event.target.value)}
            autoComplete="off"
            className="box figures h-8 w-full px-2"
          />
        </label>
        <Button kind="plain" type="submit" disabled={put.isPending}>
          Put the files there
        </Button>
        <p className="mt-2 text-small text-second">Nothing that is there is written over.</p>
      </form>
    </Pop>
  );
}
