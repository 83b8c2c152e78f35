/**
 * Whether a picture is drawn pixel by pixel: few colours and hard edges. Such art is enlarged by repeating
 * pixels.
 */
import type { Samples } from "./samples";

const MOST_COLOURS = 48;
/** Share of neighbours that are equal to the last bit; photographs and soft-edged drawings have far fewer. */
const EQUAL = 0.6;
/** Codes of 8 bits between two colours whose border is a hard edge. */
const JUMP = 24;

export function isPixelArt({ data, width, height, channels }: Samples): boolean {
  const colours = new Set<number>();
  const jump = data instanceof Uint16Array ? JUMP * 257 : JUMP;
  let [equal, seen, hard] = [0, 0, 0];
  for (let y = 0; y < height; y += 1) {
    let last = -1;
    for (let x = 0; x < width; x += 1) {
      const p = (y * width + x) * channels;
      let code = 0;
      for (let c = 0; c < channels; c += 1) code = (Math.imul(code, 65_599) + data[p + c]) >>> 0;
      if (last >= 0) {
        seen += 1;
        if (code === last) equal += 1;
        else if (
          Math.max(
            ...Array.from({ length: Math.min(3, channels) }, (_, c) =>
              Math.abs(data[p + c] - data[p - channels + c]),
            ),
          ) >= jump
        )
          hard += 1;
      }
      last = code;
      colours.add(code);
      if (colours.size > MOST_COLOURS) return false;
    }
  }
  return (
    colours.size >= 2 &&
    seen > 0 &&
    equal / seen >= EQUAL &&
    hard >= (seen - equal) * 0.6 &&
    !hasRamps(data, width, height, channels)
  );
}

/** Soft edges run through steps in between: a value that lies well between both of its neighbours. */
function hasRamps(data: Samples["data"], width: number, height: number, channels: number): boolean {
  let [ramps, edges] = [0, 0];
  for (let y = 0; y < height; y += 1) {
    for (let x = 1; x + 1 < width; x += 1) {
      const p = (y * width + x) * channels;
      const [a, b, c] = [data[p - channels], data[p], data[p + channels]];
      if (a === b && b === c) continue;
      edges += 1;
      if ((a < b && b < c) || (a > b && b > c)) ramps += 1;
    }
  }
  return edges > 0 && ramps / edges > 0.2;
}
