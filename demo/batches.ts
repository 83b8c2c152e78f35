import { HEAVY } from "./heavy";
import { RECORDS } from "./records";

/** Which pictures are in which batch of the demo. */
export const DEMO_VERSION = "4";

export interface DemoBatch {
  name: string;
  /** Null: it begins without one. */
  brief: string | null;
  photos: string[];
}

export const DEMO_BATCHES: DemoBatch[] = [
  {
    name: "Permit portraits",
    brief: "Night-trapping permit: portrait",
    photos: ["warden-portrait.jpg", "helper-portrait.jpg", "recorder-small.jpg", "small-crop.jpg"],
  },
  {
    name: "Trap night, 14 May",
    brief: "Course card",
    photos: [
      "ashen-carpet.jpg",
      "brindled-hooktip.jpg",
      "copper-tussock.jpg",
      "fen-lackey.jpg",
      "heath-emerald.jpg",
      "moor-at-dusk.jpg",
      "pale-footman.jpg",
      "rowan-pug.tif",
      "specimen-label.png",
      "stone-brocade.jpg",
      "trap-sheet.jpg",
    ],
  },
  { name: "Trap records, May", brief: null, photos: RECORDS.map((record) => record.name) },
  { name: "From camera, phone and desk", brief: "Course card", photos: [...Object.keys(HEAVY)] },
  {
    name: "Dusk for the hut",
    brief: "Hut screen, light above white",
    photos: ["moor-at-dusk.jpg", "moor-at-last-light.dng"],
  },
  { name: "Poster, kept in layers", brief: "Poster archive", photos: ["survey-poster.ora"] },
  { name: "Permit signature", brief: "Night-trapping permit: signature", photos: ["signature.jpg"] },
];
