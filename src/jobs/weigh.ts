/**
 * Trials for the Weigh screen: a ladder for its chart, cheapest first, and the ones that somebody clicks on.
 */
import { setTimeout } from "node:timers/promises";
import { LRUCache } from "lru-cache";
import {
  type Choice,
  type Chroma,
  ladder,
  OWN_TABLES,
  type Setting,
  settingKey,
  settingOf,
  sideOf,
} from "@/core/coding";
import { type Geometry, pixelsOf, planGeometry, withLongSide } from "@/core/geometry";
import { PhotoError, rawTakingOf, troubleOf } from "@/core/photo";
import { allowedFormats, keepsFrames, keepsLayers, reasonsToEncode } from "@/core/plan";
import { Candidates, repackJpeg } from "@/imaging/candidates";
import { rewriteHeaders } from "@/imaging/headers";
import { type PlannedPhoto, PlannedPictures, planPhoto, viewingOf } from "@/imaging/planned";
import { readSource, sentence } from "@/imaging/source";
import { announce, type Store, type WeighedSize, type WeighPlan } from "@/store";
import { keepPlan, keepSize, keepWeighError, loadWeighed, stillWeighed, trialStore } from "@/store/queries";
import { keptPixels, shownKey } from "./kept-pixels";
import { UnwantedError, whileWanted } from "./wanted";

interface Opened {
  pictures: PlannedPictures;
  batchId: string;
  /** The setting that the plan takes; null where none was measured. */
  setting: Setting | null;
  /** SHA-256 of the file. */
  original: string;
}

/** A photo that is weighed, as one job works on it. */
interface Bench extends Opened {
  candidates: Candidates;
  photo: PlannedPhoto;
}

/** Time for a page to fetch and draw what it has asked for. */
const PANE_FIRST_MS = 250;

/** The pictures weighed last: a click is answered without decoding the photo again. */
const opened = new LRUCache<string, Promise<Opened>>({ max: 2 });

async function open(store: Store, id: string): Promise<Opened> {
  const row = await loadWeighed(store.db, id);
  if (!row) throw new UnwantedError();
  const key = JSON.stringify([id, row.measured?.geometry ?? null]);
  const known = opened.get(key) ?? prepare(store, row);
  opened.set(key, known);
  known.catch(() => opened.delete(key));
  return known;
}

async function prepare(
  store: Store,
  row: NonNullable<Awaited<ReturnType<typeof loadWeighed>>>,
): Promise<Opened> {
  const photo = await planPhoto({
    source: await readSource(await store.files.read(row.sha256)),
    brief: row.brief,
    frame: row.brief.ink ? row.frame : (row.measured?.frame ?? row.frame),
    sha256: row.sha256,
    geometry: row.measured?.geometry ?? undefined,
  });
  // All trials are judged at one size; where the plan has more pixels than the view, it is clean at its own.
  const largerAsSeen = pixelsOf(photo.geometry) <= pixelsOf(photo.view);
  return {
    pictures: new PlannedPictures({ ...photo, largerAsSeen }),
    batchId: row.batchId,
    setting: row.measured?.setting ?? null,
    original: row.sha256,
  };
}

/** Every trial of the ladder; those that are made already are only looked up. */
export async function weigh(store: Store, id: string): Promise<void> {
  await guarded(store, id, async (bench) => {
    const { candidates, photo, batchId } = bench;
    const { resolved, source, geometry } = photo;
    if (resolved.set)
      throw new PhotoError(
        "A set is asked, and its files are chosen one by one. Take the set out of the brief to weigh this photo.",
      );
    if (keepsLayers(resolved, source.facts))
      throw new PhotoError(
        "It stays in layers or pages, so there are no encodings to weigh. Layers on the Desk shows " +
          "what weighs how much.",
      );
    if (keepsFrames(resolved, source.facts))
      throw new PhotoError(
        "It stays an animation, whose files are chosen one after the other. Let its first frame be taken to weigh that.",
      );
    const formats = allowedFormats(resolved, source.facts);
    const look = await candidates.look(candidates.at(geometry, "jpeg"));
    const chroma: Chroma = look.flat ? "4:4:4" : "4:2:0";
    const choices = ladder(formats, pixelsOf(geometry), chroma, resolved.bits === 10 ? 10 : 8);
    const settings = choices.map((choice) => settingOf(choice, pixelsOf(geometry))!);
    const plan: WeighPlan = {
      geometry,
      chroma,
      formats: await formatsOf(candidates, geometry, settings),
      packed: null,
      ladder: settings.length,
      made: 0,
    };
    await keepPlan(store.db, id, plan);
    await announce(store.db, batchId);
    plan.packed = await packed(photo);
    plan.ways = await waysOf(store, bench);
    if (Object.keys(plan.ways).length) await keepPlan(store.db, id, plan);
    for (const setting of settings) {
      await tryOne(bench, setting);
      plan.made += 1;
      await keepPlan(store.db, id, plan);
      await announce(store.db, batchId);
    }
  });
}

