/** How the moths of the moor look. All made up. */
import { type Colour, colour } from "../noise";

export interface Species {
  seed: number;
  /** Wing ground colour, the colour of the middle band, of lines, of pale lines and of the fringe. */
  base: Colour;
  band: Colour;
  line: Colour;
  pale: Colour;
  hind: Colour;
  body: Colour;
  /** Inner and outer edge of the middle band as shares of the wing, and how strong it is. */
  middle: [number, number];
  strength: number;
  /** How much the cross lines wave. */
  wave: number;
  spot: number;
  feathered: boolean;
}

export const c = colour;

export const SPECIES: Record<string, Species> = {
  ashenCarpet: {
    seed: 11,
    base: c("#b9b2a6"),
    band: c("#5c544d"),
    line: c("#2f2925"),
    pale: c("#e6e1d6"),
    hind: c("#c9c2b4"),
    body: c("#8f877b"),
    middle: [0.36, 0.66],
    strength: 0.95,
    wave: 1.3,
    spot: 0.9,
    feathered: false,
  },
  brindledHooktip: {
    seed: 23,
    base: c("#b98a52"),
    band: c("#7c5330"),
    line: c("#4a2f1c"),
    pale: c("#e2c48e"),
    hind: c("#cfa871"),
    body: c("#a97f4e"),
    middle: [0.42, 0.62],
    strength: 0.8,
    wave: 0.7,
    spot: 0.8,
    feathered: true,
  },
  copperTussock: {
    seed: 37,
    base: c("#a5562c"),
    band: c("#6b2f1b"),
    line: c("#391a12"),
    pale: c("#dda56d"),
    hind: c("#c77c45"),
    body: c("#8c4f2d"),
    middle: [0.33, 0.58],
    strength: 0.9,
    wave: 1.1,
    spot: 0.6,
    feathered: true,
  },
  fenLackey: {
    seed: 41,
    base: c("#c2a06b"),
    band: c("#8a5a36"),
    line: c("#5f3c24"),
    pale: c("#ecd9ae"),
    hind: c("#b89262"),
    body: c("#c9a773"),
    middle: [0.4, 0.6],
    strength: 0.85,
    wave: 0.4,
    spot: 0.2,
    feathered: true,
  },
  heathEmerald: {
    seed: 53,
    base: c("#9fab83"),
    band: c("#7f9068"),
    line: c("#56633f"),
    pale: c("#e4e6d2"),
    hind: c("#b3bb9c"),
    body: c("#c6cfa9"),
    middle: [0.38, 0.68],
    strength: 0.75,
    wave: 0.9,
    spot: 0.5,
    feathered: false,
  },
  paleFootman: {
    seed: 67,
    base: c("#d8cdb0"),
    band: c("#b7a67f"),
    line: c("#7d6c4c"),
    pale: c("#f2ecd8"),
    hind: c("#e2d9c2"),
    body: c("#cbb98f"),
    middle: [0.45, 0.63],
    strength: 0.6,
    wave: 0.6,
    spot: 0.9,
    feathered: false,
  },
  rowanPug: {
    seed: 71,
    base: c("#8d8377"),
    band: c("#5a5049"),
    line: c("#2c2622"),
    pale: c("#c9c0b0"),
    hind: c("#a0978a"),
    body: c("#7d7367"),
    middle: [0.34, 0.57],
    strength: 0.8,
    wave: 1.5,
    spot: 1,
    feathered: false,
  },
  stoneBrocade: {
    seed: 83,
    base: c("#7f8a80"),
    band: c("#3f4a46"),
    line: c("#1f2624"),
    pale: c("#cfd5c6"),
    hind: c("#9d9a8a"),
    body: c("#6c746b"),
    middle: [0.37, 0.64],
    strength: 1,
    wave: 1.6,
    spot: 1,
    feathered: false,
  },
};
