/** Written without running the reader, after the corrections that the seventeenth set led to. All invented. */
import { at, jpeg, kb, max, one, paper, pdf, png, px, tiff, type Wording, webp } from "./corpus";

export const EIGHTEENTH: Wording[] = [
  {
    text: "Photograph: Please upload your recent photograph in JPG format. Dimensions 180 × 220 pixels. The size of the file must be between 15 KB and 45 KB.\nSignature: Please sign on white paper in black ink and upload it in JPG format. Dimensions 180 × 80 pixels. The size of the file must be between 8 KB and 18 KB.",
    briefs: [
      { name: "Photograph", clauses: { ...jpeg, ...px(180, 220), fileSize: kb(15, 45) } },
      { name: "Signature", clauses: { ink: "black", ...jpeg, ...px(180, 80), fileSize: kb(8, 18) } },
    ],
  },
  {
    text: "We accept JPEG and PNG, 10 MB max.",
    briefs: one({ format: ["jpeg", "png"], ...max("10MB") }),
  },
  {
    text: "Pictures wider than 2000 px will be refused, so will pictures heavier than 1.5 MB.",
    briefs: one({ width: { max: 2000 }, ...max("1.5MB") }),
  },
  {
    text: "Title image 1500 × 600 px, JPG, max. 200 KB; portrait of the speaker 600 × 600 px, JPG, max. 100 KB; handout PDF, max. 5 MB",
    briefs: [
      { name: "Title image", clauses: { ...px(1500, 600), ...jpeg, ...max("200KB") } },
      { name: "Portrait of the speaker", clauses: { ...px(600, 600), ...jpeg, ...max("100KB") } },
      { name: "Handout", clauses: { ...pdf, ...max("5MB") } },
    ],
  },
  {
    text: "The photo for your pass: 3 cm × 4 cm, 300 dpi, JPEG, no larger than 60 KB. Bring the form and 12 in cash.",
    briefs: one({ paper: paper("3cm", "4cm"), ...at(300), ...jpeg, ...max("60KB") }),
  },
  {
    text: "| Upload | Min | Max | Type |\n| Face photo | 30 KB | 120 KB | JPEG |\n| Left thumb | 10 KB | 50 KB | JPEG |\n| Domicile certificate | 50 KB | 400 KB | PDF |",
    briefs: [
      { name: "Face photo", clauses: { ...jpeg, fileSize: kb(30, 120) } },
      { name: "Left thumb", clauses: { ...jpeg, fileSize: kb(10, 50) } },
      { name: "Domicile certificate", clauses: { ...pdf, fileSize: kb(50, 400) } },
    ],
  },
  {
    text: "For print: 300 ppi, CMYK, TIFF. For web: 1200 px wide, sRGB, JPEG, under 250 KB.",
    briefs: [
      { name: "Print", clauses: { ...at(300), colour: { space: "cmyk" }, ...tiff } },
      {
        name: "Web",
        clauses: { width: { exact: 1200 }, colour: { space: "srgb" }, ...jpeg, ...max("250KB") },
      },
    ],
  },
  {
    text: "Every picture must be a JPEG of at least 2 MB and at most 10 MB, RGB, with its longer side between 3000 and 6000 pixels.",
    briefs: one({ ...jpeg, fileSize: { min: "2MB", max: "10MB" }, longSide: { min: 3000, max: 6000 } }),
  },
  {
    text: "Please upload: a portrait (JPEG), a scan of your ID (PDF) and your certificate (PDF). No file may be larger than 2 MB.",
    briefs: [
      { name: "Portrait", clauses: { ...jpeg, ...max("2MB") } },
      { name: "Scan of your ID", clauses: { ...pdf, ...max("2MB") } },
      { name: "Certificate", clauses: { ...pdf, ...max("2MB") } },
    ],
  },
  {
    text: "Your ticket photo: upright, 3:4, at least 450 × 600 px, JPG or PNG, max 4 MB.",
    briefs: one({
      shape: "3:4",
      width: { min: 450 },
      height: { min: 600 },
      format: ["jpeg", "png"],
      ...max("4MB"),
    }),
  },
  {
    text: "The inbox of the jury takes 25 MB per message. Ten pictures, JPEG, 1920 px on the long side.",
    briefs: one({ total: { max: "25MB", counted: "mail" }, ...jpeg, longSide: { exact: 1920 } }),
  },
  {
    text: "Signature image\nType : jpeg/jpg\nSize : Minimum 2 KB, Maximum 30 KB\nDimension : 3 cm (height) x 4 cm (width)",
    briefs: one({ ...jpeg, fileSize: kb(2, 30), paper: paper("4cm", "3cm") }),
  },
  {
    text: "Each figure shall be submitted as a separate TIFF file with a resolution of at least 300 dpi and a width of 174 mm.",
    briefs: one({ ...tiff, resolution: { min: "300ppi" }, paper: { width: "174mm" } }),
  },
  {
    text: "Avoid screenshots. A good photo is sharp and bright. JPEG, 1 to 5 MB.",
    briefs: one({ ...jpeg, fileSize: { min: "1MB", max: "5MB" } }),
  },
  {
    text: "Question: How large may my picture be?\nAnswer: Up to 800 KB, as JPEG, 1024 × 768 px at most.",
    briefs: one({ ...max("800KB"), ...jpeg, width: { max: 1024 }, height: { max: 768 } }),
  },
  {
    text: "Insurance: photos of the damage as JPEG, max 2 MB each. Estimate as PDF, max 1 MB.",
    briefs: [
      { name: "Insurance", clauses: { ...jpeg, ...max("2MB") } },
      { name: "Estimate", clauses: { ...pdf, ...max("1MB") } },
    ],
  },
  {
    text: "The mast is 120 m high and was built in 1968. Visitors may take pictures.",
    briefs: [],
  },
  {
    text: "Menu picture - 900 × 600 - JPEG - 120 KB max\nTable card - A6 - PDF - 1 MB max",
    briefs: [
      { name: "Menu picture", clauses: { ...px(900, 600), ...jpeg, ...max("120KB") } },
      { name: "Table card", clauses: { paper: paper("105mm", "148mm"), ...pdf, ...max("1MB") } },
    ],
  },
  {
    text: "Use WebP at quality 75 to 85 for the site, never more than 300 KB, never wider than 2000 px.",
    briefs: one({ ...webp, quality: { min: 75, max: 85 }, ...max("300KB"), width: { max: 2000 } }),
  },
  {
    text: "(a) Photo: 20KB to 50KB (b) Signature: 10KB to 20KB (c) Both should be in .jpg format",
    briefs: [
      { name: "Photo", clauses: { fileSize: kb(20, 50), ...jpeg } },
      { name: "Signature", clauses: { fileSize: kb(10, 20), ...jpeg } },
    ],
  },
  {
    text: "Hello! Could you send me the group picture again, a bit smaller? 2000 px and about 1 MB would do. Thanks!",
    briefs: [],
  },
  {
    text: "Print size 13 × 18 cm at 300 dpi, JPEG in best quality, sRGB profile embedded.",
    briefs: one({
      paper: paper("13cm", "18cm"),
      ...at(300),
      ...jpeg,
      colour: { space: "srgb", profile: "embed" },
    }),
  },
  {
    text: "Passport scan must be in colour, JPG or PDF, resolution 200 dpi, maximum 500 KB. Photo must be JPG, 45 × 35 mm (height × width), maximum 100 KB.",
    briefs: [
      { name: "Passport scan", clauses: { format: ["jpeg", "pdf"], ...at(200), ...max("500KB") } },
      { name: "Photo", clauses: { ...jpeg, paper: paper("35mm", "45mm"), ...max("100KB") } },
    ],
  },
  {
    text: "The picture is rejected if it is smaller than 600 × 600 pixels or larger than 1200 × 1200 pixels, if it is no JPEG, or if it exceeds 240 kB.",
    briefs: one({
      width: { min: 600, max: 1200 },
      height: { min: 600, max: 1200 },
      ...jpeg,
      fileSize: { max: "240kB" },
    }),
  },
  {
    text: "Icon: 512 × 512 px, PNG with transparency. Feature graphic: 1024 × 500 px, JPEG or PNG without transparency. Phone screenshots: PNG, between 320 and 3840 px on each side.",
    briefs: [
      { name: "Icon", clauses: { ...px(512, 512), ...png } },
      { name: "Feature graphic", clauses: { ...px(1024, 500), format: ["jpeg", "png"] } },
      { name: "Phone screenshots", clauses: { ...png, shortSide: { min: 320 }, longSide: { max: 3840 } } },
    ],
  },
];
