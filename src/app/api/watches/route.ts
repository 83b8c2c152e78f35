import { realpath, stat } from "node:fs/promises";
import { join, sep } from "node:path";
import * as z from "zod";
import { getStore, getWorkspace, RequestError, readBody, route } from "@/app/server";
import { limitsWhole } from "@/core/brief";
import { safeFolder } from "@/core/plan/names";
import { readEnvironment } from "@/store";
import { addWatch, getRevision, listWatches } from "@/store/queries";
import type { WatchesView } from "@/ui/api";

/** Watched folders, and which folders were allowed at the start. */
export const GET = route(async (): Promise<WatchesView> => {
  const { watchRoots, outRoots } = readEnvironment();
  const rows = await listWatches(getStore().db, await getWorkspace());
  const watches = rows.map(({ id, folder, out, brief, ready, needsYou, said, problem }) => ({
    ...{ id, folder, out, ready, needsYou, said, problem },
    brief: brief.name,
  }));
  return { watchRoots, outRoots, watches };
});

const place = z.strictObject({ root: z.string().min(1).max(4000), folder: z.string().max(400) });
const body = z.strictObject({ from: place, out: place, revisionId: z.uuid() });

/** Begins to watch a folder. */
export const POST = route(async (request) => {
  const { from, out, revisionId } = await readBody(request, body);
  const { watchRoots, outRoots } = readEnvironment();
  const folder = await inside(watchRoots, from, "--watch-root");
  const target = await inside(outRoots, out, "--out-root");
  if (!(await stat(folder).catch(() => null))?.isDirectory())
    throw new RequestError(400, `There is no folder "${folder}" to look at. Make it, or check its name.`);
  if (folder === target || folder.startsWith(target + sep))
    throw new RequestError(
      400,
      "What is watched lies in the folder for what is ready. Choose another, so that originals stay apart.",
    );
  const { db } = getStore();
  const revision = await getRevision(db, revisionId);
  if (!revision) throw new RequestError(404, "This brief is no longer on the shelf. Choose another.");
  if (limitsWhole(revision.body))
    throw new RequestError(
      400,
      "The brief limits all files together, and a watched folder never has them all. Choose another.",
    );
  const workspaceId = await getWorkspace();
  if ((await listWatches(db, workspaceId)).some((one) => one.out === target))
    throw new RequestError(
      409,
      "Another watch puts its files there already. Choose another folder for these.",
    );
  return { id: await addWatch(db, workspaceId, { folder, out: target, brief: revision.body }) };
});

/** Without links that lead out of what was allowed. */
async function inside(
  roots: string[],
  { root, folder }: z.infer<typeof place>,
  option: string,
): Promise<string> {
  const refused = new RequestError(
    403,
    `This folder was not allowed. Start Zumbrel with ${option} and the folder.`,
  );
  if (!roots.includes(root)) throw refused;
  const path = join(root, safeFolder(folder));
  const real = await realpath(path).catch(() => path);
  if (real !== root && !real.startsWith(root + sep)) throw refused;
  return real;
}
