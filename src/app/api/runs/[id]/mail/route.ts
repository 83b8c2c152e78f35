import { Readable } from "node:stream";
import * as z from "zod";
import { attachment, getStore, mailFiles, RequestError, requireRun, route } from "@/app/server";
import { safeName } from "@/core/plan/names";
import { composeMail, parcelsOf } from "@/delivery";

const query = z.object({
  n: z.coerce.number().int().min(1).max(100).default(1),
  as: z.enum(["separate", "zip"]).default("separate"),
});

/**
 * One of the messages that hold a run's files, each under the brief's limit, as a file that mail programs
 * open.
 */
export const GET = route(async (request, { id }) => {
  const run = await requireRun(id);
  const { n, as } = query.parse(Object.fromEntries(new URL(request.url).searchParams));
  const files = await mailFiles(getStore(), run.id);
  if (!files.length)
    throw new RequestError(404, "This run has no files now: none is finished yet, or they were given up.");
  const max = run.limit?.counted === "mail" ? run.limit.max : Infinity;
  const subject = run.title.split(" · ")[0];
  const parcels = await parcelsOf(files, subject, max);
  if (!parcels)
    throw new RequestError(
      409,
      "One of these files is larger than a message may be. Ask for smaller files on the Desk.",
    );
  const parcel = parcels[n - 1];
  if (!parcel) throw new RequestError(404, `There are ${parcels.length} messages; there is no number ${n}.`);
  const { bytes, stream } = await composeMail({ subject, files: parcel, as, n, of: parcels.length });
  const name = `${safeName(subject)}${parcels.length > 1 ? ` ${n} of ${parcels.length}` : ""}.eml`;
  return new Response(Readable.toWeb(stream) as ReadableStream<Uint8Array>, {
    headers: {
      "content-type": "message/rfc822",
      "content-length": String(bytes),
      "content-disposition": attachment(name),
    },
  });
});
