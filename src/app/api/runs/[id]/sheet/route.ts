import { attachment, getStore, requireRun, route, sheetOf } from "@/app/server";
import { safeName } from "@/core/plan/names";

/** The proof sheet: a small picture, the facts and the verdict of every file, as PDF. */
export const GET = route(async (_request, { id }) => {
  const run = await requireRun(id);
  const pdf = await sheetOf(getStore(), run);
  return new Response(new Uint8Array(pdf), {
    headers: {
      "content-type": "application/pdf",
      "content-length": String(pdf.length),
      "content-disposition": attachment(`${safeName(run.title.split(" · ")[0])}, proofs.pdf`),
    },
  });
});
