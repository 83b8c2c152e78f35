/**
 * The paper behind the ink: what the sheet would look like without strokes, shadows and tint included. A
 * grey closing
 * (the largest value nearby, then the smallest of those) removes whatever is dark and narrower than its
 * window and
 * leaves wide edges, such as that of a shadow, exactly where they are.
 *
 * Running maxima over windows of any width in three comparisons a value: M. van Herk, Pattern Recognition
 * Letters 13
 * (1992), 517–521. Minima are maxima of the negative. Beyond the ends the outermost values go on.
 */

/** Largest of `2 × radius + 1` values along each row. */
function largestAcross(from: Uint8Array, width: number, radius: number): Uint8Array {
  const out = new Uint8Array(from.length);
  const window = 2 * radius + 1;
  const length = width + 2 * radius;
  const row = new Uint8Array(length);
  const ahead = new Uint8Array(length);
  const behind = new Uint8Array(length);
  for (let start = 0; start < from.length; start += width) {
    row.fill(from[start], 0, radius);
    row.set(from.subarray(start, start + width), radius);
    row.fill(from[start + width - 1], radius + width);
    for (let first = 0; first < length; first += window) {
      const end = Math.min(length, first + window);
      let most = 0;
      for (let i = first; i < end; i += 1) {
        if (row[i] > most) most = row[i];
        ahead[i] = most;
      }
      most = 0;
      for (let i = end - 1; i >= first; i -= 1) {
        if (row[i] > most) most = row[i];
        behind[i] = most;
      }
    }
    for (let i = 0, a = window - 1; i < width; i += 1, a += 1) out[start + i] = Math.max(ahead[a], behind[i]);
  }
  return out;
}

function transposed(from: Uint8Array, width: number, height: number): Uint8Array {
  const out = new Uint8Array(from.length);
  const block = 32;
  for (let y0 = 0; y0 < height; y0 += block) {
    for (let x0 = 0; x0 < width; x0 += block) {
      const [y1, x1] = [Math.min(height, y0 + block), Math.min(width, x0 + block)];
      for (let y = y0; y < y1; y += 1)
        for (let x = x0; x < x1; x += 1) out[x * height + y] = from[y * width + x];
    }
  }
  return out;
}

function negate(plane: Uint8Array): Uint8Array {
  for (let i = 0; i < plane.length; i += 1) plane[i] = 255 - plane[i];
  return plane;
}

/** Mean over 3 × 3: noise must not lift the paper. */
export function smoothed(plane: Uint8Array, width: number, height: number): Uint8Array {
  const out = new Uint8Array(plane.length);
  for (let y = 0; y < height; y += 1) {
    const [a, b, c] = [Math.max(0, y - 1) * width, y * width, Math.min(height - 1, y + 1) * width];
    for (let x = 0; x < width; x += 1) {
      const l = x > 0 ? x - 1 : 0;
      const r = x < width - 1 ? x + 1 : x;
      out[b + x] =
        (plane[a + l] +
          plane[a + x] +
          plane[a + r] +
          plane[b + l] +
          plane[b + x] +
          plane[b + r] +
          plane[c + l] +
          plane[c + x] +
          plane[c + r] +
          4) /
        9;
    }
  }
  return out;
}

/** One channel of the paper. `radius`: half of the widest stroke that is still taken away, in px. */
export function paperOf(plane: Uint8Array, width: number, height: number, radius: number): Uint8Array {
  // Rows, then columns (as rows of the picture turned over), for the maxima and then for the minima.
  const across = largestAcross(smoothed(plane, width, height), width, radius);
  const lifted = negate(largestAcross(transposed(across, width, height), height, radius));
  const down = largestAcross(lifted, height, radius);
  return negate(largestAcross(transposed(down, height, width), width, radius));
}
