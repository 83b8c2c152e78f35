/** Which pictures are in which batch of the demo. */
export const DEMO_VERSION = "1";

export interface DemoBatch {
  name: string;
  brief: string;
  photos: string[];
}

export const DEMO_BATCHES: DemoBatch[] = [
  {
    name: "Permit papers",
    brief: "Night-trapping permit: portrait",
    photos: ["warden-portrait.jpg", "signature.jpg", "brindled-hooktip.jpg", "small-crop.jpg"],
  },
  {
    name: "Trap night, 14 May",
    brief: "Course card",
    photos: [
      "ashen-carpet.jpg", "brindled-hooktip.jpg", "copper-tussock.jpg", "fen-lackey.jpg", "heath-emerald.jpg", "moor-at-dusk.jpg",
      "pale-footman.jpg", "rowan-pug.tif", "specimen-label.png", "stone-brocade.jpg", "trap-sheet.jpg",
    ],
  },
];
