import { route } from "@/app/server/answer";
import { listRunViews } from "@/app/server/runs";
import { getStore, getWorkspace } from "@/app/server/store";

export const dynamic = "force-dynamic";

/** All runs, the newest first. */
export const GET = route(async () => ({ runs: await listRunViews(getStore().db, await getWorkspace()) }));
