/** The largest picture of a set: decoded and developed once, the smaller ones are reduced from it in linear light. */
import { createHash } from "node:crypto";
import type { Geometry } from "@/core/geometry";
import type { Rect } from "@/core/photo";
import { seenAt } from "@/core/pixels/resample";
import type { Source } from "../source";
import type { PlannedPicture } from "./picture";
import { type PicturePlan, preparePicture } from "./prepare";
import type { Prepared } from "./prepared";

export class LargestPicture {
  /** One for each way in which formats want their samples. */
  private readonly made = new Map<string, Promise<Prepared>>();

  constructor(
    private readonly source: Source,
    private readonly geometry: Geometry,
  ) {}

  /** Whether a picture is the same view of the photo, no larger, and nothing is done to it after it was resized. */
  serves({ geometry, plan: { to, sharpen, border } }: PlannedPicture): boolean {
    const { width, height, crop, mode, turn = 0, angle = 0 } = this.geometry;
    return (
      geometry.width <= width &&
      geometry.height <= height &&
      geometry.mode === mode &&
      mode !== "pad" &&
      (geometry.turn ?? 0) === turn &&
      (geometry.angle ?? 0) === angle &&
      alike(geometry.crop, crop) &&
      !to.light &&
      !sharpen &&
      !border
    );
  }

  /** Another key than that of the same picture made from the photo itself: its samples differ a little. */
  keyed(picture: PlannedPicture): PlannedPicture {
    const { width, height } = this.geometry;
    if (picture.geometry.width === width && picture.geometry.height === height) return picture;
    const key = createHash("sha256").update(`${picture.key} of ${width} × ${height}`).digest("hex");
    return { ...picture, key };
  }

  /** Throws a PhotoError for a damaged photo. */
  async pixels({ plan, geometry, space }: PlannedPicture): Promise<Prepared> {
    const from = await this.largest(plan);
    return seenAt({ ...from, space }, geometry);
  }

  private largest(plan: PicturePlan): Promise<Prepared> {
    const { to, bits, opaque, background } = plan;
    const key = JSON.stringify([to.name, to.keeps, bits, opaque, background]);
    const made = this.made.get(key) ?? preparePicture(this.source, { ...plan, geometry: this.geometry });
    this.made.set(key, made);
    return made;
  }
}

/** Half a pixel of the photo: what a width leaves of a height is rounded. */
const NEARLY = 1;

const alike = (a: Rect, b: Rect): boolean =>
  (["x", "y", "width", "height"] as const).every((side) => Math.abs(a[side] - b[side]) <= NEARLY);
