/** The planned pictures of one photo: what is derived is worked out once, pixels only when they are needed. */
import { LRUCache } from "lru-cache";
import type { OutputFormat } from "@/core/brief";
import type { Geometry } from "@/core/geometry";
import type { PixelCache } from "./cache";
import type { LargestPicture } from "./largest";
import { type PlannedPicture, plannedPicture } from "./picture";
import type { PlannedPhoto } from "./plan-photo";
import { preparePicture } from "./prepare";
import type { Prepared } from "./prepared";

/** Pixels in use: one picture, or two while fewer pixels are held against more. */
const IN_USE = 2;

export class PlannedPictures {
  private readonly derived = new WeakMap<Geometry, Map<OutputFormat, PlannedPicture>>();
  private readonly prepared = new LRUCache<string, Promise<Prepared>>({ max: IN_USE });

  /**
   * `kept`: pictures on disk, where a photo is worked on in several steps. `largest`: what the files of a set are
   * reduced from.
   */
  constructor(
    readonly photo: PlannedPhoto,
    private readonly kept?: PixelCache,
    private readonly largest?: LargestPicture,
  ) {}

  at(geometry: Geometry, format: OutputFormat): PlannedPicture {
    const known = this.derived.get(geometry) ?? new Map<OutputFormat, PlannedPicture>();
    this.derived.set(geometry, known);
    const picture = known.get(format) ?? this.plan(geometry, format);
    known.set(format, picture);
    return picture;
  }

  private plan(geometry: Geometry, format: OutputFormat): PlannedPicture {
    const picture = plannedPicture(this.photo, geometry, format);
    return this.largest?.serves(picture) ? this.largest.keyed(picture) : picture;
  }

  /** Throws a PhotoError for a damaged photo. */
  pixels(picture: PlannedPicture): Promise<Prepared> {
    const known = this.prepared.get(picture.key) ?? this.prepare(picture);
    this.prepared.set(picture.key, known);
    return known;
  }

  private async prepare(picture: PlannedPicture): Promise<Prepared> {
    if (this.largest?.serves(picture)) return this.largest.pixels(picture);
    const { key, plan } = picture;
    const kept = await this.kept?.get<Prepared>(key);
    if (kept) return kept;
    const made = await preparePicture(this.photo.source, plan);
    await this.kept?.put(key, made);
    return made;
  }
}
