/** How far a run is, and about how long it still takes. */
import type { ItemState, runs } from "@/store";
import type { RunProgress } from "@/ui/api";

/** So many photos have to be done before the time left is told. */
const ENOUGH = 2;

export function runProgress(
  run: typeof runs.$inferSelect,
  items: readonly { state: ItemState }[],
  folders: boolean,
  now = Date.now(),
): RunProgress {
  const count = (state: ItemState) => items.filter((item) => item.state === state).length;
  const [done, failed, cancelled] = [count("done"), count("failed"), count("cancelled")];
  const finished = run.finishedAt !== null;
  const paused = run.pausedAt === null ? null : run.pauseReason === "disk" ? "disk" : "asked";
  const since = done + failed - run.finishedThen;
  const seconds = (now - run.resumedAt.getTime()) / 1000;
  const left = items.length - done - failed - cancelled;
  // A clock that was set back would tell nonsense.
  const known = !finished && !paused && since >= ENOUGH && seconds > 0;
  return {
    id: run.id,
    total: items.length,
    done,
    failed,
    cancelled,
    finished,
    paused,
    secondsLeft: known ? Math.ceil((seconds / since) * left) : null,
    folders,
  };
}
