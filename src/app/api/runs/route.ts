import { getStore, getWorkspace, listRunViews, route } from "../../server";

/** All runs, the newest first. */
export const GET = route(async () => ({ runs: await listRunViews(getStore().db, await getWorkspace()) }));
