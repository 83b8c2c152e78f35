/**
 * One curve and its inverse: light above white brought under it, and lights of an ordinary picture taken
 * above it. Up to the start
 * of the shoulder nothing changes; from there on both meet the straight part with its own slope, so that no
 * edge shows.
 */
export interface Shoulder {
  /** Linear light (white is 1) from which on anything changes. */
  start: number;
  /** Linear light that belongs to white. */
  peak: number;
}

/** How much steeper the inverse is at its start than a straight line to the peak. */
const bend = ({ start, peak }: Shoulder): number => (peak - start) / (1 - start) - 1;

/** Light up to `peak` under white; what is lighter becomes white. */
export function underWhite(shoulder: Shoulder, light: number): number {
  const { start, peak } = shoulder;
  if (light <= start || peak <= 1) return Math.min(1, light);
  if (light >= peak) return 1;
  const t = (light - start) / (peak - start);
  const k = bend(shoulder);
  return start + ((1 - start) * (t * (1 + k))) / (1 + k * t);
}

/** The light that {@link underWhite} would have brought to this. */
export function aboveWhite(shoulder: Shoulder, light: number): number {
  const { start, peak } = shoulder;
  if (light <= start || peak <= 1) return light;
  const u = Math.min(1, (light - start) / (1 - start));
  const k = bend(shoulder);
  return start + ((peak - start) * u) / (1 + k - k * u);
}
