/** Holds what is in sight of a trial against the reference, by the same measure as the server. */

import { visibleDifference } from "@/core/difference";
import { SPACES } from "@/core/pixels/colour";

export interface Ask {
  id: number;
  width: number;
  height: number;
  reference: Uint8ClampedArray<ArrayBuffer>;
  trial: Uint8ClampedArray<ArrayBuffer>;
  space: PredefinedColorSpace;
}

export interface Answer {
  id: number;
  difference: number;
  map: { data: Float32Array<ArrayBuffer>; width: number; height: number };
}

self.onmessage = ({ data: { id, width, height, reference, trial, space } }: MessageEvent<Ask>) => {
  const pixels = (data: Uint8ClampedArray<ArrayBuffer>) => ({
    data,
    width,
    height,
    channels: 4,
    space: space === "display-p3" ? SPACES["display-p3"] : SPACES.srgb,
  });
  const { difference, map } = visibleDifference(pixels(reference), pixels(trial));
  const answer: Answer = { id, difference, map: { ...map, data: new Float32Array(map.data) } };
  self.postMessage(answer, { transfer: [answer.map.data.buffer] });
};
