import { Readable } from "node:stream";
import * as z from "zod";
import { attachment, getStore, getWorkspace, printable, requireRun, route } from "@/app/server";
import { safeName } from "@/core/plan/names";
import { pagesOf, zipOf } from "@/delivery";
import { outputsOf } from "@/store/queries";

const query = z.object({ as: z.enum(["pdf", "zip"]) });

/** A run's files as pages in their order: one PDF, or a ZIP of numbered ones. */
export const GET = route(async (request, { id }) => {
  const run = await requireRun(id);
  const { as } = query.parse(Object.fromEntries(new URL(request.url).searchParams));
  const name = safeName(run.title.split(" · ")[0]);
  const { files } = await printable(run.id);
  if (as === "pdf")
    return new Response(new Uint8Array(await pagesOf(files)), {
      headers: { "content-type": "application/pdf", "content-disposition": attachment(`${name}.pdf`) },
    });
  const { db, files: disk } = getStore();
  const outputs = await outputsOf(db, await getWorkspace(), { runId: run.id });
  const digits = String(outputs.length).length;
  const { bytes, stream } = await zipOf(
    outputs.map((file, i) => ({
      name: `${String(i + 1).padStart(digits, "0")}-${file.name.split("/").pop()!}`,
      from: { path: disk.path(file.sha256) },
    })),
  );
  return new Response(Readable.toWeb(stream) as ReadableStream<Uint8Array>, {
    headers: {
      "content-type": "application/zip",
      "content-length": String(bytes),
      "content-disposition": attachment(`${name} pages.zip`),
    },
  });
});
