/**
 * Threshold selection from a histogram: N. Otsu, "A threshold selection method from gray-level histograms",
 * IEEE Trans. SMC-9 (1979), 62–66.
 */
export interface Split {
  /** Values above it belong to the upper class. */
  threshold: number;
  /** Means of both classes. */
  low: number;
  high: number;
  /** Between-class over total variance, 0 to 1: how well one threshold separates the histogram (Otsu's η). */
  separability: number;
}

/** @param histogram counts by value. Null where it holds fewer than two different values. */
export function otsu(histogram: ArrayLike<number>): Split | null {
  let count = 0;
  let sum = 0;
  let squares = 0;
  for (let v = 0; v < histogram.length; v += 1) {
    count += histogram[v];
    sum += histogram[v] * v;
    squares += histogram[v] * v * v;
  }
  if (count === 0) return null;
  const total = squares / count - (sum / count) ** 2;
  let best: Split | null = null;
  let most = 0;
  let n = 0;
  let below = 0;
  for (let v = 0; v < histogram.length - 1; v += 1) {
    n += histogram[v];
    below += histogram[v] * v;
    if (n === 0 || n === count) continue;
    const [low, high] = [below / n, (sum - below) / (count - n)];
    const between = (n / count) * (1 - n / count) * (high - low) ** 2;
    if (between > most) {
      most = between;
      best = { threshold: v, low, high, separability: total > 0 ? between / total : 0 };
    }
  }
  return best;
}