/** One trial that was asked for: shown as soon as it is encoded, judged right after. */
export async function trial(store: Store, id: string, choice: Choice): Promise<void> {
  await guarded(store, id, async ({ candidates, photo, batchId }) => {
    const side = sideOf(choice);
    const geometry = geometryFor(photo, side);
    const setting = settingOf(choice, pixelsOf(geometry));
    if (!setting) return;
    const picture = candidates.at(geometry, setting.format);
    const size = { geometry, formats: await formatsOf(candidates, geometry, [setting]) };
    if (side !== null) await keepSize(store.db, id, side, size);
    await candidates.trial(picture, setting);
    const decoded = await candidates.decodedNow(picture, setting);
    if (decoded) await keptPixels(store).put(shownKey(picture.key, settingKey(setting)), decoded);
    await announce(store.db, batchId);
    // The pane is drawn first: on two cores both at once would make it wait.
    await setTimeout(PANE_FIRST_MS);
    if (decoded) await candidates.judge(picture, setting, decoded);
    else await candidates.judged(picture, setting);
    await announce(store.db, batchId);
  });
}

/** `side`: as a trial of other pixels asks; null for the planned ones. */
function geometryFor(photo: PlannedPhoto, side: number | null): Geometry {
  const { geometry, resolved, source, frame } = photo;
  if (side === null) return geometry;
  return withLongSide(viewingOf(photo), planGeometry(resolved, source.facts, frame), side);
}

async function tryOne({ candidates, photo }: Bench, setting: Setting): Promise<void> {
  const picture = candidates.at(photo.geometry, setting.format);
  await candidates.trial(picture, setting);
  await candidates.judged(picture, setting);
}

async function guarded(store: Store, id: string, work: (bench: Bench) => Promise<void>): Promise<void> {
  const wanted = () => stillWeighed(store.db, id);
  if (!(await wanted())) return;
  try {
    await whileWanted(wanted, async (signal) => {
      const one = await open(store, id);
      const { pictures } = one;
      const { photo } = pictures;
      const candidates = new Candidates(photo, { trials: trialStore(store), pictures, signal });
      await work({ ...one, candidates, photo });
    });
  } catch (error) {
    if (error instanceof UnwantedError) return;
    if (troubleOf(error) !== "photo") throw error;
    await keepWeighError(store.db, id, sentence(error));
  }
}

async function formatsOf(
  candidates: Candidates,
  geometry: Geometry,
  settings: readonly Setting[],
): Promise<WeighedSize["formats"]> {
  const out: WeighedSize["formats"] = {};
  for (const { format } of settings) {
    const picture = candidates.at(geometry, format);
    out[format] ??= { pictureKey: picture.key, added: (await candidates.overhead(picture)).added };
  }
  return out;
}

/** Where the plan takes no lossy setting, raw files are compared in this one. */
const USUAL: Setting = { format: "jpeg", quality: 88, chroma: "4:4:4", table: OWN_TABLES, effort: "careful" };

/** What a raw file takes in each of its ways, in one setting. */
async function waysOf(
  store: Store,
  { photo, setting, original }: Bench,
): Promise<NonNullable<WeighPlan["ways"]>> {
  const out: NonNullable<WeighPlan["ways"]> = {};
  const { brief, source, frame, geometry } = photo;
  if (source.foreign !== "raw") return out;
  for (const way of ["developed", "camera"] as const) {
    if (way === "camera" && !source.facts.preview) continue;
    const raw = { ...rawTakingOf(frame), way };
    const planned = await planPhoto({
      source,
      brief,
      geometry,
      frame: { ...frame, raw },
      sha256: original,
    });
    const candidates = new Candidates(planned, { trials: trialStore(store) });
    const tried = setting ?? USUAL;
    // A camera's own picture may be broken where the sensor's values are not.
    const made = await candidates.trial(candidates.at(geometry, tried.format), tried).catch(() => null);
    if (made) out[way] = made.bytes;
  }
  return out;
}

/** Bytes of the photo's own data packed tighter, where the picture may stay as it is. */
async function packed({ brief, resolved, source, geometry, frame }: PlannedPhoto): Promise<number | null> {
  const task = { brief, resolved, facts: source.facts, geometry, takenAs: frame.takenAs };
  if (!source.jpeg || reasonsToEncode(task).length) return null;
  return (await repackJpeg(rewriteHeaders(resolved, source)))?.length ?? null;
}
