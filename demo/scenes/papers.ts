/** Paper: a specimen label, a trap sheet with ruled lines, a signature in blue ink. */
import { defocus, Picture } from "../camera";
import { type Colour, colour, mix, Noise, random, smooth } from "../noise";
import { drawStrokes, type Segment, strokes } from "./letters";

/** A label as a drawing program would export it: flat colours, sharp lettering. Samples 0 to 255. */
export function drawLabel(width: number, height: number): Uint8Array {
  const s = width / 1600;
  const mask = new Float32Array(width * height);
  const thin = new Float32Array(width * height);
  const text = (line: string, x: number, y: number, h: number, half: number, into = mask) =>
    drawStrokes(into, width, height, strokes(line, x * s, y * s, h * s), half * s);
  text("QUILLMOOR MOTH SURVEY", 120, 110, 64, 5.5);
  text("TRAP 7, HEATHER BANK, 14 MAY", 120, 230, 34, 2.8, thin);
  const rows = [
    "ASHEN CARPET     3   ON BARK",
    "BRINDLED HOOKTIP 1   ON LINEN",
    "COPPER TUSSOCK   2   ON STONE",
    "FEN LACKEY       5   ON BARK",
    "HEATH EMERALD    1   ON SHEET",
    "ROWAN PUG        8   ON BARK",
  ];
  rows.forEach((row, i) => text(row, 130, 350 + i * 72, 26, 1.9, thin));
  text("LAMP 125 W MV, DUSK TO 02:40, WIND 1-2, 9.5 TO 6.0 C. NO. 0412/7", 120, 842, 19, 1.3, thin);
  const rules: Segment[] = rows.map(
    (_, i) => [110, 395 + i * 72, 1490, 395 + i * 72].map((v) => v * s) as unknown as Segment,
  );
  const grid = new Float32Array(width * height);
  drawStrokes(grid, width, height, rules, 0.8 * s);
  const frame: Segment[] = [
    [60, 60, 1540, 60],
    [1540, 60, 1540, 940],
    [1540, 940, 60, 940],
    [60, 940, 60, 60],
  ].map((r) => r.map((v) => v * s) as unknown as Segment);
  drawStrokes(mask, width, height, frame, 4 * s);
  const paper = [244, 240, 228];
  const ink = [34, 30, 44];
  const second = [122, 34, 40];
  const rule = [120, 150, 170];
  const out = new Uint8Array(width * height * 3);
  for (let p = 0, o = 0; p < mask.length; p += 1, o += 3) {
    for (let c = 0; c < 3; c += 1) {
      let v = mix(paper[c], rule[c], grid[p]);
      v = mix(v, second[c], thin[p]);
      out[o + c] = Math.round(mix(v, ink[c], mask[p]));
    }
  }
  return out;
}

function paperGround(seed: number, base: Colour, uneven: number) {
  const n = new Noise(seed);
  return (x: number, y: number, out: Float32Array) => {
    const fibre = n.fbm(x * 130, y * 130, 3) * 0.025 + n.at(x * 300 + n.at(x * 40, y * 40), y * 60) * 0.012;
    const light =
      0.86 - uneven * (0.28 * x + 0.2 * y - 0.2) + 0.1 * uneven * n.fbm(x * 1.3, y * 1.3, 2) + fibre;
    out[0] = base[0] * light;
    out[1] = base[1] * light * (1 - 0.01 * uneven * x);
    out[2] = base[2] * light * (1 - 0.05 * uneven * x);
  };
}

function inkOver(picture: Picture, mask: Float32Array, ink: Colour, seed: number): void {
  const n = new Noise(seed);
  const { width, height, data } = picture;
  for (let y = 0, p = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, p += 1) {
      if (mask[p] === 0) continue;
      const a = mask[p] * (0.84 + 0.13 * n.fbm(x / 9, y / 9, 3));
      for (let c = 0; c < 3; c += 1) data[p * 3 + c] = mix(data[p * 3 + c], ink[c], a);
    }
  }
}

