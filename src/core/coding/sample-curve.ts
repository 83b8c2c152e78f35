/** How bytes grow with quality, as a sample of a large picture shows: a trial of it costs a tenth or less. */
import { type At, predictLog } from "./along";
import { type Picture, payloadOf, type Setting } from "./types";

export interface SampleCurveTask {
  picture: Picture;
  setting(quality: number): Setting;
  /** ln(bytes of the whole) that is usual at a quality. */
  usual(quality: number): number;
}

export interface SampleCurve {
  /** ln(bytes of the whole, without what every file has) that is expected at a quality. */
  expect(quality: number): number;
  /** Has the sample coded at a quality, so that what is expected there is sure but for one factor. */
  sharpen(quality: number): Promise<void>;
}

/** Null where the picture is small enough itself. */
export async function sampleCurve({ picture, setting, usual }: SampleCurveTask): Promise<SampleCurve | null> {
  const sample = await picture.sample();
  if (!sample) return null;
  const share = Math.log(picture.pixels / sample.pixels);
  const points: At[] = [];
  return {
    expect: (quality) => predictLog(usual, points, quality),
    sharpen: async (quality) => {
      if (points.some((point) => point.quality === quality)) return;
      const at = setting(quality);
      const log = Math.log(payloadOf(await sample.encode(at), sample.overhead, at.format));
      points.push({ quality, log: log + share });
    },
  };
}
