import * as z from "zod";
import { forScreen, getStore, RequestError, requireArrival, route } from "@/app/server";
import { closeUp, fileHead } from "@/imaging/shown";
import { effectivePpi } from "@/receivers";

const query = z.object({
  n: z.coerce.number().int().min(0).max(5000),
  as: z.enum(["picture", "print"]).default("picture"),
});
/** Paper that a close look shows, in mm, and screen pixels a printed dot. */
const PART = { width: 24, height: 18 };
const DOT = 1.6;

/** A file that came, as it looks; for the print room also as a print close to the eye. */
export const GET = route(async (request, { id }) => {
  const { n, as } = query.parse(Object.fromEntries(new URL(request.url).searchParams));
  const { arrival, rules } = await requireArrival(id);
  const file = arrival.files[n];
  const bytes =
    file &&
    (await getStore()
      .files.read(file.sha256)
      .catch(() => null));
  if (!bytes) throw new RequestError(404, "This file is no longer kept at the counter.");
  const headers = { "cache-control": "private, max-age=3600" };
  if (as === "picture") return forScreen(bytes, headers);
  const head = await fileHead(bytes);
  if (!head || rules.kind !== "print") throw new RequestError(404, "This cannot be printed.");
  const picture = await closeUp(bytes, effectivePpi(rules, head), PART, DOT);
  return new Response(new Uint8Array(picture), { headers: { ...headers, "content-type": "image/png" } });
});
