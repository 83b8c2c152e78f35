import * as z from "zod";
import { freeBytes, keptPixels } from "@/jobs";
import { announce } from "@/store";
import { checkStore, freeSpace, removeStrays, usage } from "@/store/queries";
import type { StorageView } from "@/ui/api";
import { getStore, readBody, route } from "../../server";

/** How much space is used, and for what. */
export const GET = route(async (): Promise<StorageView> => {
  const store = getStore();
  const [used, planned, free] = await Promise.all([
    usage(store),
    keptPixels(store).bytes(),
    freeBytes(store),
  ]);
  return { ...used, planned, total: used.total + planned, free };
});

const body = z.strictObject({ do: z.enum(["free", "check", "strays"]) });

/**
 * free: gives up what can be made again, and what belongs to removed batches. check: holds rows against
 * bytes. strays: takes files away that no row names.
 */
export const POST = route(async (request) => {
  const { do: what } = await readBody(request, body);
  const store = getStore();
  if (what === "free") {
    const collected = await freeSpace(store);
    const planned = await keptPixels(store).trim(0);
    await announce(store.db, null);
    return { files: collected.files, bytes: collected.bytes + planned };
  }
  const check = await checkStore(store);
  if (what === "strays") return { removed: await removeStrays(store, check) };
  return {
    files: check.files,
    missing: check.missing.length,
    strays: check.strays.length,
    strayBytes: check.strays.reduce((sum, one) => sum + one.bytes, 0),
  };
});
