/** The web process's handle on the store, one for all routes. */
import { openStore, readEnvironment, type Store } from "@/store";
import { localWorkspace } from "@/store/queries";

interface Holder {
  store: Store;
  workspaceId: Promise<string>;
}

const global = globalThis as typeof globalThis & { zumbrelStore?: Holder };

function holder(): Holder {
  if (!global.zumbrelStore) {
    const store = openStore(readEnvironment());
    global.zumbrelStore = { store, workspaceId: localWorkspace(store.db) };
  }
  return global.zumbrelStore;
}

export const getStore = (): Store => holder().store;
export const getWorkspace = (): Promise<string> => holder().workspaceId;
