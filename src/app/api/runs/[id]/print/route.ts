import * as z from "zod";
import { attachment, printable, RequestError, requireRun, route } from "@/app/server";
import { layOut, sheetTask } from "@/core/delivery/print-sheet";
import { safeName } from "@/core/plan/names";
import { printSheets } from "@/delivery";
import { printSheetPicture } from "@/imaging/shown";

const query = z.object({
  task: z
    .string()
    .max(60_000)
    .transform((text, ctx) => {
      try {
        return JSON.parse(text) as unknown;
      } catch {
        ctx.addIssue({ code: "custom", message: "is not JSON" });
        return z.NEVER;
      }
    })
    .pipe(sheetTask),
  as: z.enum(["pdf", "jpeg", "tiff"]),
  /** Of the whole sheet as a picture, and which one. */
  ppi: z.coerce.number().min(50).max(2400).default(300),
  sheet: z.coerce.number().int().min(1).max(500).default(1),
});

/** Print sheets of a run's files: all as one PDF, or one of them as a picture. */
export const GET = route(async (request, { id }) => {
  const run = await requireRun(id);
  const { task, as, ppi, sheet } = query.parse(Object.fromEntries(new URL(request.url).searchParams));
  const { pieces, files } = await printable(run.id);
  const sheets = layOut(task, pieces);
  const name = `${safeName(run.title.split(" · ")[0])} sheet`;
  if (as === "pdf")
    return new Response(new Uint8Array(await printSheets(sheets, task, files)), {
      headers: { "content-type": "application/pdf", "content-disposition": attachment(`${name}.pdf`) },
    });
  const one = sheets[sheet - 1];
  if (!one) throw new RequestError(404, `There are ${sheets.length} sheets; there is no number ${sheet}.`);
  const picture = await printSheetPicture({
    sheet: one,
    task,
    ppi,
    as,
    read: (file) => files.find((f) => f.id === file)!.read(),
  });
  const ending = as === "jpeg" ? "jpg" : "tif";
  return new Response(new Uint8Array(picture), {
    headers: {
      "content-type": `image/${as}`,
      "content-disposition": attachment(`${name}${sheets.length > 1 ? ` ${sheet}` : ""}.${ending}`),
    },
  });
});
