/** A body that has to come at a certain pace: what trickles holds a line, a file and memory for nothing. */
import { RequestError } from "./answer";

/** So many bytes have to come within so many ms; far less than the slowest line that photos are sent over. */
const LEAST_BYTES = 16 * 1024;
const WITHIN_MS = 30_000;

export async function* paced(
  stream: AsyncIterable<Uint8Array>,
  { bytes, ms }: { bytes: number; ms: number } = { bytes: LEAST_BYTES, ms: WITHIN_MS },
): AsyncGenerator<Uint8Array> {
  const pieces = stream[Symbol.asyncIterator]();
  // Only waiting for the sender counts: what a piece is written to may be slow.
  let waited = 0;
  let came = 0;
  try {
    for (;;) {
      const start = performance.now();
      const piece = await within(pieces.next(), Math.max(1, ms - waited));
      if (piece.done) return;
      waited += performance.now() - start;
      came += piece.value.length;
      if (came >= bytes) [waited, came] = [0, 0];
      yield piece.value;
    }
  } finally {
    // Not waited for: where a sender says nothing more, the piece that was asked for never comes.
    pieces.return?.().catch(() => undefined);
  }
}

async function within<T>(work: Promise<T>, ms: number): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(
      () => reject(new RequestError(408, "The file came too slowly and was given up. Send it once more.")),
      ms,
    );
  });
  try {
    return await Promise.race([work, late]);
  } finally {
    clearTimeout(timer);
    work.catch(() => undefined);
  }
}
