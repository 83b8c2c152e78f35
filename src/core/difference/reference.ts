/**
 * The measure itself: how far a trial differs to the eye from the picture that it encodes. Works in bands of
 * rows, so that
 * memory does not grow with the picture; what the reference alone gives is kept where it is small.
 */
import { formatSize } from "../units";
import { engines } from "./engine";
import { DifferenceError } from "./error";
import { OklabReader, type Pixels } from "./oklab";
import { cells } from "./pool";
import { type Activity, activityOf, errorsOf, type Scales, scalesOf } from "./scales";
import { Tally } from "./tally";
import { CELL, type Difference } from "./types";

/** Pixels of a band, and rows beyond it that its windows reach, a multiple of {@link CELL}. */
const BAND_PIXELS = 2_200_000;
const MARGIN = 40;
/** Up to this many pixels the reference's planes are kept for the next trial (about 9 bytes a pixel). */
const KEPT_PIXELS = 12_000_000;

interface Band {
  scales: Scales;
  activity: Activity;
}

/** One picture that trials are held against. */
export class Reference {
  private readonly reader: OklabReader;
  private readonly engine = engines.take();
  private readonly kept = new Map<string, Band>();

  constructor(private readonly pixels: Pixels) {
    this.reader = new OklabReader(pixels);
  }

  /** Throws a {@link DifferenceError} where the sizes differ. The same pixels give exactly 0. */
  compare(trial: Pixels): Difference {
    const { width, height, channels } = this.pixels;
    if (trial.width !== width || trial.height !== height) {
      const [asked, found] = [formatSize(width, height), formatSize(trial.width, trial.height)];
      throw new DifferenceError(
        `Two pictures of different size cannot be compared: the reference has ${asked} px, the trial ` +
          `${found} px. Bring them to the same size first.`,
      );
    }
    const clear = (n: number) => n === 2 || n === 4;
    const onWhite = this.on(trial, 1);
    if (!clear(channels) && !clear(trial.channels)) return onWhite;
    // What is transparent is seen on any ground: the worse of white and black counts.
    const onBlack = this.on(trial, 0);
    return onBlack.difference > onWhite.difference ? onBlack : onWhite;
  }

  /** Nothing is compared any more: the next reference works in its memory. */
  end(): void {
    engines.giveBack(this.engine);
  }

  /** Works out beforehand what the reference alone gives, where that is kept. */
  analyse(): void {
    if (!this.keeps) return;
    for (const { from, to } of this.bands()) this.band(from, to, 1);
  }

  /** Rows that are worked on at a time, with what they see beyond their edges. */
  private bands(): { top: number; end: number; from: number; to: number }[] {
    const { width, height } = this.pixels;
    const rows = CELL * Math.max(32, Math.ceil(BAND_PIXELS / width / CELL));
    const last = Math.ceil(height / CELL) * CELL;
    return Array.from({ length: Math.ceil(height / rows) }, (_, k) => {
      const top = k * rows;
      const to = Math.min(last, top + rows + MARGIN);
      return { top, end: Math.min(to, top + rows), from: Math.max(0, top - MARGIN), to };
    });
  }

  private on(trial: Pixels, under: number): Difference {
    const { width, height } = this.pixels;
    const { engine } = this;
    const reader = new OklabReader(trial);
    const tally = new Tally(width, height, this.pixels.parts);
    for (const { top, end, from, to } of this.bands()) {
      const before = engine.mark();
      const { scales, activity } = this.band(from, to, under);
      const free = this.keeps ? engine.mark() : before;
      const seen = scalesOf(engine, ...reader.planes(engine, from, to, under));
      const errors = errorsOf(engine, scales, seen);
      const across = scales.quarter[0].width;
      const squares = cells(engine, errors, activity, (across * (to - from)) / CELL);
      const views = ({ quarter }: Scales) => quarter.map((plane) => engine.view(plane));
      const [first, last, row] = [(top - from) / CELL, (end - from) / CELL, from / CELL];
      tally.add({ squares, across, first, last, row, seen: views(seen), own: views(scales) });
      engine.release(free);
    }
    return tally.result;
  }

  private get keeps(): boolean {
    return this.pixels.width * this.pixels.height <= KEPT_PIXELS;
  }

  private band(from: number, to: number, under: number): Band {
    const key = `${from} ${under}`;
    const known = this.kept.get(key);
    if (known) return known;
    const scales = scalesOf(this.engine, ...this.reader.planes(this.engine, from, to, under));
    const band = { scales, activity: activityOf(this.engine, scales) };
    if (this.keeps) this.kept.set(key, band);
    return band;
  }
}

/** One comparison; for several trials of one picture keep a {@link Reference}. */
export const visibleDifference = (reference: Pixels, trial: Pixels): Difference =>
  new Reference(reference).compare(trial);
