/**
 * The briefs that ship with Zumbrel: what Quillmoor's receivers write, read by Zumbrel itself. All invented.
 */
import type { Brief } from "@/core/brief";
import { readWording } from "@/core/brief/read";

interface Receiver {
  name: string;
  from: string;
  wording: string;
  /** What the office settled for itself, beside what the receiver asks. */
  own?: Partial<Brief>;
}

const RECEIVERS: Receiver[] = [
  {
    name: "Night-trapping permit: portrait",
    from: "Quillmoor permit office",
    wording:
      "Your portrait for the night-trapping permit. We need a JPEG of 240 × 300 pixels that is " +
      "printed 40 mm × 50 mm on the card. The file must weigh between 24 KB and 60 KB; anything else " +
      "is sent back by the form.\n\nA recent picture, please, in front of a plain wall, without a " +
      "hat.",
    own: { names: "{name}-permit" },
  },
  {
    name: "Night-trapping permit: signature",
    from: "Quillmoor permit office",
    wording:
      "Your signature, 260 × 110 pixels, as JPEG or PNG. Not under 9 KB and not over 18 KB. Sign by " +
      "your own hand, in black ink on white paper.",
    own: { names: "{name}-signed" },
  },
  {
    name: "County recorder's mailbox",
    from: "County moth recorder",
    wording:
      "Send your records with pictures that have no side over 1450 px, all of them in one message. " +
      "The whole message must not be over 6.8 MB. Please do not rename the files: the list of " +
      "records goes by their names.",
  },
  {
    name: "Course card",
    from: "Quillmoor course site",
    wording:
      "Pictures for the cards of the course: JPEG only\nLong side at most 1100 px\n96 ppi\nUp to 240 " +
      "KB per file",
  },
  {
    name: "Cover picture",
    from: "Quillmoor society pages",
    wording:
      "The cover of your page is 1640 × 720 or 1230 × 540 pixels. PNG if it is light enough, " +
      "otherwise JPEG, and less than 1.4 MB.",
    own: { format: ["png", "jpeg"] },
  },
  {
    name: "Field-guide plate",
    from: "Heather & Bell, printers",
    wording:
      "Plates are printed 120 mm × 90 mm. Send JPEGs with a resolution between 240 and 360 ppi and a " +
      "quality of at least 90 %.",
    own: { names: "plate-{n:2}-{name}" },
  },
  {
    name: "Web page",
    from: "Quillmoor web pages",
    wording: "For the web: JPEG, longest side up to 960 pixels, below 120 KB, no metadata.",
  },
  {
    name: "Hut wall screen",
    from: "The hut at Quillmoor",
    wording:
      "For the wall screen in the hut: pictures that fit 1360 × 800 pixels either way up, JPEG, no " +
      "more than 450 KB each.",
  },
  {
    name: "Hut screen, light above white",
    from: "The hut at Quillmoor",
    wording:
      "For the new screen in the hut we take HDR pictures: AVIF, long side at most 1360 pixels, up " +
      "to 900 KB each.",
  },
  {
    name: "Poster archive",
    from: "Quillmoor office",
    wording:
      "Posters go to the archive with their layers kept. At least 1500 px wide, and no more than 9 MB each.",
  },
];

function briefOf({ name, from, wording, own }: Receiver): Brief {
  const { briefs } = readWording(wording);
  if (briefs.length !== 1) throw new Error(`The wording of "${name}" holds ${briefs.length} briefs.`);
  return { ...briefs[0], name, from, ...own };
}

export const STARTER_BRIEFS: Brief[] = RECEIVERS.map(briefOf);
