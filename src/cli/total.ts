/**
 * A limit on the whole at the command line: what each photo's file has to be, so that all end at the same
 * visible difference.
 */

import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Brief, type OutputFormat, resolveBrief } from "@/core/brief";
import {
  cannotWords,
  type Limit,
  offersFor,
  offerWords,
  sharedWords,
  sideKey,
  type TraceAsked,
  type Traced,
  type Whole,
} from "@/core/budget";
import { allowedFormats } from "@/core/plan";
import { outputName, splitName } from "@/core/plan/names";
import { wholeOf } from "@/delivery";
import { type SharedOut, shareOut } from "@/imaging";
import type { TrialStore } from "@/imaging/candidates";
import { memoryTrials, trace } from "@/imaging/candidates";
import { PixelCache } from "@/imaging/planned";
import { readSource } from "@/imaging/source";
import { readBounded } from "./photo-file";
import type { SourcePath } from "./sources";
import { ALONE, type TotalPlan } from "./total-plan";

const AT_ONCE = 2;
/**
 * Bytes of encodings that are held for all photos together, so that what was tried need not be made again.
 */
const HELD = 512 * 1024 * 1024;
const PLANNED = 4 * 1024 ** 3;
const MOST_MESSAGES = 20;

/**
 * `mail`: messages may be split where one cannot hold the photos. `done` is told how many photos were looked
 * at.
 */
export async function planTotal(
  paths: readonly SourcePath[],
  brief: Brief,
  mail: boolean,
  done: (count: number) => void,
): Promise<TotalPlan> {
  const { total } = resolveBrief(brief);
  if (!total) return ALONE;
  const folder = await mkdtemp(join(tmpdir(), "zumbrel-planned-"));
  const work = new TotalWork(paths, brief, new PixelCache(folder, PLANNED), done);
  const close = () => rm(folder, { recursive: true, force: true });
  const plan = (limit: Limit, shares: TotalPlan["shares"], error: string | null): TotalPlan => ({
    limit,
    shares,
    trials: work.trials,
    planned: work.planned,
    error,
    close,
  });
  const ids = await work.look();
  let limit: Limit = { ...total, messages: 1 };
  for (;;) {
    const { out, whole } = await work.share(ids, limit);
    const { answer, traced } = out;
    if (answer.kind !== "cannot") return plan(limit, sharesOf(out, limit), null);
    const offers = offersFor({
      brief,
      whole,
      counted: limit.counted,
      messages: limit.messages,
      picks: answer.picks,
      photos: [...traced.values()].map((one) => ({ size: one[sideKey(answer.side)].geometry })),
    });
    const more = offers.find((offer) => offer.kind === "messages");
    if (mail && more && more.count <= MOST_MESSAGES) limit = { ...limit, messages: more.count };
    else {
      const name = (id: string) => splitName(paths[Number(id)].source).stem;
      const ways = offers.map((offer) => offerWords(offer, name)).join("; ");
      return plan(limit, new Map(), `${cannotWords(limit, answer.total)} What would help: ${ways}.`);
    }
  }
}

function sharesOf({ answer, traced }: SharedOut, limit: Limit): TotalPlan["shares"] {
  if (answer.kind !== "shared") return new Map();
  const { picks, side, level } = answer;
  const told = [sharedWords(limit, picks.length, level)];
  return new Map(
    picks.map(({ id, setting }) => {
      const { geometry } = traced.get(id)![sideKey(side)];
      return [Number(id), { setting, geometry, told }];
    }),
  );
}

class TotalWork {
  readonly trials = new Map<number, TrialStore>();
  private readonly names = new Map<string, string>();
  private looked = 0;

  constructor(
    private readonly paths: readonly SourcePath[],
    private readonly brief: Brief,
    readonly planned: PixelCache,
    private readonly done: (count: number) => void,
  ) {}

  /** The photos that can be read, with the names that their files will have, as long as those can become. */
  async look(): Promise<string[]> {
    const resolved = resolveBrief(this.brief);
    const ids: string[] = [];
    for (const [i, path] of this.paths.entries()) {
      if (path.error) continue;
      const source = await this.read(i).catch(() => null);
      if (!source) continue;
      const format: OutputFormat = allowedFormats(resolved, source.facts)[0];
      const name = outputName(resolved.names, {
        source: path.source,
        n: i + 1,
        width: 99_999,
        height: 99_999,
        date: source.facts.date,
        brief: this.brief.name,
        format,
      });
      this.names.set(String(i), path.folder ? `${path.folder}/${name}` : name);
      ids.push(String(i));
    }
    return ids;
  }

  async share(ids: readonly string[], limit: Limit): Promise<{ out: SharedOut; whole: Whole }> {
    const whole = await wholeOf(
      limit,
      this.brief.name,
      ids.map((id) => this.names.get(id)!),
    );
    const out = await shareOut({
      ids,
      whole,
      aim: resolveBrief(this.brief).fileSize.aim === "clean" ? "clean" : "best",
      atOnce: AT_ONCE,
      trace: (asked, before) => this.trace(asked, before),
    });
    return { out, whole };
  }

  private async trace(asked: TraceAsked, before: Traced | null): Promise<Traced> {
    const i = Number(asked.id);
    const trials = this.trials.get(i) ?? memoryTrials(HELD / this.paths.length);
    this.trials.set(i, trials);
    const request = { source: await this.read(i), brief: this.brief, trials, planned: this.planned };
    const traced = await trace(request, asked, before);
    if (!before && asked.side === null) {
      this.looked += 1;
      this.done(this.looked);
    }
    return traced;
  }

  private async read(i: number) {
    return readSource(await readBounded(this.paths[i].source));
  }
}
