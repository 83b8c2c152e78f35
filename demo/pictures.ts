/** The demo's pictures: what is drawn, how large, and in which file. */
import type { Picture } from "./camera";
import {
  bark,
  drawLabel,
  linen,
  type MothShot,
  PEOPLE,
  SPECIES,
  shootMoor,
  shootMoth,
  shootPortrait,
  shootSignature,
  shootTrapSheet,
  stone,
} from "./scenes";

export interface DemoPicture {
  name: string;
  /** Upright pixels of the file. */
  width: number;
  height: number;
  kind: "jpeg" | "png" | "tiff16";
  space: "srgb" | "display-p3" | "oprgb";
  /** EXIF orientation that the pixels are stored under. */
  orientation: number;
  quality: number;
  chroma: "4:2:0" | "4:4:4";
  ppi: number;
  grain: number;
  /** Whether the camera wrote where it was, and its serial number. */
  place: boolean;
  draw: (width: number, height: number) => Picture | Uint8Array;
}

type Moth = Omit<MothShot, "width" | "height" | "species"> & { species: keyof typeof SPECIES };
const moth = (shot: Moth) => (width: number, height: number) =>
  shootMoth({ ...shot, species: SPECIES[shot.species], width, height });

const usual = {
  kind: "jpeg",
  space: "srgb",
  orientation: 1,
  quality: 92,
  chroma: "4:2:0",
  ppi: 72,
  grain: 2.4,
  place: false,
} as const;

/** Largest first, so that two workers end at about the same time. */
export const PICTURES: DemoPicture[] = [
  {
    ...usual,
    name: "moor-at-dusk.jpg",
    width: 6000,
    height: 4000,
    space: "display-p3",
    grain: 3,
    quality: 91,
    ppi: 300,
    draw: (w, h) => shootMoor(w, h, 5),
  },
  {
    ...usual,
    name: "ashen-carpet.jpg",
    width: 4000,
    height: 3000,
    place: true,
    grain: 3,
    quality: 94,
    draw: moth({
      species: "ashenCarpet",
      ground: bark(1),
      at: [0.5, 0.48],
      size: 0.4,
      turn: 0.2,
      warm: 0.03,
    }),
  },
  {
    ...usual,
    name: "brindled-hooktip.jpg",
    width: 3024,
    height: 4032,
    orientation: 6,
    place: true,
    draw: moth({
      species: "brindledHooktip",
      ground: linen(2),
      at: [0.49, 0.44],
      size: 0.43,
      turn: -0.28,
      warm: 0.05,
    }),
  },
  {
    ...usual,
    name: "fen-lackey.jpg",
    width: 3600,
    height: 2400,
    draw: moth({ species: "fenLackey", ground: bark(8), at: [0.6, 0.5], size: 0.36, turn: 2.7, warm: 0.04 }),
  },
  {
    ...usual,
    name: "copper-tussock.jpg",
    width: 2400,
    height: 1800,
    space: "oprgb",
    chroma: "4:4:4",
    ppi: 240,
    draw: moth({
      species: "copperTussock",
      ground: stone(3),
      at: [0.46, 0.5],
      size: 0.42,
      turn: 0.5,
      warm: 0.02,
    }),
  },
  {
    ...usual,
    name: "warden-portrait.jpg",
    width: 1800,
    height: 2400,
    quality: 93,
    place: true,
    draw: (w, h) => shootPortrait(w, h, PEOPLE.warden),
  },
  {
    ...usual,
    name: "trap-sheet.jpg",
    width: 2200,
    height: 1600,
    ppi: 150,
    draw: (w, h) => shootTrapSheet(w, h, 5),
  },
  {
    ...usual,
    name: "stone-brocade.jpg",
    width: 2000,
    height: 1500,
    quality: 88,
    draw: moth({
      species: "stoneBrocade",
      ground: stone(12),
      at: [0.52, 0.47],
      size: 0.41,
      turn: -0.1,
      warm: 0,
    }),
  },
  {
    ...usual,
    name: "heath-emerald.jpg",
    width: 1920,
    height: 1280,
    draw: moth({
      species: "heathEmerald",
      ground: linen(6),
      at: [0.42, 0.5],
      size: 0.4,
      turn: 0.7,
      warm: 0.03,
    }),
  },
  {
    ...usual,
    name: "pale-footman.jpg",
    width: 1600,
    height: 1067,
    quality: 82,
    draw: moth({
      species: "paleFootman",
      ground: stone(21),
      at: [0.5, 0.5],
      size: 0.41,
      turn: 3.3,
      warm: 0.02,
    }),
  },
  {
    ...usual,
    name: "rowan-pug.tif",
    width: 1500,
    height: 1000,
    kind: "tiff16",
    ppi: 300,
    draw: moth({ species: "rowanPug", ground: bark(15), at: [0.5, 0.47], size: 0.4, turn: -0.4, warm: 0.02 }),
  },
  {
    ...usual,
    name: "signature.jpg",
    width: 1800,
    height: 900,
    quality: 90,
    ppi: 200,
    draw: (w, h) => shootSignature(w, h, 5),
  },
  {
    ...usual,
    name: "specimen-label.png",
    width: 1600,
    height: 1000,
    kind: "png",
    ppi: 150,
    grain: 0,
    draw: drawLabel,
  },
  {
    ...usual,
    name: "helper-portrait.jpg",
    width: 900,
    height: 1200,
    quality: 90,
    draw: (w, h) => shootPortrait(w, h, PEOPLE.helper),
  },
  {
    ...usual,
    name: "recorder-small.jpg",
    width: 132,
    height: 176,
    grain: 1.2,
    quality: 84,
    draw: (w, h) => shootPortrait(w, h, PEOPLE.recorder),
  },
  {
    ...usual,
    name: "small-crop.jpg",
    width: 640,
    height: 480,
    quality: 78,
    draw: moth({
      species: "ashenCarpet",
      ground: bark(1),
      at: [0.5, 0.48],
      size: 0.5,
      turn: 0.2,
      warm: 0.03,
    }),
  },
];
