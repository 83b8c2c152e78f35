import { bodyOf, bring, paced, RequestError, route } from "@/app/server";
import type { BroughtIn } from "@/ui/api";

/**
 * One photo as the body of the request, its name and folder in the query: streamed to disk, then looked at.
 * A ZIP gives every picture in it.
 */
export const POST = route(async (request, { id }): Promise<BroughtIn> => {
  const body = bodyOf(request);
  if (!body) throw new RequestError(422, "The file is empty (0 bytes). Bring in the photo once more.");
  return bring(id, new URL(request.url).searchParams, paced(body));
});
