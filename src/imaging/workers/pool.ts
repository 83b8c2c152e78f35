/** Developing and comparing: on threads of their own, or in place where there is no bundle for them. */
import { availableParallelism } from "node:os";
import { JpegCoder, type JpegPixels, type JpegSamples, type JpegSetting } from "@/core/coding";
import type { Pixels } from "@/core/difference";
import type { InkSettings } from "@/core/photo";
import type { Developed, Development, Samples } from "@/core/pixels/develop";
import type { InkFound, RgbPicture } from "@/core/pixels/ink";
import { bundleBeside } from "./beside";
import type { LibraryDecode } from "./library";
import { shared } from "./shared";
import { Threads } from "./threads";
import { carryOut, type DecodedAside, type Done, type Judged, type Work } from "./work";

/** Threads that pictures are developed and compared on. */
const THREADS = Math.min(2, availableParallelism());
let beside = false;
/** Told that other processes work on photos at this moment, which need the cores as well. */
export const shareCores = (withOthers: boolean): void => {
  beside = withOthers;
};
/** How many threads work on one picture together. */
export const threadsForOne = (): number => (beside ? 1 : THREADS);

const path = bundleBeside("work-thread");
const threads = path === null ? null : new Threads(path, THREADS);
/**
 * Coding has a thread of its own: a picture is prepared once, its files take some hundredths of a second each, and what
 * somebody has clicked on does not wait for the judging of other trials.
 */
let coding = path === null ? null : new Threads(path, 1);

/** Starts the threads while others still decode, so that they are there when they are needed. */
export const warmUp = (): void => {
  threads?.warmUp();
  coding?.warmUp();
};

/** For processes in which nobody clicks: coding needs no thread of its own, whose start costs as much as a file. */
export const shareThreads = (): void => {
  coding = threads;
};

/** Throws an InkError where nothing looks like ink. */
export const findInkAside = (picture: RgbPicture, settings: InkSettings) =>
  aside({ kind: "ink", picture, settings }) as Promise<InkFound>;

export const developAside = (samples: Samples, plan: Development) =>
  aside({ kind: "develop", samples, plan }) as Promise<Developed>;

/** Decoded where it is developed: samples of a whole photo go nowhere. */
export const decodeAside = (file: Uint8Array, how: LibraryDecode, plan: Development, looks: boolean) =>
  aside({ kind: "decode", file, how, plan, looks }) as Promise<DecodedAside>;

/** What is coded before a thread could be asked. */
const TINY_PIXELS = 4096;

/** A JPEG of these samples: a thread that has coded them before need not prepare them again. */
export async function jpegAside(samples: JpegSamples, setting: JpegSetting): Promise<Uint8Array> {
  if (samples.width * samples.height <= TINY_PIXELS)
    return new JpegCoder(samples, setting.chroma).encode(setting);
  return ((await aside({ kind: "jpeg", ...sharedSamples(samples), setting })) as { encoded: Uint8Array })
    .encoded;
}

function sharedSamples({ data: own, width, height, channels }: JpegSamples) {
  const { id, data } = shared(own);
  return { id, samples: { data, width, height, channels } };
}

/**
 * What decoders make of the JPEG that {@link jpegAside} made last of these samples; null where no thread has its levels
 * any more, or they are of a kind that is left to decoders.
 */
export async function decodedAside(samples: JpegSamples, setting: JpegSetting): Promise<JpegPixels | null> {
  return pixelsIn(await aside({ kind: "decoded", id: shared(samples.data).id, setting }));
}

/** What decoders would make of a JPEG of these samples whose levels are only rounded; null as above. */
export const roundedAside = async (samples: JpegSamples, setting: JpegSetting): Promise<JpegPixels | null> =>
  pixelsIn(await aside({ kind: "rounded", ...sharedSamples(samples), setting }));

const pixelsIn = (done: Done): JpegPixels | null => ("data" in done ? (done as JpegPixels) : null);

/** A JPEG packed tighter without loss; null where it is of a kind that is left alone, or damaged. */
export async function packAside(file: Uint8Array): Promise<Uint8Array | null> {
  return ((await aside({ kind: "pack", file })) as { encoded: Uint8Array | null }).encoded;
}

/**
 * `id` names the reference: a thread that has met it need not analyse it again. Its pixels are shared, not
 * copied.
 */
export const differenceAside = (id: string, reference: Pixels, trial: Pixels, asSeen = false) =>
  aside({ kind: "difference", id, reference, trial, asSeen }) as Promise<Judged>;

/** Has a thread analyse a reference before the first trial is there. Nothing is done where there are no threads. */
export async function analyseAside(id: string, reference: Pixels): Promise<void> {
  await threads?.run({ kind: "reference", id, reference });
}

const CODING: ReadonlySet<Work["kind"]> = new Set(["jpeg", "decoded", "rounded", "pack"]);

const aside = (work: Work): Promise<Done> => {
  const pool = CODING.has(work.kind) ? coding : threads;
  return pool ? pool.run(work) : Promise.resolve().then(() => carryOut(work));
};
