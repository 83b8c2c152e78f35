/** Work that may stop being wanted: a row is looked at while it goes on, and the work is broken off. */

/** How often the row is looked at. */
const ASK_MS = 300;

/** Nobody waits for the answer any more. */
export class UnwantedError extends Error {
  override name = "UnwantedError";
}

/**
 * Runs `work`, which is wanted when it begins, and whose signal is aborted with an {@link UnwantedError} as soon as
 * `wanted` answers false.
 */
export async function whileWanted<T>(
  wanted: () => Promise<boolean>,
  work: (signal: AbortSignal) => Promise<T>,
): Promise<T> {
  const controller = new AbortController();
  let asking = false;
  const timer = setInterval(() => {
    if (asking) return;
    asking = true;
    wanted()
      .then((still) => still || controller.abort(new UnwantedError()))
      // What the database cannot tell now it tells the next time.
      .catch(() => undefined)
      .finally(() => {
        asking = false;
      });
  }, ASK_MS);
  try {
    return await work(controller.signal);
  } finally {
    clearInterval(timer);
  }
}
