/**
 * The gauge: a logarithmic line, the allowed band between two ticks, where the
 * photo is now and where the file will land. Positions are shares of the line, 0 to 1.
 */
export interface GaugeInput {
  /** Allowed band; null where it is open. Both the same for an exact value. */
  min: number | null;
  max: number | null;
  now: number | null;
  will: number | null;
}

export interface GaugeModel {
  /** Where the band begins and ends; null where nothing is asked. An open end lies at the end of the line. */
  band: { from: number; to: number; openLeft: boolean; openRight: boolean } | null;
  now: number | null;
  will: number | null;
  /** The photo lies beyond this end of the line. */
  nowBeyond: "left" | "right" | null;
}

/** How far the line reaches beyond the band, as a factor. */
const REACH = 3;
/** How far it reaches on an open side. */
const OPEN_REACH = 12;
/** Half the width of the band of an exact value, as a share of the line. */
const EXACT_HALF = 0.025;

export function gaugeModel({ min, max, now, will }: GaugeInput): GaugeModel {
  const known = [min, max, now, will].filter((v): v is number => v !== null && v > 0);
  if (!known.length) return { band: null, now: null, will: null, nowBeyond: null };
  const asked = min !== null || max !== null;
  const low = asked ? (min ?? max! / OPEN_REACH) / (min !== null ? REACH : 1) : Math.min(...known) / REACH;
  const high = asked ? (max ?? min! * OPEN_REACH) * (max !== null ? REACH : 1) : Math.max(...known) * REACH;
  const [from, to] = [Math.log(Math.max(low, 1e-9)), Math.log(high)];
  const at = (value: number | null): number | null =>
    value === null || value <= 0 ? null : (Math.log(value) - from) / (to - from);
  const clamp = (share: number | null) => (share === null ? null : Math.min(1, Math.max(0, share)));
  const nowAt = at(now);
  const beyond =
    nowAt === null ? null : nowAt > 1 ? ("right" as const) : nowAt < 0 ? ("left" as const) : null;
  let band: GaugeModel["band"] = null;
  if (asked) {
    const start = min === null ? 0 : at(min)!;
    const end = max === null ? 1 : at(max)!;
    const thin = end - start < EXACT_HALF * 2;
    const middle = (start + end) / 2;
    band = {
      from: thin ? middle - EXACT_HALF : start,
      to: thin ? middle + EXACT_HALF : end,
      openLeft: min === null,
      openRight: max === null,
    };
  }
  return { band, now: beyond ? null : nowAt, will: clamp(at(will)), nowBeyond: beyond };
}
