/** A portrait of a made-up person: shaded forms, hair, a knitted jumper, a plain wall, an ordinary lens. */
import { defocus, Picture } from "../camera";
import { type Colour, clamp01, colour, mix, Noise, smooth } from "../noise";

export interface Person {
  seed: number;
  skin: Colour;
  blush: Colour;
  hair: Colour;
  wall: Colour;
  wool: Colour;
  lip: Colour;
}

export const PEOPLE: Record<"warden" | "helper" | "recorder", Person> = {
  warden: {
    seed: 5,
    skin: colour("#d9a587"),
    blush: colour("#c6705f"),
    hair: colour("#4a3527"),
    wall: colour("#c9ccc8"),
    wool: colour("#3f5a5c"),
    lip: colour("#a9574f"),
  },
  helper: {
    seed: 19,
    skin: colour("#8d5c43"),
    blush: colour("#7c3f33"),
    hair: colour("#211a18"),
    wall: colour("#d8d3c6"),
    wool: colour("#8a4a3c"),
    lip: colour("#6f3a36"),
  },
  recorder: {
    seed: 33,
    skin: colour("#e3b79c"),
    blush: colour("#cf7f6d"),
    hair: colour("#9a7a52"),
    wall: colour("#bfc8cf"),
    wool: colour("#5d5373"),
    lip: colour("#b5655c"),
  },
};

