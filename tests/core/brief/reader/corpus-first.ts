/** Invented wordings with what they state. This half was written before the reader. */
import { BADGE, one, px, type Wording } from "./corpus";

export const FIRST: Wording[] = [
  {
    text: BADGE,
    briefs: [
      {
        name: "Warden's badge",
        clauses: {
          format: ["png", "jpeg"],
          ...px(330, 420),
          fileSize: { min: "30KB", max: "90KB" },
          paper: { width: "28mm", height: "35mm" },
        },
        wishes: ["width", "height"],
      },
      {
        name: "Consent slip",
        clauses: { ink: "black", ...px(200, 90), fileSize: { min: "6KB", max: "16KB" } },
      },
    ],
  },
  {
    text: "Upload a JPEG of 260 × 340 pixels. File size: 22KB - 48KB.",
    briefs: one({ format: ["jpeg"], ...px(260, 340), fileSize: { min: "22KB", max: "48KB" } }),
  },
  { text: "Images must not exceed 740 K.", briefs: one({ fileSize: { max: "740KB" } }) },
  { text: "The file may be no more than 1,5 MB.", briefs: one({ fileSize: { max: "1.5MB" } }) },
  {
    text: "less than 180 kilobytes, .png only",
    briefs: one({ fileSize: { max: "180KB" }, format: ["png"] }),
  },
  {
    text: "Cover: 1440 x 810 or 960 x 540 pixels, 3 MB max.",
    briefs: one({
      sizes: [
        { width: 1440, height: 810 },
        { width: 960, height: 540 },
      ],
      fileSize: { max: "3MB" },
    }),
  },
  {
    text: "Longest edge at most 1150 px, 90 ppi, JPEG quality 70 % or below.",
    briefs: one({ longSide: { max: 1150 }, resolution: { exact: "90ppi" }, quality: { max: 70 } }),
  },
  { text: "Neither side may be longer than 1300 pixels.", briefs: one({ longSide: { max: 1300 } }) },
  { text: "At least 640 px on either side.", briefs: one({ shortSide: { min: 640 } }) },
  { text: "Width between 500 and 900 px. Height free.", briefs: one({ width: { min: 500, max: 900 } }) },
  { text: "Shape 16:9, sRGB, 8 bit.", briefs: one({ shape: "16:9", colour: { space: "srgb", bits: 8 } }) },
  {
    text: "The picture must be square, nothing under 45 KB.",
    briefs: one({ shape: "1:1", fileSize: { min: "45KB" } }),
  },
  {
    text: "Plates: 140 mm wide at 350 dpi, TIFF, CMYK.",
    briefs: one({
      paper: { width: "140mm" },
      resolution: { exact: "350ppi" },
      format: ["tiff"],
      colour: { space: "cmyk" },
    }),
  },
  {
    text: "Print size 4 x 5 in, at least 250 dpi.",
    briefs: one({ paper: { width: "4in", height: "5in" }, resolution: { min: "250ppi" } }),
  },
  {
    text: "Photographs 3,8 × 4,8 cm; 110 pixels per cm.",
    briefs: one({ paper: { width: "3.8cm", height: "4.8cm" }, resolution: { exact: "110ppcm" } }),
  },
  { text: "Send every picture at half size.", briefs: one({ scale: "50%" }) },
  { text: "Scale the scans to 40 % of the original.", briefs: one({ scale: "40%" }) },
  { text: "All attachments together must stay under 6 MB.", briefs: one({ total: { max: "6MB" } }) },
  {
    text: "Our mailbox has a message limit of 4 MB.",
    briefs: one({ total: { max: "4MB", counted: "mail" } }),
  },
  {
    text: "Please do not enlarge small pictures. JPG, longest side 1250 px.",
    briefs: one({ enlarge: "never", format: ["jpeg"], longSide: { exact: 1250 } }),
  },
  {
    text: "The wall screen shows 1360 × 768 pixels, pictures fit either way up.",
    briefs: one({ box: { width: 1360, height: 768 } }),
  },
  { text: "Call 0330 420 090 before 30.11.2026, room 12 x 14, fee 25 EUR for 4 photos.", briefs: [] },
  { text: "We received 28 entries last year and 35 the year before.", briefs: [] },
  {
    text: "Le fichier doit peser entre 30 et 90 Ko et la photo doit mesurer 330 sur 420 points.",
    briefs: [],
  },
  {
    text: "Die Datei darf nicht größer als 90 KB sein und das Bild nicht kleiner als 330 x 420 px.",
    briefs: [],
  },
  { text: "The moths were beautiful on Thursday; thank you all for coming.", briefs: [] },
  { text: "Quality 8, please.", briefs: [], unread: ["Quality 8"] },
  {
    text: "A recent photograph with a plain expression in front of a plain wall. JPEG.",
    briefs: one({ format: ["jpeg"] }),
    onlyYou: ["recent", "plain expression"],
  },
  {
    text: "Signature made in person, with black ink, 240 × 80 px, PNG.",
    briefs: one({ ink: "black", ...px(240, 80), format: ["png"] }),
    onlyYou: ["in person"],
  },
  {
    text: "No glasses, no hats. Background white. Between 20 KB and 60 KB.",
    briefs: one({ background: "#ffffff", fileSize: { min: "20KB", max: "60KB" } }),
    onlyYou: ["No glasses", "no hats"],
  },
  {
    text: "A black border of 2 pixels around the picture; 300 x 400 px.",
    briefs: one({ border: { px: 2, colour: "#000000" }, ...px(300, 400) }),
  },
  { text: "Files larger than 2 MB will be rejected.", briefs: one({ fileSize: { max: "2MB" } }) },
  { text: "Anything below 25 kB is refused.", briefs: one({ fileSize: { min: "25kB" } }) },
  { text: "Size: 420 × 330 (H × W) pixels", briefs: one(px(330, 420)) },
  { text: "Height x width: 5 x 4 cm", briefs: one({ paper: { width: "4cm", height: "5cm" } }) },
  {
    text: "• Format: PNG or TIFF\n• Dimensions: 1,600 × 1,200 px\n• Colour: grey, 16 bit\n• Size: max. 12 MB",
    briefs: one({
      format: ["png", "tiff"],
      ...px(1600, 1200),
      colour: { space: "gray", bits: 16 },
      fileSize: { max: "12MB" },
    }),
  },
  {
    text: "Portrait: 280 × 350 px, 20–70 KB.\nSignature: 220 × 80 px, 5–15 KB.\nBoth files as JPEG, no metadata.",
    briefs: [
      {
        name: "Portrait",
        clauses: {
          ...px(280, 350),
          fileSize: { min: "20KB", max: "70KB" },
          format: ["jpeg"],
          metadata: "none",
        },
      },
      {
        name: "Signature",
        clauses: {
          ...px(220, 80),
          fileSize: { min: "5KB", max: "15KB" },
          format: ["jpeg"],
          metadata: "none",
        },
      },
    ],
  },
  {
    text: "Document\tWidth (px)\tHeight (px)\tFile size (KB)\nPortrait\t300\t380\t25-75\nSignature\t260\t90\t8-20",
    briefs: [
      { name: "Portrait", clauses: { ...px(300, 380), fileSize: { min: "25KB", max: "75KB" } } },
      { name: "Signature", clauses: { ...px(260, 90), fileSize: { min: "8KB", max: "20KB" } } },
    ],
  },
  {
    text: "Dimensions 340 by 440 pixels (recommended). Maximum file size: 95 KB.",
    briefs: one({ ...px(340, 440), fileSize: { max: "95KB" } }, ["width", "height"]),
  },
  {
    text: "The photo should preferably be 1200 px wide and must be a JPEG or WebP.",
    briefs: one({ width: { exact: 1200 }, format: ["jpeg", "webp"] }, ["width"]),
  },
  { text: "GIF files are not accepted.", briefs: [] },
  {
    text: "JPEG, not PNG. Not less than 350\nKB.",
    briefs: one({ format: ["jpeg"], fileSize: { min: "350KB" } }),
  },
  {
    text: "Resolution no lower than 200 dpi and no higher than 400 dpi",
    briefs: one({ resolution: { min: "200ppi", max: "400ppi" } }),
  },
  { text: "<b>Portrait</b> 330 x 420 <script>alert('60 KB')</script>", briefs: one(px(330, 420)) },
  {
    text: "The scan as PDF, A4, no more than 900 KB, minimum 150 KB",
    briefs: one({
      format: ["pdf"],
      paper: { width: "210mm", height: "297mm" },
      fileSize: { min: "150KB", max: "900KB" },
    }),
  },
  {
    text: "Keep the file names as they are. Each file at most 450 KB, at least 900 pixels wide.",
    briefs: one({ names: "{name}", fileSize: { max: "450KB" }, width: { min: 900 } }),
  },
];
