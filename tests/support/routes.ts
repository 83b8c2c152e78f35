/** Route handlers on a database and file store of their own. */

import { serveFrom } from "@/app/server";
import type { Store } from "@/store";
import { localWorkspace } from "@/store/queries";
import { freshStore } from "./store";

type Handler = (request: Request, context: { params: Promise<Record<string, string>> }) => Promise<Response>;

export interface Routes {
  store: Store;
  workspaceId: string;
  raw(
    method: string,
    path: string,
    params?: Record<string, string>,
    body?: unknown,
    query?: string,
  ): Promise<Response>;
  call(
    method: string,
    path: string,
    params?: Record<string, string>,
    body?: unknown,
  ): Promise<{ status: number; body: unknown }>;
  /** Undoes, or makes again, what the batch says it would. */
  step(id: string, direction?: "undo" | "redo"): Promise<{ status: number; body: unknown }>;
  /** A batch without a brief, with these photos in it. */
  newBatch(name: string, photos: Record<string, Buffer>): Promise<string>;
  close(): Promise<void>;
}

export async function startRoutes(): Promise<Routes> {
  const { store, close } = await freshStore();
  const workspace = localWorkspace(store.db);
  serveFrom(store);
  // Routes that wait for the worker listen on a connection of their own.
  Object.assign(process.env, {
    ZUMBREL_DATABASE: store.pool.options.connectionString,
    ZUMBREL_DATA: "tests",
  });
  const loaded = new Map<string, Record<string, Handler>>();
  const raw: Routes["raw"] = async (method, path, params = {}, body, query = "") => {
    if (!loaded.has(path))
      loaded.set(
        path,
        (await import(/* @vite-ignore */ `../../src/app/api/${path}/route.ts`)) as Record<string, Handler>,
      );
    const init: RequestInit & { duplex?: "half" } = { method };
    if (Buffer.isBuffer(body)) Object.assign(init, { body: new Uint8Array(body), duplex: "half" });
    else if (body !== undefined) init.body = JSON.stringify(body);
    return loaded
      .get(path)!
      [method](new Request(`http://127.0.0.1/api/x${query}`, init), { params: Promise.resolve(params) });
  };
  const call: Routes["call"] = async (...args) => {
    const response = await raw(...args);
    return { status: response.status, body: await response.json() };
  };
  const step: Routes["step"] = async (id, direction = "undo") => {
    const { body } = await call("GET", "batches/[id]", { id });
    const label = (body as Record<"undo" | "redo", { edit: number } | null>)[direction];
    return call("POST", `batches/[id]/${direction}`, { id }, { edit: label?.edit ?? 0 });
  };
  const newBatch: Routes["newBatch"] = async (name, photos) => {
    const { id } = (await call("POST", "batches", {}, { name })).body as { id: string };
    for (const [file, bytes] of Object.entries(photos))
      await raw("POST", "batches/[id]/photos", { id }, bytes, `?name=${encodeURIComponent(file)}`);
    return id;
  };
  return { store, workspaceId: await workspace, raw, call, step, newBatch, close };
}
