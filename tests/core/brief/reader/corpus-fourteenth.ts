/** Written without running the reader, after the corrections that the thirteenth set led to. All invented. */
import { at, jpeg, kb, max, one, paper, pdf, png, px, tiff, type Wording, webp } from "./corpus";

export const FOURTEENTH: Wording[] = [
  {
    text: "Upload specifications\nPassport Size Photo: Format JPG/JPEG, Size 10KB–200KB, Dimensions 3.5 cm × 4.5 cm\nSignature: Format JPG/JPEG, Size 4KB–30KB, Dimensions 3.5 cm × 1.5 cm\nID Proof: Format PDF, Size 10KB–500KB",
    briefs: [
      {
        name: "Passport Size Photo",
        clauses: { ...jpeg, fileSize: kb(10, 200), paper: paper("3.5cm", "4.5cm") },
      },
      { name: "Signature", clauses: { ...jpeg, fileSize: kb(4, 30), paper: paper("3.5cm", "1.5cm") } },
      { name: "ID Proof", clauses: { ...pdf, fileSize: kb(10, 500) } },
    ],
  },
  {
    text: "To enter, send one photo (JPEG, 2–8 MB, long side at least 3000 px) to the address on our site before midnight on 1 June.",
    briefs: one({ ...jpeg, fileSize: { min: "2MB", max: "8MB" }, longSide: { min: 3000 } }),
  },
  {
    text: "Portrait photo. JPEG. 35 × 45 mm. 300 dpi. Not larger than 150 KB.",
    briefs: one({ ...jpeg, paper: paper("35mm", "45mm"), ...at(300), ...max("150KB") }),
  },
  {
    text: "Please prepare two files.\nFile 1: portrait, JPEG, 900 × 1200 px, up to 400 KB.\nFile 2: signature, PNG, 900 × 300 px, up to 100 KB.",
    briefs: [
      { name: "Portrait", clauses: { ...jpeg, ...px(900, 1200), ...max("400KB") } },
      { name: "Signature", clauses: { ...png, ...px(900, 300), ...max("100KB") } },
    ],
  },
  {
    text: "All pictures must be JPEG. The cover must be 1600 × 2400 px. The spine must be 300 × 2400 px. The back must be 1600 × 2400 px.",
    briefs: [
      { name: "Cover", clauses: { ...px(1600, 2400), ...jpeg } },
      { name: "Spine", clauses: { ...px(300, 2400), ...jpeg } },
      { name: "Back", clauses: { ...px(1600, 2400), ...jpeg } },
    ],
  },
  {
    text: "Web images should be compressed to 100–200 KB, 1500 px wide at the most, sRGB, JPEG or WebP.",
    briefs: one({
      fileSize: kb(100, 200),
      width: { max: 1500 },
      colour: { space: "srgb" },
      format: ["jpeg", "webp"],
    }),
  },
  {
    text: "Claim form: PDF, at most 2 MB\nPhotos of damage: JPEG, at most 3 MB each\nReceipts: PDF or JPEG, at most 2 MB each",
    briefs: [
      { name: "Claim form", clauses: { ...pdf, ...max("2MB") } },
      { name: "Photos of damage", clauses: { ...jpeg, ...max("3MB") } },
      { name: "Receipts", clauses: { format: ["pdf", "jpeg"], ...max("2MB") } },
    ],
  },
  {
    text: "Your image is shown at 800 × 450 px. Upload at least that, in 16:9, as JPG, PNG or WebP, no heavier than 2 MB.",
    briefs: one({ shape: "16:9", format: ["jpeg", "png", "webp"], ...max("2MB") }),
  },
  {
    text: "Signature\n- Sign with black ink on white paper\n- Scan at 200 dpi\n- Save as JPG, 140 × 60 px, 10–20 KB\nPhotograph\n- Light background\n- Save as JPG, 200 × 230 px, 20–50 KB",
    briefs: [
      {
        name: "Signature",
        clauses: { ink: "black", ...at(200), ...jpeg, ...px(140, 60), fileSize: kb(10, 20) },
      },
      { name: "Photograph", clauses: { ...jpeg, ...px(200, 230), fileSize: kb(20, 50) } },
    ],
  },
  {
    text: "A mail with more than 20 MB will not get through; keep each photo under 1.5 MB and you can send ten.",
    briefs: one({ total: { max: "20MB", counted: "mail" }, fileSize: { max: "1.5MB" } }),
  },
  {
    text: "Scan size: A5. Resolution: 400 dpi. Colour depth: 8 bit greyscale. File: TIFF.",
    briefs: one({ paper: paper("148mm", "210mm"), ...at(400), colour: { bits: 8, space: "gray" }, ...tiff }),
  },
  {
    text: "Desktop banner 1920 × 480 px, mobile banner 800 × 800 px, both WebP below 200 KB.",
    briefs: [
      { name: "Desktop banner", clauses: { ...px(1920, 480), ...webp, ...max("200KB") } },
      { name: "Mobile banner", clauses: { ...px(800, 800), ...webp, ...max("200KB") } },
    ],
  },
  {
    text: "The portrait photograph shall have a minimum of 1200 x 1600 pixels, no compression artefacts and a file size below 5 MB.",
    briefs: one({ width: { min: 1200 }, height: { min: 1600 }, ...max("5MB") }),
  },
  {
    text: "Document type: Photo\nFile format: JPG\nFile size: 20-50 KB\n\nDocument type: Signature\nFile format: JPG\nFile size: 10-20 KB",
    briefs: [
      { name: "Photo", clauses: { ...jpeg, fileSize: kb(20, 50) } },
      { name: "Signature", clauses: { ...jpeg, fileSize: kb(10, 20) } },
    ],
  },
  {
    text: "Parking is free after 18:00. Bring 2 copies of form 7 and a pen. The office is on floor 3.",
    briefs: [],
  },
  {
    text: "Images for the poster: at least 300 dpi at 50 × 70 cm, CMYK TIFF. Images for the flyer: at least 300 dpi at 10 × 21 cm, CMYK TIFF.",
    briefs: [
      {
        name: "Images for the poster",
        clauses: {
          resolution: { min: "300ppi" },
          paper: paper("50cm", "70cm"),
          colour: { space: "cmyk" },
          ...tiff,
        },
      },
      {
        name: "Images for the flyer",
        clauses: {
          resolution: { min: "300ppi" },
          paper: paper("10cm", "21cm"),
          colour: { space: "cmyk" },
          ...tiff,
        },
      },
    ],
  },
  {
    text: "File names must not be changed. Pictures: JPEG, 75 to 90 % quality, 1400 px on the longer side.",
    briefs: one({ names: "{name}", ...jpeg, quality: { min: 75, max: 90 }, longSide: { exact: 1400 } }),
  },
];