export function shootPortrait(width: number, height: number, person: Person): Picture {
  const { seed, skin: SKIN, blush: BLUSH, hair: HAIR, wall: WALL, wool: WOOL, lip: LIP } = person;
  const n = new Noise(seed);
  const picture = new Picture(width, height);
  const c = [0, 0, 0];
  const lay = (k: Colour, light: number, a: number) => {
    for (let i = 0; i < 3; i += 1) c[i] = mix(c[i], k[i] * light, a);
  };
  picture.each((ix, iy, out) => {
    const x = ((ix - width / 2) / height) * 2;
    const y = (iy / height) * 2 - 1;
    const px = 2 / height;
    const wall =
      0.86 -
      0.14 * x +
      0.05 * n.fbm(x * 1.2, y * 1.2, 3) +
      0.02 * n.fbm(x * 30, y * 30, 3) -
      0.22 * smooth(0.5, 0, Math.hypot((x - 0.34) / 0.75, (y + 0.02) / 0.95) - 0.35);
    for (let i = 0; i < 3; i += 1) c[i] = WALL[i] * wall;

    // Hair behind the head.
    const strand = (sx: number, sy: number) =>
      n.at(sx * 26 + n.at(sx * 5, sy * 3) * 2, sy * 5) * 0.6 + n.at(sx * 70, sy * 12) * 0.4;
    const back =
      Math.hypot(x / 0.49, (y + 0.22) / 0.66) +
      0.05 * strand(Math.atan2(y + 0.2, x) * 1.2, 2) -
      0.1 * smooth(0.1, 0.6, y) * smooth(0.5, 0.2, Math.abs(x));
    const hairLight = (s: number) =>
      clamp01(0.62 - 0.55 * x - 0.3 * (y + 0.4)) * (0.75 + 0.5 * s) +
      0.35 * Math.exp(-(((y + 0.63 + 0.12 * x) / 0.06) ** 2)) * (0.5 + 0.5 * s);
    if (back < 1.1) lay(HAIR, hairLight(strand(x * 1.6, y)), smooth(1.03, 0.96, back));

    // Neck and jumper.
    const neck = Math.abs(x) - (0.2 + 0.1 * smooth(0.45, 0.75, y));
    if (y > 0.2) lay(SKIN, 0.62 - 0.5 * x - 0.35 * smooth(0.62, 0.36, y), smooth(px * 2, -px * 2, neck));
    const collar =
      y -
      (0.69 -
        0.13 * (x / 0.3) ** 2 * smooth(0.4, 0.1, Math.abs(x)) +
        0.34 * smooth(0.25, 1.0, Math.abs(x)) -
        0.04);
    const knit =
      Math.sin(x * 190 + Math.sin(y * 160) * 1.3) * Math.sin(y * 150) * 0.5 + n.at(x * 90, y * 90) * 0.4;
    const wool =
      (0.58 - 0.42 * x + 0.15 * n.fbm(x * 3, y * 4, 3)) *
      (0.85 + 0.22 * knit) *
      (1 - 0.3 * smooth(0.06, 0, collar));
    lay(WOOL, wool, smooth(-0.006, 0.006, collar));
    const rib = smooth(0, 0.008, collar) * smooth(0.075, 0.066, collar) * smooth(0.36, 0.3, Math.abs(x));
    lay(WOOL, (0.55 - 0.4 * x) * (0.75 + 0.35 * Math.sin(Math.atan2(y - 0.1, x) * 130)), rib);

    // Ears, then the face as one smooth form.
    for (const side of [-1, 1]) {
      const ear = Math.hypot((x - side * 0.392) / 0.055, (y + 0.06) / 0.115);
      lay(SKIN, (0.62 - side * 0.22) * (0.75 + 0.3 * smooth(0.2, 0.9, ear)), smooth(1.05, 0.92, ear));
    }
    const jaw = 0.385 - 0.115 * smooth(-0.05, 0.5, y) - 0.07 * smooth(0.28, 0.5, y);
    const top =
      y < -0.1
        ? Math.hypot(x / 0.39, (y + 0.1) / 0.5)
        : Math.max(Math.hypot(x / jaw, Math.max(0, y - 0.18) / 0.335), 0);
    const face = smooth(1.012, 0.985, top);
    if (face > 0) {
      const nz = Math.sqrt(Math.max(0, 1 - Math.min(1, top * top)));
      const nose = Math.exp(-((x / 0.055) ** 2)) * smooth(-0.22, 0.08, y) * smooth(0.15, 0.1, y);
      const side = Math.exp(-(((x - 0.062) / 0.03) ** 2)) * smooth(-0.15, 0.06, y) * smooth(0.15, 0.1, y);
      const socket = [-0.155, 0.155].reduce(
        (s, ex) => s + Math.exp(-(((x - ex) / 0.095) ** 2) - ((y + 0.105) / 0.06) ** 2),
        0,
      );
      const cheek = [-0.2, 0.2].reduce(
        (s, ex) => s + Math.exp(-(((x - ex) / 0.11) ** 2) - ((y - 0.1) / 0.1) ** 2),
        0,
      );
      const fold = [-1, 1].reduce(
        (s, e) =>
          s +
          Math.exp(-(((x - e * (0.1 + 0.28 * (y - 0.1))) / 0.014) ** 2)) *
            smooth(0.1, 0.14, y) *
            smooth(0.26, 0.2, y),
        0,
      );
      const pores = n.fbm(x * 90, y * 90, 3) * 0.05 + n.at(x * 260, y * 260) * 0.02;
      let light = 0.36 + 0.52 * nz - 0.3 * x - 0.1 * y;
      light += 0.11 * nose - 0.16 * side - 0.15 * socket + 0.05 * cheek - 0.07 * fold + pores;
      light -= 0.1 * Math.exp(-((x / 0.1) ** 2) - ((y - 0.345) / 0.025) ** 2);
      light += 0.08 * Math.exp(-(((x + 0.03) / 0.1) ** 2) - ((y - 0.42) / 0.05) ** 2);
      lay(SKIN, light * 1.12, face);
      lay(BLUSH, light * 1.15, face * 0.3 * cheek);
      lay(SKIN, 1.25, face * 0.3 * Math.exp(-(((x + 0.1) / 0.12) ** 2) - ((y + 0.36) / 0.07) ** 2));
      lay(SKIN, 1.35, face * 0.32 * Math.exp(-(((x + 0.016) / 0.014) ** 2) - ((y - 0.085) / 0.022) ** 2));
      for (const nx of [-0.035, 0.035])
        lay(BLUSH, 0.22, 0.8 * smooth(1.2, 0.5, Math.hypot((x - nx) / 0.017, (y - 0.135) / 0.009)));
      for (const ex of [-0.155, 0.155]) eye(x - ex, y + 0.1, ex < 0 ? -1 : 1);
      mouth(x, y);
    }
    // Fringe over the forehead.
    const line = y + 0.36 - 0.16 * (x + 0.16) ** 2 * 6 + 0.05 * Math.sin(x * 9 + 1);
    const s = strand(x * 1.3 + y * 0.8, y * 0.7 + x * 0.6);
    if (back < 1.05) lay(HAIR, hairLight(s), smooth(0.02, -0.05, line + 0.05 * s) * smooth(1.03, 0.96, back));
    out[0] = c[0];
    out[1] = c[1];
    out[2] = c[2];
  });

  function eye(ex: number, ey: number, side: number): void {
    const lidTop = -0.036 * (1 - (ex / 0.085) ** 2) + 0.004 * side * (ex / 0.085);
    const lidLow = 0.024 * (1 - (ex / 0.085) ** 2);
    const inside =
      Math.abs(ex) < 0.085 ? smooth(-0.002, 0.003, ey - lidTop) * smooth(-0.002, 0.003, lidLow - ey) : 0;
    const r = Math.hypot(ex - 0.004, ey + 0.008);
    lay(
      [0.72, 0.68, 0.64],
      0.72 + 0.2 * smooth(0.08, 0, Math.abs(ex)) - 0.35 * smooth(0.012, 0, ey - lidTop),
      inside,
    );
    lay([0.12, 0.17, 0.12], 0.7 + 0.9 * smooth(0.012, 0.03, r), inside * smooth(0.035, 0.032, r));
    lay([0.006, 0.006, 0.006], 1, inside * smooth(0.015, 0.013, r));
    lay([1, 1, 1], 1, inside * smooth(0.0075, 0.005, Math.hypot(ex + 0.008, ey + 0.02)));
    lay(
      HAIR,
      0.4,
      0.85 * Math.exp(-(((ey - lidTop + 0.003) / 0.0055) ** 2)) * smooth(0.096, 0.08, Math.abs(ex)),
    );
    lay(
      BLUSH,
      0.5,
      0.4 * Math.exp(-(((ey - lidTop + 0.022) / 0.006) ** 2)) * smooth(0.1, 0.06, Math.abs(ex)),
    );
    const out = (ex * side) / 0.1;
    const brow = ey + 0.1 + 0.01 * out - 0.016 * out * out;
    lay(
      HAIR,
      0.75 + 0.4 * n.at(ex * 300 + ey * 200, ey * 60),
      0.85 * smooth(0.021, 0.009, Math.abs(brow)) * smooth(0.125, 0.095, Math.abs(ex)),
    );
  }

  function mouth(x: number, y: number): void {
    const w = x / 0.135;
    if (Math.abs(w) > 1.1) return;
    const line = 0.234 + 0.016 * (1 - w * w) + 0.003 * Math.cos(w * 5);
    const upper =
      smooth(0, 0.004, line - y) *
      smooth(-0.003, 0.004, y - (line - 0.033 * (1 - w * w) * (0.86 + 0.14 * Math.cos(w * 6.3 + 3.14))));
    const lower = smooth(0, 0.004, y - line) * smooth(-0.004, 0.005, line + 0.045 * (1 - w * w) - y);
    lay(LIP, 0.62 - 0.2 * x, upper * 0.85);
    lay(
      LIP,
      0.9 - 0.25 * x + 0.5 * Math.exp(-(((y - line - 0.02) / 0.009) ** 2) - (w * 2) ** 2),
      lower * 0.8,
    );
    lay(
      [0.05, 0.015, 0.012],
      1,
      0.8 * Math.exp(-(((y - line) / 0.0035) ** 2)) * smooth(1.02, 0.9, Math.abs(w)),
    );
  }

  defocus(
    picture,
    height / 240,
    (x, y) => 0.85 * smooth(0.24, 0.36, Math.hypot((x - 0.5) * 0.75, (y - 0.45) * 0.72)),
  );
  defocus(picture, 1, () => 0.6);
  return picture;
}
