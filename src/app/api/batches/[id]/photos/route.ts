import { bring, RequestError, route } from "@/app/server";
import type { BroughtIn } from "@/ui/api";

/**
 * One photo as the body of the request, its name and folder in the query: streamed to disk, then looked at.
 * A ZIP gives
 * every picture in it. The application's server takes these requests before they come here, since large
 * bodies go through
 * its own streams four times as fast.
 */
export const POST = route(async (request, { id }): Promise<BroughtIn> => {
  if (!request.body)
    throw new RequestError(422, "The file is empty (0 bytes). Bring in the photo once more.");
  return bring(id, new URL(request.url).searchParams, pieces(request.body));
});

async function* pieces(body: ReadableStream<Uint8Array>): AsyncGenerator<Uint8Array> {
  const reader = body.getReader();
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    yield value;
  }
}
