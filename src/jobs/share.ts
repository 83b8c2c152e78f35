/**
 * Shares limits on the whole of a batch: the driver that keeps the state in rows, asks for trials as jobs, and
 * is called again whenever the last trial that it waits for is there. Can be broken off anywhere: what it
 * decides follows from the rows alone.
 */

import { createHash } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import { type Brief, resolveBrief } from "@/core/brief";
import {
  type BudgetAnswer,
  cannotWords,
  type Limit,
  next,
  offersFor,
  sharedWords,
  sideKey,
  type Whole,
} from "@/core/budget";
import { planNames } from "@/core/plan/names";
import { canonical } from "@/core/units";
import { wholeOf } from "@/delivery";
import type { Executor, Store } from "@/store";
import { announce, batches, type ShareState, type ShareTarget } from "@/store";
import {
  askTrials,
  bodiesOf,
  keepShare,
  type Member,
  membersOf,
  settleShares,
  sharesOf,
} from "@/store/queries";

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
      const { messages } = batch;
      const group = new Group(tx, { batchId, revisionId, brief: body, members: mine, messages });
      await group.step(before.get(revisionId) ?? null);
    }
  });
  await announce(store.db, batchId);
}

/** So many photos of a larger batch foretell whether the limit binds at all. */
const PROBES = 6;

type Answered<K extends BudgetAnswer["kind"]> = Extract<BudgetAnswer, { kind: K }>;

interface GroupTask {
  batchId: string;
  revisionId: string;
  brief: Brief;
  members: readonly Member[];
  /** Messages that share the limit out. */
  messages: number;
}

/** The photos of a batch under one brief that limits them together. */
class Group {
  private readonly limit: Limit;
  private readonly aim: "clean" | "best";
  /** Photos that cannot take part: damaged ones, and such as cannot take the pixels. */
  private readonly able: Member[];

  constructor(
    private readonly db: Executor,
    private readonly task: GroupTask,
  ) {
    const { brief, members, messages } = task;
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
    if (this.able.some((member) => member.trialsAsked))
      return this.keep({ ...state, waiting: this.waiting() });
    if (state.state !== "settling") return this.checked(state);
    if (this.able.some(comingAlone)) return this.keep({ ...state, waiting: this.waiting() });
    return this.settle(state);
  }

  private waiting(): number {
    return this.able.filter((member) => member.trialsAsked || comingAlone(member)).length;
  }

  private keep(state: ShareState): Promise<void> {
    return keepShare(this.db, this.task.batchId, this.task.revisionId, state);
  }

  private async settle(state: ShareState): Promise<void> {
    const whole = await this.whole();
    const answer = next(state, {
      photos: this.able.map((member) => ({ ...member, alone: madeAlone(member) })),
      whole,
      aim: this.aim,
      binds: state.binds,
      probes: PROBES,
    });
    const now: ShareState = { ...state, ...answer.state, tried: [...answer.state.tried] };
    switch (answer.kind) {
      case "trials":
        await askTrials(this.db, answer.trials);
        return this.keep({ ...now, state: "settling", waiting: answer.trials.length });
      case "alone":
        await settleShares(this.db, new Map(answer.ids.map((id) => [id, { kind: "own" }])));
        return this.keep({ ...now, state: "settling", waiting: answer.ids.length });
      case "own":
        return this.handOut({ ...now, state: "own", total: null }, () => ({ kind: "own" }));
      case "shared":
        return this.handOutShares(now, answer);
      default:
        return this.refuse(now, whole, answer);
    }
  }

  private handOutShares(state: ShareState, answer: Answered<"shared">): Promise<void> {
    const { side, level, total } = answer;
    const told = [sharedWords(this.limit, this.able.length, level)];
    const settings = new Map(answer.picks.map((pick) => [pick.id, pick.setting]));
    const geometries = new Map(
      this.able.map((member) => [member.id, member.traced![sideKey(side)].geometry]),
    );
    return this.handOut({ ...state, state: "shared", side, level, total }, (id) => ({
      kind: "set",
      setting: settings.get(id)!,
      geometry: geometries.get(id)!,
      told,
    }));
  }

  private refuse(state: ShareState, whole: Whole, answer: Answered<"cannot">): Promise<void> {
    const { counted, messages } = this.limit;
    const offers = offersFor({
      brief: this.task.brief,
      whole,
      counted,
      messages,
      picks: answer.picks,
      photos: this.able.map(({ traced }) => ({ size: traced![sideKey(answer.side)].geometry })),
    });
    const refused: ShareState = {
      ...state,
      state: "cannot",
      side: null,
      total: answer.total,
      why: cannotWords(this.limit, answer.total),
      offers: offers.map((offer) =>
        offer.kind === "photos" ? { ...offer, ids: offer.ids.map((id) => this.rowOf(id)) } : offer,
      ),
    };
    return this.handOut(refused, () => ({
      kind: "cannot",
      why: "Together the photos are too large for the limit on the whole.",
    }));
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
    const { names: pattern } = resolveBrief(this.task.brief);
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
        brief: this.task.brief.name,
        format: member.traced?.all?.format ?? "jpeg",
      })),
    );
    return wholeOf(
      this.limit,
      this.task.brief.name,
      names.map(({ path }) => path),
    );
  }
}

/** Its file is being made as if it were alone. */
const comingAlone = ({ share, measured }: Member): boolean => share?.kind === "own" && measured === null;

const madeAlone = ({ share, measured }: Member): number | undefined =>
  share?.kind === "own" ? (measured?.bytes ?? undefined) : undefined;

const sameTarget = (a: ShareTarget | null, b: ShareTarget): boolean => {
  if (!a || a.kind !== b.kind) return false;
  if (a.kind === "set" && b.kind === "set")
    return canonical([a.setting, a.geometry, a.told]) === canonical([b.setting, b.geometry, b.told]);
  return a.kind === "own" || canonical(a) === canonical(b);
};
