"use client";

/** How far a run is, how long it still takes, and the buttons that stop it and let it go on. */
import { secondsWords } from "@/core/delivery/mail";
import type { RunProgress } from "../api";
import { call, useChange } from "../api";
import { Button } from "./button";
import { ProgressBar } from "./progress-bar";

export function RunGoing({ run }: { run: RunProgress }) {
  const change = useChange((to: "pause" | "resume" | "cancel") =>
    call("POST", `runs/${run.id}/state`, { to }),
  );
  const made = run.done + run.failed;
  return (
    <div className="flex items-center gap-3">
      <div role="status" className="w-52">
        <span className="block truncate text-small">
          {made} of {run.total} {run.total === 1 ? "file" : "files"} made
          {run.failed > 0 && `, ${run.failed} failed`}
        </span>
        <ProgressBar label="Files made" value={made} max={run.total} />
        <span className="block text-tiny text-second">{words(run)}</span>
      </div>
      {run.paused ? (
        <Button disabled={change.isPending} onClick={() => change.mutate("resume")}>
          Go on
        </Button>
      ) : (
        <Button disabled={change.isPending} onClick={() => change.mutate("pause")}>
          Pause
        </Button>
      )}
      <Button kind="quiet" disabled={change.isPending} onClick={() => change.mutate("cancel")}>
        Cancel the rest
      </Button>
    </div>
  );
}

function words(run: RunProgress): string {
  if (run.paused === "disk") return "Paused: the disk is full. It goes on by itself when there is space.";
  if (run.paused) return "Paused; what is made stays.";
  return run.secondsLeft === null ? "Just begun" : `About ${secondsWords(run.secondsLeft)} left`;
}
