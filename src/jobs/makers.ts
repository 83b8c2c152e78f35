/** The processes that work on photos for this worker: one photo each, with limits on time and memory. */
import type { Choice } from "@/core/coding";
import { bundleBeside, LimitError, LimitedChild } from "@/imaging/workers";
import type { Database } from "@/store";
import { countDeath } from "@/store/queries";
import type { Kind } from "./policy";

export interface Order {
  kind: Kind;
  id: string;
  /** Counted from 1. */
  attempt: number;
  /** Of a trial. */
  choice?: Choice;
  /** Another photo is worked on at the same time. */
  beside?: boolean;
}

/** `error`: for the queue, which tries again later. */
export interface Answer {
  n: number;
  error: string | null;
}

/** Said to a process that has nothing to do. */
export const REHEARSAL = { rehearse: true } as const;

/** No process holds more; a photo of 600 megapixels was seen to take 1.2 GB. */
const MOST_BYTES = 1_450_000_000;
/** The slowest pictures that are taken, in ten-bit AVIF, were seen to take some minutes. */
const MOST_MS = 15 * 60_000;
const QUICK_MS = 120_000;
const LIMITS: Partial<Record<Kind, number>> = { thumb: QUICK_MS, trial: QUICK_MS };
/** A process that somebody has killed is started again, and its work with it, so often. */
const MOST_AGAIN = 20;

export class Makers {
  private readonly children: LimitedChild[];
  private ended = false;

  /** `most`: photos that are worked on at a time. `yields`: what somebody waits for goes before them. */
  constructor(
    private readonly db: Database,
    most: number,
    yields: boolean,
  ) {
    const bundle = bundleBeside("maker");
    if (!bundle) throw new Error("there is no bundle of the maker");
    this.children = Array.from(
      { length: most },
      () =>
        new LimitedChild({ bundle, limits: { ms: MOST_MS, bytes: MOST_BYTES }, stderr: "inherit", yields }),
    );
  }

  /** Starts the processes before there is work. */
  warmUp(): this {
    for (const child of this.children) child.warmUp();
    return this;
  }

  /** Each practises until there is work; not beside one that works, as on the demo at the first start. */
  rehearse(): void {
    if (this.children.some((child) => child.busy)) return;
    for (const child of this.children) child.tell(REHEARSAL);
  }

  /** Throws where it is to be tried again later. */
  async work(order: Order): Promise<void> {
    const free = this.children.find((child) => !child.busy) ?? this.children[0];
    for (let n = 0; ; n += 1) {
      try {
        const beside = this.children.some((child) => child !== free && child.busy);
        const { error } = await free.ask<Answer>({ ...order, beside }, LIMITS[order.kind] ?? MOST_MS);
        if (error !== null) throw new Error(error);
        return;
      } catch (error) {
        if (!(error instanceof LimitError)) throw error;
        if (error.why !== "from outside") {
          await countDeath(this.db, order.kind, order.id);
          throw error;
        }
        if (this.ended || n >= MOST_AGAIN) throw error;
      }
    }
  }

  /** Nothing is begun any more. */
  end(): void {
    this.ended = true;
    for (const child of this.children) child.end();
  }
}
