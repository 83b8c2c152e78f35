/**
 * Shares limits on the whole of a batch. Looks at what is known, asks for the trials that are missing, and
 * settles what
 * each file is once nothing is missing; called again whenever the last trial that it waits for is there. Can
 * be broken
 * off anywhere: what it decides follows from the rows alone.
 */
import { createHash } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import { type Brief, resolveBrief } from "@/core/brief";
import {
  bestSide,
  cannotWords,
  type Limit,
  nextSide,
  offersFor,
  Share,
  type ShareAnswer,
  type SharedPhoto,
  sharedWords,
  type Traced,
  type Whole,
} from "@/core/budget";
import { PLAIN } from "@/core/difference";
import { planNames } from "@/core/plan/names";
import { wholeOf } from "@/delivery";
import type { Executor, Store } from "@/store";
import { announce, batches, type ShareState, type ShareTarget, type TraceWanted } from "@/store";
import {
  bodiesOf,
  keepShare,
  type Member,
  membersOf,
  settleShares,
  sharesOf,
  wantTrials,
} from "@/store/queries";

export const sideKey = (side: number | null): string => (side === null ? "all" : String(side));

/** Photos that show first whether fewer pixels can gain anything, and at which quality. */
const PROBES = 3;
const PROBE_QUALITY = 92;

