/** The web process's handle on the store, one for all routes. */
import type { Store } from "@/store";
import { localWorkspace } from "@/store/queries";

let held: Store | null = null;
let workspace: Promise<string> | null = null;

/** Whoever starts the routes says what they work on. */
export function serveFrom(store: Store): void {
  held = store;
  workspace = null;
}

export function getStore(): Store {
  if (!held) throw new Error("The routes were not given a store.");
  return held;
}

/** Asked for once; again after the database was away. */
export function getWorkspace(): Promise<string> {
  workspace ??= localWorkspace(getStore().db).catch((error: unknown) => {
    workspace = null;
    throw error;
  });
  return workspace;
}
