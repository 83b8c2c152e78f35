/** How light a picture is: read off PQ signals, in cd/m² and in multiples of reference white. */
import { linearTable, PQ_CURVE, WHITE_NITS } from "../colour";

export interface LightLevels {
  /**
   * cd/m² of the strongest channel of the lightest pixel (MaxCLL of CTA-861.3), and its mean over all pixels
   * (MaxFALL).
   */
  peak: number;
  average: number;
  /** Share of the pixels whose strongest channel lies above reference white. */
  above: number;
}

/** Codes of PQ, interleaved; `top`: the code of 10,000 cd/m² where it is not 65,535. */
export function meterLight({
  data,
  channels,
  top,
}: {
  data: Uint16Array;
  channels: number;
  top?: number;
}): LightLevels {
  const table = nitsTable(top);
  const white = table.findIndex((nits) => nits > WHITE_NITS * 1.005);
  let [peak, sum, above, pixels] = [0, 0, 0, 0];
  for (let p = 0; p + 2 < data.length; p += channels, pixels += 1) {
    const code = Math.max(data[p], data[p + 1], data[p + 2]);
    if (code > peak) peak = code;
    if (code >= white) above += 1;
    sum += table[code];
  }
  return { peak: table[peak], average: pixels ? sum / pixels : 0, above: pixels ? above / pixels : 0 };
}

const tables = new Map<number, Float32Array>();

/** cd/m² of each code. */
export function nitsTable(top = 65_535): Float32Array {
  let table = tables.get(top);
  if (!table) tables.set(top, (table = linearTable(PQ_CURVE, 65_536, top).map((v) => v * 10_000)));
  return table;
}

/**
 * "Light: at most 992 cd/m² (4.9 × white, 2.3 stops above it), 61 on average, 3.1 % of the picture above
 * white".
 */
export function lightWords({ peak, average, above }: LightLevels): string {
  const share = above === 0 ? "nothing" : above < 0.0005 ? "under 0.1 %" : `${(above * 100).toFixed(1)} %`;
  return (
    `Light: at most ${Math.round(peak)} cd/m² (${timesWords(peak / WHITE_NITS)}), ` +
    `${Math.round(average)} on average; ${share} of the picture lies above white, which is ` +
    `${WHITE_NITS} cd/m².`
  );
}

/** Stops above reference white; below it negative. */
export const stopsOf = (times: number): number => Math.log2(Math.max(1e-6, times));

/** "4.90 4.10 3.20 × white, +2.3 stops": the channels, and the stops of the strongest. */
export function readoutWords(times: readonly number[]): string {
  const stops = stopsOf(Math.max(...times));
  return (
    `${times.map((value) => value.toFixed(2)).join(" ")} × white, ` +
    `${stops < -0.05 ? "−" : stops > 0.05 ? "+" : "±"}${Math.abs(stops).toFixed(1)} stops`
  );
}

/** "4.9 × white, 2.3 stops above it". */
export function timesWords(times: number): string {
  const stops = stopsOf(times);
  const short = (value: number) =>
    Math.abs(value) >= 9.95 ? value.toFixed(0) : value.toFixed(Math.abs(value) < 0.095 ? 2 : 1);
  const white = `${short(times)} × white`;
  if (Math.abs(stops) < 0.05) return white;
  return `${white}, ${Math.abs(stops).toFixed(1)} stops ${stops > 0 ? "above" : "below"} it`;
}