/** A sheet filled in by hand, photographed from slightly aside. */
export function shootTrapSheet(width: number, height: number, seed: number): Picture {
  const picture = new Picture(width, height);
  const ground = paperGround(seed, colour("#ece6d6"), 1);
  picture.each((x, y, out) => ground(x / height, y / height, out));
  const next = random(seed);
  const tilt = 0.012;
  const turn = (s: Segment): Segment => [
    s[0] - s[1] * tilt,
    s[1] + s[0] * tilt,
    s[2] - s[3] * tilt,
    s[3] + s[2] * tilt,
  ];
  const k = width / 2200;
  const rules: Segment[] = [];
  for (let i = 0; i <= 19; i += 1) rules.push([130, 300 + i * 62, 2080, 300 + i * 62]);
  for (const x of [130, 330, 980, 1240, 1500, 2080]) rules.push([x, 300, x, 300 + 19 * 62]);
  const print = new Float32Array(width * height);
  const scale = (list: Segment[]) => list.map((s) => turn(s.map((v) => v * k) as unknown as Segment));
  drawStrokes(print, width, height, scale(rules), 1.1 * k);
  drawStrokes(print, width, height, scale(strokes("QUILLMOOR MOTH SURVEY  TRAP SHEET", 135, 130, 46)), 3 * k);
  ["NO.", "SPECIES", "COUNT", "TIME", "REMARKS"].forEach((word, i) =>
    drawStrokes(
      print,
      width,
      height,
      scale(strokes(word, [150, 350, 1000, 1260, 1520][i], 322, 20)),
      1.5 * k,
    ),
  );
  inkOver(picture, print, colour("#54606b"), seed + 1);
  const hand = new Float32Array(width * height);
  const names = [
    "ASHEN CARPET",
    "ROWAN PUG",
    "FEN LACKEY",
    "PALE FOOTMAN",
    "HEATH EMERALD",
    "STONE BROCADE",
    "COPPER TUSSOCK",
    "BRINDLED HOOKTIP",
  ];
  const remarks = ["WORN", "FRESH", "ON THE LAMP", "ON BARK", "2 MALES", "AT SUGAR", "FLEW OFF", ""];
  for (let i = 0; i < 17; i += 1) {
    const y = 376 + i * 62 + (next() - 0.5) * 7;
    const words = [
      String(i + 1),
      names[Math.floor(next() * names.length)],
      String(1 + Math.floor(next() * 9)),
      `${22 + Math.floor(next() * 2)}:${10 + Math.floor(next() * 49)}`,
      remarks[Math.floor(next() * remarks.length)],
    ];
    words.forEach((word, c) => {
      const loose = strokes(word, [160, 350, 1050, 1270, 1520][c] + next() * 16, y, 27, 0.18).map(
        (s) => s.map((v) => v + (next() - 0.5) * 2.6) as unknown as Segment,
      );
      drawStrokes(hand, width, height, scale(loose), (1.5 + next() * 0.7) * k);
    });
  }
  inkOver(picture, hand, colour("#23304f"), seed + 2);
  defocus(picture, 1, () => 0.75);
  defocus(picture, 3, (x) => smooth(0.75, 1.1, x) * 0.8);
  return picture;
}

/** A signature in blue ink on a sheet, under uneven light. */
export function shootSignature(width: number, height: number, seed: number): Picture {
  const picture = new Picture(width, height);
  const ground = paperGround(seed, colour("#efece4"), 1.3);
  picture.each((x, y, out) => ground(x / height, y / height, out));
  // A pen path from loops: letters grow smaller to the right and end in a flourish.
  const points: [number, number, number][] = [];
  const loops: [number, number, number, number][] = [
    [0.14, 0.5, 0.05, 0.26],
    [0.22, 0.55, 0.022, 0.08],
    [0.27, 0.55, 0.02, 0.08],
    [0.325, 0.46, 0.022, 0.2],
    [0.375, 0.46, 0.022, 0.2],
    [0.43, 0.56, 0.02, 0.07],
    [0.5, 0.46, 0.045, 0.24],
    [0.575, 0.56, 0.02, 0.07],
    [0.62, 0.57, 0.02, 0.065],
    [0.67, 0.57, 0.019, 0.06],
    [0.72, 0.52, 0.02, 0.15],
  ];
  for (const [cx, cy, rx, ry] of loops) {
    for (let i = 0; i < 60; i += 1) {
      const a = -Math.PI * 0.85 + (i / 60) * Math.PI * 2.05;
      const drift = (i / 60 - 0.5) * rx * 1.3;
      points.push([
        cx + drift + rx * Math.sin(a) - 0.18 * ry * Math.cos(a) * -0.35,
        cy - ry * Math.cos(a) * 0.62,
        0.5 + 0.5 * Math.sin(a * 0.5 + 1),
      ]);
    }
  }
  for (let i = 0; i < 90; i += 1) {
    const t = i / 90;
    points.push([
      0.74 - 0.6 * t + 0.1 * Math.sin(t * 4),
      0.6 + 0.17 * Math.sin(t * 3.3) - 0.03 * t,
      0.35 * (1 - t) + 0.2,
    ]);
  }
  const segments: Segment[] = points
    .slice(1)
    .map((p, i) => [points[i][0] * width, points[i][1] * height, p[0] * width, p[1] * height]);
  const mask = new Float32Array(width * height);
  drawStrokes(mask, width, height, segments, (i) => (0.0022 + 0.0026 * points[i][2]) * width);
  inkOver(picture, mask, colour("#1d2f7a"), seed + 4);
  defocus(picture, 1, () => 0.9);
  return picture;
}
