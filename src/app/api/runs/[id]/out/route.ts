import * as z from "zod";
import { getStore, getWorkspace, RequestError, readBody, requireRun, route } from "@/app/server";
import { safeFolder } from "@/core/plan/names";
import { putInto } from "@/imaging/written";
import { readEnvironment } from "@/store";
import { outputsOf } from "@/store/queries";

const body = z.strictObject({ root: z.string().min(1).max(4000), folder: z.string().max(400) });

/**
 * Writes a run's files into a folder of this machine that was allowed at the start; never over a file that
 * is there.
 */
export const POST = route(async (request, { id }) => {
  const run = await requireRun(id);
  const { root, folder } = await readBody(request, body);
  const { outRoots } = readEnvironment();
  if (!outRoots.includes(root))
    throw new RequestError(403, "This folder was not allowed. Start Zumbrel with --out-root and the folder.");
  const { db, files } = getStore();
  const outputs = await outputsOf(db, await getWorkspace(), { runId: run.id });
  if (!outputs.length)
    throw new RequestError(404, "This run has no files now: none is finished yet, or they were given up.");
  const written: string[] = [];
  for (const { name, sha256 } of outputs)
    written.push(
      await putInto(root, [safeFolder(folder), name].filter(Boolean).join("/"), files.path(sha256)),
    );
  return {
    written: written.length,
    renamed: written.filter((path, i) => !path.endsWith(`/${outputs[i].name}`)).length,
  };
});
