/** Animations that stay ones: what gives way under a ceiling is colours, then pixels, then frames. */
import { formatName } from "@/core/brief";
import {
  type MovingFormat,
  type MovingFound,
  type MovingPixels,
  type MovingSetting,
  type MovingTask,
  NO_LOSS,
  searchMoving,
} from "@/core/coding";
import { type Geometry, rescale } from "@/core/geometry";
import type { Planned } from "@/core/pixels/develop";
import { KEPT_MOVING, movingFormats, planSteps, type Step } from "@/core/plan";
import { formatBytes } from "@/core/units";
import { type Candidates, Judge } from "../candidates";
import { encodeMoving } from "../encode";
import { assemble } from "../headers";
import { decodeMoving, isFlat, type Moving, type PlannedPhoto, planMoving, plannedPicture } from "../planned";
import { readSource } from "../source";
import type { Chosen } from "./asked";
import { dataServe, inside, ownFile, rewritten } from "./own-data";

/** The animation in the first format that can meet the brief. */
export async function movingFile({ photo }: Candidates, signal?: AbortSignal): Promise<Chosen> {
  const own = dataServe(photo) ? rewritten(photo) : null;
  if (own && inside(photo, own.length)) return ownFile(own);
  const moving = await decodeMoving(photo.source);
  let encodes = 0;
  let failed: MovingFound | null = null;
  for (const format of movingFormats(photo.resolved, photo.source.facts)) {
    const maker = new Maker(photo, moving, format, signal);
    const found = await searchMoving(await maker.task(own?.length ?? null));
    encodes += found.encodes;
    if (found.fits && inside(photo, found.bytes)) return { ...(await maker.chosen(found)), encodes };
    failed ??= found;
  }
  return {
    kind: "cannot",
    why: whyNot(photo, failed!),
    geometry: failed!.setting.geometry,
    encodes,
    notes: [],
  };
}

function whyNot({ resolved: { fileSize } }: PlannedPhoto, { setting, bytes }: MovingFound): string {
  const kind = `animated ${formatName(setting.format)}`;
  if (fileSize.min !== null && bytes < fileSize.min)
    return (
      `The ${kind} takes ${formatBytes(bytes)}, below the floor of ${formatBytes(fileSize.min)}; animations are not ` +
      "filled up. Ask for a lower floor."
    );
  return (
    `Cannot: the smallest ${kind} of it that may still be looked at is ${formatBytes(bytes)}, the ceiling is ` +
    `${formatBytes(fileSize.max!)}. Raise the ceiling, cut it shorter, or let only its first frame be taken.`
  );
}

/** Files of one animation in one format, each held by what it was made with. */
class Maker {
  private readonly files = new Map<MovingSetting, Uint8Array>();
  /** Frames that were planned last: levels are tried one after the other on the same. */
  private planned: { key: string; pixels: Promise<MovingPixels> } | null = null;

  constructor(
    private readonly photo: PlannedPhoto,
    private readonly moving: Moving,
    private readonly format: MovingFormat,
    private readonly signal?: AbortSignal,
  ) {}

  /** `soft`: bytes of the photo's own data, where those obey but for their size. */
  async task(soft: number | null): Promise<MovingTask> {
    const { photo, format, moving } = this;
    const { resolved: brief, source, frame, geometry } = photo;
    const smaller = (share: number): Geometry | null => {
      const area = share * share;
      return rescale({ brief, photo: source.facts, from: geometry, area, frame });
    };
    const max = brief.fileSize.max ?? soft;
    const encode = (setting: MovingSetting) => this.encode(setting);
    const { width, height, channels, data } = await this.pixels({ geometry, every: 1 });
    const first = data.subarray(0, width * height * channels);
    const flat = isFlat({ data: first, width, height, channels } as Planned);
    return { format, max, geometry, smaller, frames: moving.frames.length, flat, encode };
  }

  private async encode(setting: MovingSetting): Promise<number> {
    this.signal?.throwIfAborted();
    const { photo, format } = this;
    const pixels = await this.pixels(setting);
    const { headers } = plannedPicture(photo, setting.geometry, format);
    const file = await encodeMoving(pixels, setting, (bare) => assemble(bare, format, headers));
    this.files.set(setting, file);
    return file.length;
  }

  private pixels({ geometry, every }: Pick<MovingSetting, "geometry" | "every">): Promise<MovingPixels> {
    const { photo, moving, format } = this;
    const key = this.keyOf(geometry, every);
    if (this.planned?.key !== key)
      this.planned = { key, pixels: planMoving(photo, moving, { geometry, every, format }) };
    return this.planned.pixels;
  }

  private keyOf = (geometry: Geometry, every: number): string =>
    `${plannedPicture(this.photo, geometry, this.format).key} every ${every}`;

  async chosen({
    setting,
    told,
    bytes,
  }: MovingFound): Promise<Omit<Extract<Chosen, { kind: "layered" }>, "encodes">> {
    const file = this.files.get(setting)!;
    return {
      kind: "layered",
      file,
      format: this.format,
      geometry: setting.geometry,
      same: false,
      difference: await this.differenceOf(file, setting),
      steps: this.steps(setting, told, bytes),
      notes: [],
    };
  }

  private steps({ geometry, every, level, format }: MovingSetting, told: string[], bytes: number): Step[] {
    const { photo, moving } = this;
    const { facts } = photo.source;
    const kept = Math.ceil(moving.frames.length / every);
    const of = kept < moving.frames.length ? ` of ${moving.frames.length}` : "";
    const steps = planSteps({
      ...photo,
      // Which page is taken is no question here.
      facts: { ...facts, pages: 1 },
      geometry,
      encoding: {
        setting: null,
        format,
        bytes,
        about: null,
        told,
        gaveUp: told.some((words) => words.includes("pixels")) ? "the ceiling leaves no room for more" : null,
      },
      writePpi: null,
      dropped: plannedPicture(photo, geometry, format).headers.dropped,
    });
    const coded =
      format === "gif" ? `${level} colours` : level === NO_LOSS ? "without loss" : `quality ${level}`;
    return [
      { do: `Keep ${kept}${of} frames moving`, why: KEPT_MOVING },
      ...steps.map((step) =>
        step.do.startsWith("Save as")
          ? { ...step, do: `Write an animated ${formatName(format)}, ${coded}` }
          : step,
      ),
    ];
  }

  /** Of the first, the middle and the last frame the one that differs most. */
  private async differenceOf(file: Uint8Array, setting: MovingSetting): Promise<number> {
    const like = await this.pixels(setting);
    const back = await decodeMoving(await readSource(Buffer.from(file)));
    const [count, size] = [like.delays.length, like.data.length / like.delays.length];
    const { width, height, channels } = like;
    let worst = 0;
    for (const i of new Set([0, count >> 1, count - 1])) {
      const data = like.data.subarray(i * size, (i + 1) * size);
      const { decoded } = back.frames[Math.min(i, back.frames.length - 1)];
      const id = `${this.keyOf(setting.geometry, setting.every)} frame ${i}`;
      const judge = new Judge(id, { data, width, height, channels } as Planned, undefined);
      worst = Math.max(worst, (await judge.of(decoded!)).difference);
    }
    return worst;
  }
}