export async function share(store: Store, batchId: string): Promise<void> {
  await store.db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${`share ${batchId}`}))`);
    const [batch] = await tx
      .select({ messages: batches.messages, deletedAt: batches.deletedAt })
      .from(batches)
      .where(eq(batches.id, batchId));
    if (!batch || batch.deletedAt) return;
    const members = await membersOf(tx, batchId);
    const before = await sharesOf(tx, batchId);
    for (const [revisionId, body] of await bodiesOf(tx, [
      ...new Set(members.map((member) => member.revisionId)),
    ])) {
      const mine = members.filter((member) => member.revisionId === revisionId);
      const group = new Group(tx, batchId, revisionId, body, mine, batch.messages);
      await group.step(before.get(revisionId) ?? null);
    }
  });
  await announce(store.db, batchId);
}

class Group {
  private readonly limit: Limit;
  private readonly aim: "clean" | "best";
  /** Photos that cannot take part: damaged ones, and such as cannot take the pixels. */
  private readonly able: Member[];

  constructor(
    private readonly db: Executor,
    private readonly batchId: string,
    private readonly revisionId: string,
    private readonly brief: Brief,
    members: readonly Member[],
    messages: number,
  ) {
    const resolved = resolveBrief(brief);
    const { max, counted } = resolved.total!;
    this.limit = { max, counted, messages: counted === "mail" ? messages : 1 };
    this.aim = resolved.fileSize.aim === "clean" ? "clean" : "best";
    this.able = members.filter((member) => !member.measured?.error || member.share?.kind === "cannot");
  }

  private key(): string {
    return createHash("sha256")
      .update(JSON.stringify([this.limit, this.able.map((member) => member.id)]))
      .digest("hex");
  }

  async step(before: ShareState | null): Promise<void> {
    const key = this.key();
    const fresh: ShareState = {
      limit: this.limit,
      state: "settling",
      photos: this.able.length,
      waiting: 0,
      level: null,
      side: null,
      total: null,
      why: null,
      offers: [],
      binds: false,
      tried: [],
      key,
    };
    const state = before?.key === key ? { ...before } : fresh;
    if (!this.able.length) return this.keep({ ...fresh, state: "own", total: 0 });
    if (this.able.some((member) => member.wanted)) return this.keep({ ...state, waiting: this.waiting() });
    if (state.state === "settling") return this.settle(state);
    return this.checked(state);
  }

  private waiting(): number {
    return this.able.filter((member) => member.wanted).length;
  }

  private keep(state: ShareState): Promise<void> {
    return keepShare(this.db, this.batchId, this.revisionId, state);
  }

  private traced(side: number | null): (Traced | null)[] {
    return this.able.map((member) => member.traced?.[sideKey(side)] ?? null);
  }

  private async want(state: ShareState, wanted: Map<string, TraceWanted>): Promise<void> {
    await wantTrials(this.db, wanted);
    await this.keep({ ...state, state: "settling", waiting: wanted.size });
  }

  private async settle(state: ShareState): Promise<void> {
    const { side } = state;
    const missing = this.able.filter((_, i) => this.traced(side)[i] === null);
    if (side !== null && missing.length) return this.probe(state, missing);
    if (missing.length)
      return this.want(state, new Map(missing.map((member) => [member.id, { side, trials: null }])));
    const whole = await this.whole();
    const answer = new Share({
      photos: this.photos(side),
      whole,
      aim: this.aim,
      binds: state.binds,
    }).answer();
    if (answer.kind === "trials")
      return this.want(
        state,
        new Map(
          answer.wanted.map(({ id, level, qualities }) => [id, { side, trials: { level, qualities } }]),
        ),
      );
    if (answer.kind === "own")
      return this.handOut({ ...state, state: "own", total: null }, () => ({ kind: "own" }));
    const tried = [
      ...state.tried,
      { side, level: answer.kind === "shared" ? answer.level : null, total: answer.total },
    ];
    const longest = Math.max(...this.traced(null).map((one) => Math.max(one!.full.width, one!.full.height)));
    const free = this.traced(null).some((one) => one!.free);
    const next = free ? nextSide(tried, longest, whole.max) : null;
    if (next !== null) return this.settle({ ...state, tried, side: next });
    return this.decide({ ...state, tried }, whole);
  }

  /**
   * Fewer pixels gain nothing once one photo shows their loss more than all show the coarser coding of more
   * of them.
   */
  private async probe(state: ShareState, missing: Member[]): Promise<void> {
    const { side, tried } = state;
    const best = Math.min(PLAIN, ...tried.map((one) => one.level ?? PLAIN));
    const floors = this.traced(side).flatMap((one) =>
      one
        ? [Math.min(...one.points.map((point) => point.difference), one.whole?.difference ?? Infinity)]
        : [],
    );
    if (floors.some((floor) => floor > best))
      return this.decide({ ...state, side: null }, await this.whole());
    const busiest = [...missing].sort((a, b) => this.weight(b) - this.weight(a));
    const wanted = floors.length ? missing : busiest.slice(0, PROBES);
    const trials = { level: best, qualities: floors.length ? [] : [PROBE_QUALITY] };
    return this.want(state, new Map(wanted.map((member) => [member.id, { side, trials }])));
  }

  private weight(member: Member): number {
    const one = member.traced?.all;
    return one
      ? Math.max(0, ...one.points.map((point) => point.bytes)) / (one.geometry.width * one.geometry.height)
      : 0;
  }

  private photos(side: number | null): SharedPhoto[] {
    const traced = this.traced(side);
    return this.able.map((member, i) => ({ ...traced[i]!, id: member.id }));
  }

  private async decide(state: ShareState, whole: Whole): Promise<void> {
    const best = bestSide(state.tried);
    const side = best?.side ?? null;
    const answer: ShareAnswer = new Share({
      photos: this.photos(side),
      whole,
      aim: this.aim,
      binds: state.binds,
    }).answer();
    if (answer.kind === "shared") {
      const told = [sharedWords(this.limit, this.able.length, answer.level)];
      const traced = new Map(this.photos(side).map((photo, i) => [photo.id, this.traced(side)[i]!.geometry]));
      const picks = new Map(answer.picks.map((pick) => [pick.id, pick]));
      return this.handOut(
        { ...state, state: "shared", side, level: answer.level, total: answer.total },
        (id) => ({ kind: "set", setting: picks.get(id)!.setting, geometry: traced.get(id)!, told }),
      );
    }
    if (answer.kind !== "cannot") return;
    const why = cannotWords(this.limit, answer.total);
    const full = this.traced(null).map((one) => one!.full);
    const offers = offersFor({
      brief: this.brief,
      whole,
      counted: this.limit.counted,
      messages: this.limit.messages,
      picks: answer.picks,
      photos: this.photos(null).map((photo, i) => ({ ...photo, full: full[i] })),
    });
    return this.handOut(
      {
        ...state,
        state: "cannot",
        side: null,
        total: answer.total,
        why,
        offers: offers.map((offer) =>
          offer.kind === "photos" ? { ...offer, ids: offer.ids.map((id) => this.rowOf(id)) } : offer,
        ),
      },
      () => ({ kind: "cannot", why: "Together the photos are too large for the limit on the whole." }),
    );
  }

  private rowOf(id: string): string {
    return this.able.find((member) => member.id === id)!.batchPhotoId;
  }

  private async handOut(state: ShareState, target: (id: string) => ShareTarget): Promise<void> {
    const changed = new Map(
      this.able
        .map((member) => [member.id, target(member.id)] as const)
        .filter(([id, next]) => !sameTarget(this.able.find((member) => member.id === id)!.share, next)),
    );
    await settleShares(this.db, changed);
    await this.keep({ ...state, waiting: 0 });
  }

  /**
   * Once every file is there: what the whole really is. Files made as if alone may turn out too large
   * together.
   */
  private async checked(state: ShareState): Promise<void> {
    // Photos that came back by undo carry what was settled for another set.
    const strays = this.able.filter((member) => !member.share);
    if (strays.length) return this.settle({ ...state, state: "settling", tried: [], side: null });
    if (this.able.some((member) => !member.measured) || state.state === "cannot") return this.keep(state);
    const { fixed, each } = await this.whole();
    const total = this.able.reduce((sum, member) => sum + each(member.measured!.bytes ?? 0), fixed);
    const room = this.limit.max * this.limit.messages;
    if (state.state === "own" && total > room && !state.binds)
      return this.settle({ ...state, state: "settling", binds: true, tried: [], side: null });
    return this.keep({ ...state, total });
  }

  private whole(): Promise<Whole> {
    const { names: pattern } = resolveBrief(this.brief);
    const names = planNames(
      this.able.map((member, i) => ({
        id: member.id,
        pattern,
        folder: member.folder,
        source: member.name,
        n: i + 1,
        width: 99_999,
        height: 99_999,
        date: null,
        brief: this.brief.name,
        format: member.traced?.all?.format ?? "jpeg",
      })),
    );
    return wholeOf(
      this.limit,
      this.brief.name,
      names.map(({ path }) => path),
    );
  }
}

const sameTarget = (a: ShareTarget | null, b: ShareTarget): boolean => {
  if (!a || a.kind !== b.kind) return false;
  if (a.kind === "set" && b.kind === "set")
    return (
      JSON.stringify([a.setting, a.geometry, a.told]) === JSON.stringify([b.setting, b.geometry, b.told])
    );
  return a.kind === "own" || JSON.stringify(a) === JSON.stringify(b);
};
