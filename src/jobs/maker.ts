/**
 * The process that works on photos for a worker: decodes, encodes, judges and proves. It may be ended at any moment,
 * and what it did is done anew.
 */
import { rehearse } from "@/imaging";
import { sentence } from "@/imaging/source";
import { oneThreadEach, shareCores, shareThreads } from "@/imaging/workers";
import { loadDemo } from "@/launch";
import { makeLog, openStore, readEnvironment } from "@/store";
import { make } from "./make";
import type { Answer, Order, REHEARSAL } from "./makers";
import { measure } from "./measure";
import { underPolicy } from "./policy";
import { thumb } from "./thumb";
import { trial, weigh } from "./weigh";

const environment = readEnvironment();
const log = makeLog("maker", environment.logLevel);
const store = openStore(environment, { relaxed: true });
oneThreadEach();

async function demo(): Promise<void> {
  const missing = await loadDemo(store, process.cwd(), environment.dataDir);
  if (missing.length)
    log.warn({ missing }, "pictures of the demo are left out, because no maker of such files is installed");
}

/** What somebody waits for behind a click has processes of its own. */
const LOOKED: ReadonlySet<Order["kind"]> = new Set(["weigh", "trial"]);

function work({ kind, id, choice, beside }: Order): Promise<unknown> {
  shareCores(beside === true);
  if (!LOOKED.has(kind)) shareThreads();
  switch (kind) {
    case "measure":
      return measure(store, id);
    case "make":
      return make(store, id);
    case "thumb":
      return thumb(store, id);
    case "weigh":
      return weigh(store, id);
    case "trial":
      return trial(store, id, choice!);
    case "demo":
      return demo();
    default:
      throw new Error(`no work of the kind ${kind}`);
  }
}

async function answer(order: Order & { n: number }): Promise<Answer> {
  const { n, kind, id, attempt } = order;
  const start = performance.now();
  try {
    await underPolicy(store, { kind, id, attempt }, async () => void (await work(order)));
    log.debug({ task: kind, id, ms: Math.round(performance.now() - start) }, "done");
    return { n, error: null };
  } catch (error) {
    log.debug({ task: kind, id, err: error }, "failed");
    return { n, error: sentence(error) };
  }
}

let ordered = false;

process.on("message", (message: (Order & { n: number }) | typeof REHEARSAL) => {
  if ("rehearse" in message) {
    // As beside another photo: that is how most are worked on.
    shareCores(true);
    shareThreads();
    void rehearse(() => ordered).catch((error: unknown) => log.warn({ err: error }, "the rehearsal failed"));
    return;
  }
  ordered = true;
  void answer(message).then((value) => process.send?.(value));
});
// A Ctrl-C goes to all processes of a terminal; the worker says when to end.
process.on("SIGINT", () => undefined);
process.on("disconnect", () => process.exit(0));
