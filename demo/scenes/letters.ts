/**
 * A stroke alphabet of our own, so that lettering needs no fonts: each sign on a grid 4 wide and 6 high,
 * strokes as runs of points.
 */
const GLYPHS: Record<string, string> = {
  A: "06 20 46|14 34",
  B: "00 06 36 45 44 33 03|33 42 41 30 00",
  C: "41 30 10 01 05 16 36 45",
  D: "00 06 26 44 42 20 00",
  E: "40 00 06 46|03 33",
  F: "40 00 06|03 33",
  G: "41 30 10 01 05 16 36 45 43 23",
  H: "00 06|40 46|03 43",
  I: "20 26|10 30|16 36",
  J: "40 45 36 16 05",
  K: "00 06|40 03 46",
  L: "00 06 46",
  M: "06 00 23 40 46",
  N: "06 00 46 40",
  O: "10 01 05 16 36 45 41 30 10",
  P: "06 00 30 41 42 33 03",
  Q: "10 01 05 16 36 45 41 30 10|24 46",
  R: "06 00 30 41 42 33 03|23 46",
  S: "41 30 10 01 02 13 33 44 45 36 16 05",
  T: "00 40|20 26",
  U: "00 05 16 36 45 40",
  V: "00 26 40",
  W: "00 16 23 36 40",
  X: "00 46|40 06",
  Y: "00 23 40|23 26",
  Z: "00 40 06 46",
  "0": "10 01 05 16 36 45 41 30 10|15 31",
  "1": "11 20 26|16 36",
  "2": "01 10 30 41 42 06 46",
  "3": "00 40 23 33 44 45 36 16 05",
  "4": "36 30 04 44",
  "5": "40 00 03 33 44 45 36 16 05",
  "6": "40 20 02 05 16 36 45 44 33 03",
  "7": "00 40 16",
  "8": "13 02 01 10 30 41 42 33 13 04 05 16 36 45 44 33",
  "9": "43 13 02 01 10 30 41 44 26 06",
  "-": "13 33",
  ".": "26 25",
  ",": "25 17",
  ":": "21 22|25 26",
  "/": "06 40",
  "'": "20 22",
  " ": "",
};

export type Segment = readonly [x0: number, y0: number, x1: number, y1: number];

/** Strokes of a line of text; `height` is the cap height, the pen starts at (x, y) on the upper left. */
export function strokes(text: string, x: number, y: number, height: number, slant = 0): Segment[] {
  const unit = height / 6;
  const out: Segment[] = [];
  let pen = x;
  for (const sign of text.toUpperCase()) {
    for (const run of (GLYPHS[sign] ?? "").split("|")) {
      const points = run
        .split(" ")
        .filter(Boolean)
        .map((p) => {
          const [gx, gy] = [Number(p[0]), Number(p[1])];
          return [pen + (gx + (6 - gy) * slant) * unit, y + gy * unit] as const;
        });
      for (let i = 1; i < points.length; i += 1) out.push([...points[i - 1], ...points[i]]);
    }
    pen += unit * (sign === " " ? 3.6 : 5.6);
  }
  return out;
}

/** Coverage 0 to 1 of strokes of a half width, drawn into a mask of width × height. */
export function drawStrokes(
  mask: Float32Array,
  width: number,
  height: number,
  segments: readonly Segment[],
  half: number | ((i: number) => number),
): void {
  segments.forEach(([x0, y0, x1, y1], i) => {
    const r = typeof half === "number" ? half : half(i);
    const [dx, dy] = [x1 - x0, y1 - y0];
    const length = dx * dx + dy * dy || 1;
    const reach = r + 1.5;
    for (
      let y = Math.max(0, Math.floor(Math.min(y0, y1) - reach));
      y <= Math.min(height - 1, Math.max(y0, y1) + reach);
      y += 1
    ) {
      for (
        let x = Math.max(0, Math.floor(Math.min(x0, x1) - reach));
        x <= Math.min(width - 1, Math.max(x0, x1) + reach);
        x += 1
      ) {
        const t = Math.min(1, Math.max(0, ((x - x0) * dx + (y - y0) * dy) / length));
        const d = Math.hypot(x - x0 - t * dx, y - y0 - t * dy);
        const a = Math.min(1, Math.max(0, r + 0.5 - d));
        const p = y * width + x;
        if (a > mask[p]) mask[p] = a;
      }
    }
  });
}
