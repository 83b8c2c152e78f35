/**
 * Trials for the Weigh screen: a ladder for its chart, cheapest first, and the ones that somebody clicks on.
 */
import { setTimeout } from "node:timers/promises";
import { type Brief, type OutputFormat, resolveBrief } from "@/core/brief";
import { type Choice, type Chroma, ladder, type Setting, settingOf } from "@/core/coding";
import { type Geometry, planGeometry } from "@/core/geometry";
import { type Frame, PhotoError, rawTakingOf } from "@/core/photo";
import { allowedFormats, keepsLayers, reasonsToEncode } from "@/core/plan";
import { repackJpeg, Workbench } from "@/imaging/candidates";
import { rewriteHeaders } from "@/imaging/headers";
import { staged } from "@/imaging/planned";
import { readSource, type Source, sentence } from "@/imaging/source";
import type { Store, WeighPlan } from "@/store";
import { announce } from "@/store";
import { keepPlan, keepWeighError, loadWeighed, stillWeighed, trialStore } from "@/store/queries";

/** Nobody looks at this comparison any more. */
class UnwantedError extends Error {}

interface Bench {
  bench: Workbench;
  brief: Brief;
  source: Source;
  frame: Frame;
  geometry: Geometry;
  batchId: string;
  /** The setting that the plan takes; null where none was measured. */
  setting: Setting | null;
  /** SHA-256 of the file. */
  original: string;
}

/** Time for a page to fetch and draw what it has asked for. */
const PANE_FIRST_MS = 250;

/** The pictures weighed last: a click is answered without decoding the photo again. */
const benches = new Map<string, Promise<Bench>>();
const KEPT = 2;

async function open(store: Store, id: string): Promise<Bench> {
  const row = await loadWeighed(store.db, id);
  if (!row) throw new UnwantedError();
  const key = JSON.stringify([id, row.measured?.geometry ?? null]);
  const known = benches.get(key) ?? prepare(store, id, row);
  benches.delete(key);
  benches.set(key, known);
  known.catch(() => benches.delete(key));
  if (benches.size > KEPT) benches.delete(benches.keys().next().value!);
  return known;
}

async function prepare(
  store: Store,
  id: string,
  row: NonNullable<Awaited<ReturnType<typeof loadWeighed>>>,
): Promise<Bench> {
  const resolved = resolveBrief(row.brief);
  const photo = await readSource(await store.files.read(row.sha256));
  const { source, sha256, frame } = await staged({
    source: photo,
    brief: row.brief,
    frame: row.brief.ink ? row.frame : (row.measured?.frame ?? row.frame),
    sha256: row.sha256,
  });
  const geometry = row.measured?.geometry ?? planGeometry(resolved, source.facts, frame);
  const wanted = async () => {
    if (!(await stillWeighed(store.db, id))) throw new UnwantedError();
  };
  return {
    bench: new Workbench({ source, frame, trials: trialStore(store), sha256, wanted }, resolved),
    brief: row.brief,
    source,
    frame,
    geometry,
    batchId: row.batchId,
    setting: row.measured?.setting ?? null,
    original: row.sha256,
  };
}

/** Every trial of the ladder; those that are made already are only looked up. */
export async function weigh(store: Store, id: string): Promise<void> {
  await guarded(store, id, async () => {
    const opened = await open(store, id);
    const { bench, geometry, batchId, brief, source } = opened;
    if (keepsLayers(resolveBrief(brief), source.facts))
      throw new PhotoError(
        "It stays in layers or pages, so there are no encodings to weigh. Layers on the Desk shows " +
          "what weighs how much.",
      );
    const resolved = resolveBrief(brief);
    const formats = allowedFormats(resolved, source.facts);
    const look = await bench.look(geometry, "jpeg");
    const chroma: Chroma = look.flat ? "4:4:4" : "4:2:0";
    const choices = ladder(formats, geometry.width * geometry.height, chroma, resolved.bits === 10 ? 10 : 8);
    const plan: WeighPlan = {
      geometry,
      chroma,
      formats: await keysOf(bench, geometry, choices),
      packed: null,
      ladder: choices.length,
      made: 0,
    };
    await keepPlan(store.db, id, plan);
    await announce(store.db, batchId);
    plan.packed = await packed(opened);
    plan.ways = await waysOf(store, opened);
    if (Object.keys(plan.ways).length) await keepPlan(store.db, id, plan);
    for (const choice of choices) {
      await tryOne(opened, choice);
      plan.made += 1;
      await keepPlan(store.db, id, plan);
      await announce(store.db, batchId);
    }
  });
}

/** One trial that was asked for: shown as soon as it is encoded, judged right after. */
export async function trial(store: Store, id: string, choice: Choice): Promise<void> {
  await guarded(store, id, async () => {
    const opened = await open(store, id);
    const { bench, geometry, batchId } = opened;
    const setting = settingOf(choice, geometry.width * geometry.height);
    if (!setting) return;
    await bench.trial(geometry, setting);
    await announce(store.db, batchId);
    // The pane is drawn first: on two cores both at once would make it wait.
    await setTimeout(PANE_FIRST_MS);
    await bench.judged(geometry, setting);
    await announce(store.db, batchId);
  });
}

async function tryOne({ bench, geometry }: Bench, choice: Choice): Promise<void> {
  const setting = settingOf(choice, geometry.width * geometry.height)!;
  await bench.trial(geometry, setting);
  await bench.judged(geometry, setting);
}

async function guarded(store: Store, id: string, work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    if (error instanceof UnwantedError) return;
    await keepWeighError(store.db, id, sentence(error));
  }
}

async function keysOf(
  bench: Workbench,
  geometry: Geometry,
  choices: readonly Choice[],
): Promise<WeighPlan["formats"]> {
  const out: WeighPlan["formats"] = {};
  for (const choice of choices) {
    const setting = settingOf(choice, geometry.width * geometry.height)!;
    out[setting.format as OutputFormat] ??= {
      pictureKey: bench.pictureKey(geometry, setting.format),
      added: await bench.added(geometry, setting.format),
    };
  }
  return out;
}

/** Where the plan takes no lossy setting, raw files are compared in this one. */
const USUAL: Setting = { format: "jpeg", quality: 88, chroma: "4:4:4", table: 0, effort: "fast" };

/** What a raw file takes in each of its ways, in one setting. */
async function waysOf(
  store: Store,
  { brief, source, frame, geometry, setting, original }: Bench,
): Promise<NonNullable<WeighPlan["ways"]>> {
  const out: NonNullable<WeighPlan["ways"]> = {};
  if (source.foreign !== "raw") return out;
  for (const way of ["developed", "camera"] as const) {
    if (way === "camera" && !source.facts.preview) continue;
    const stage = await staged({
      source,
      brief,
      frame: { ...frame, raw: { ...rawTakingOf(frame), way } },
      sha256: original,
    });
    const bench = new Workbench(
      { source: stage.source, frame: stage.frame, trials: trialStore(store), sha256: stage.sha256 },
      resolveBrief(brief),
    );
    // A camera's own picture may be broken where the sensor's values are not.
    const made = await bench.trial(geometry, setting ?? USUAL).catch(() => null);
    if (made) out[way] = made.bytes;
  }
  return out;
}

/** Bytes of the photo's own data packed tighter, where the picture may stay as it is. */
async function packed({ brief, source, geometry, frame }: Bench): Promise<number | null> {
  const resolved = resolveBrief(brief);
  if (!source.jpeg || reasonsToEncode(brief, resolved, source.facts, geometry, frame.takenAs).length)
    return null;
  return (await repackJpeg(rewriteHeaders(resolved, source)))?.length ?? null;
}
