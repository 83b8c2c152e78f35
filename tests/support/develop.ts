/** Samples, and plans that do nothing but what a test asks. */
import { SPACES } from "@/core/pixels/colour";
import type { Development, Samples } from "@/core/pixels/develop";

export const plan = (
  width: number,
  height: number,
  out: { width: number; height: number },
  change: Partial<Development> = {},
): Development => ({
  from: SPACES.srgb,
  to: SPACES.srgb,
  orientation: 1,
  photo: { width, height },
  shown: { x: 0, y: 0, width, height },
  density: [1, 1],
  crop: { x: 0, y: 0, width, height },
  angle: 0,
  size: out,
  kernel: null,
  sharpen: null,
  ppi: null,
  bits: 8,
  under: null,
  plain: false,
  ...change,
});
export const samples = (data: Samples["data"], width: number, height: number): Samples => ({
  data,
  width,
  height,
  channels: data.length / (width * height),
});
export const filled = (
  width: number,
  height: number,
  channels: number,
  at: (x: number, y: number, c: number) => number,
) => {
  const data = new Uint8Array(width * height * channels);
  for (let y = 0, i = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) for (let c = 0; c < channels; c += 1, i += 1) data[i] = at(x, y, c);
  return samples(data, width, height);
};
