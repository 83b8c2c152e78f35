/** Written without running the reader, after the corrections that the eighteenth set led to. All invented. */
import { at, jpeg, kb, max, one, paper, pdf, png, px, tiff, type Wording, webp } from "./corpus";

export const NINETEENTH: Wording[] = [
  {
    text: "How to upload\n1. Scan your photograph and signature separately.\n2. Photograph: 4.5 cm × 3.5 cm (height × width), JPG, 25 KB to 75 KB.\n3. Signature: 2 cm × 4 cm (height × width), JPG, 10 KB to 25 KB.\n4. Press Submit.",
    briefs: [
      { name: "Photograph", clauses: { paper: paper("3.5cm", "4.5cm"), ...jpeg, fileSize: kb(25, 75) } },
      { name: "Signature", clauses: { paper: paper("4cm", "2cm"), ...jpeg, fileSize: kb(10, 25) } },
    ],
  },
  {
    text: "Attach a clear picture of the fault, JPEG, not bigger than 3 MB.",
    briefs: one({ ...jpeg, ...max("3MB") }),
  },
  {
    text: "Pictures have to be supplied in 1200 × 800 px or 800 × 1200 px, JPEG, max. 400 KB.",
    briefs: one({
      sizes: [
        { width: 1200, height: 800 },
        { width: 800, height: 1200 },
      ],
      ...jpeg,
      ...max("400KB"),
    }),
  },
  {
    text: "Recipe photo: 4:3, JPEG, at least 1600 px wide, under 1 MB\nStep photos: 1:1, JPEG, at least 800 px wide, under 500 KB",
    briefs: [
      { name: "Recipe photo", clauses: { shape: "4:3", ...jpeg, width: { min: 1600 }, ...max("1MB") } },
      { name: "Step photos", clauses: { shape: "1:1", ...jpeg, width: { min: 800 }, ...max("500KB") } },
    ],
  },
  {
    text: "The uploaded file must be a PDF; its size may not exceed 2048 KB.",
    briefs: one({ ...pdf, ...max("2048KB") }),
  },
  {
    text: "Images: max width 1000 px, max height 1000 px, max weight 150 KB, jpg or gif.",
    briefs: one({
      width: { max: 1000 },
      height: { max: 1000 },
      ...max("150KB"),
      format: ["jpeg", "gif"],
    }),
  },
  {
    text: "We print portraits in black and white. Please deliver greyscale TIFF, 13 cm wide at 400 dpi.",
    briefs: one({ colour: { space: "gray" }, ...tiff, paper: { width: "13cm" }, ...at(400) }),
  },
  {
    text: "Required:\n– photo of the applicant, JPEG, 100–300 KB\n– copy of the school report, PDF, up to 2 MB\n– copy of the birth certificate, PDF, up to 2 MB\nOptional:\n– letter of recommendation, PDF, up to 1 MB",
    briefs: [
      { name: "Photo of the applicant", clauses: { ...jpeg, fileSize: kb(100, 300) } },
      { name: "Copy of the school report", clauses: { ...pdf, ...max("2MB") } },
      { name: "Copy of the birth certificate", clauses: { ...pdf, ...max("2MB") } },
      { name: "Letter of recommendation", clauses: { ...pdf, ...max("1MB") } },
    ],
  },
  {
    text: "The camera records 6000 × 4000 px. For the agency reduce pictures to 4000 px on the long side and save as JPEG with quality 92.",
    briefs: one({ longSide: { exact: 4000 }, ...jpeg, quality: { min: 92, max: 92 } }),
  },
  {
    text: "Badge photo 300 x 400 pixels, JPG. Not under 20 KB. Not over 60 KB.",
    briefs: one({ ...px(300, 400), ...jpeg, fileSize: kb(20, 60) }),
  },
  {
    text: "Banner: 2000 × 500 px, WebP or JPEG, ≤ 300 KB. Tile: 600 × 600 px, WebP or JPEG, ≤ 80 KB. Icon: 128 × 128 px, PNG, ≤ 10 KB.",
    briefs: [
      { name: "Banner", clauses: { ...px(2000, 500), format: ["webp", "jpeg"], ...max("300KB") } },
      { name: "Tile", clauses: { ...px(600, 600), format: ["webp", "jpeg"], ...max("80KB") } },
      { name: "Icon", clauses: { ...px(128, 128), ...png, ...max("10KB") } },
    ],
  },
  {
    text: "The scanned page must be legible. PDF, 150 dpi, maximum size 300 KB per page.",
    briefs: one({ ...pdf, ...at(150), ...max("300KB") }),
  },
  {
    text: "If your picture is larger than 5 MB, make it smaller. JPEG is best.",
    briefs: [{ clauses: { ...max("5MB"), ...jpeg }, wishes: ["format"] }],
  },
  {
    text: "Booth photo for the fair guide: JPEG, 300 dpi, 90 mm wide, 60 mm high. Company mark: PNG, transparent, 1200 px wide.",
    briefs: [
      {
        name: "Booth photo for the fair guide",
        clauses: { ...jpeg, ...at(300), paper: paper("90mm", "60mm") },
      },
      { name: "Company mark", clauses: { ...png, width: { exact: 1200 } } },
    ],
  },
  {
    text: "Parcels up to 31.5 kg, 120 × 60 × 60 cm. Collection daily at 17:00.",
    briefs: [],
  },
  {
    text: "Photograph size must be between 4KB and 40KB and signature size must be between 1KB and 30KB. Only jpg or jpeg.",
    briefs: [
      { name: "Photograph", clauses: { fileSize: kb(4, 40), ...jpeg } },
      { name: "Signature", clauses: { fileSize: kb(1, 30), ...jpeg } },
    ],
  },
  {
    text: "Upload limit: 8 MB. Formats: JPG, PNG, GIF. Ideal width: 1200 px.",
    briefs: [
      {
        clauses: { ...max("8MB"), format: ["jpeg", "png", "gif"], width: { exact: 1200 } },
        wishes: ["width"],
      },
    ],
  },
  {
    text: "Hero: WebP, 2400 px wide, quality 80, max 350 KB. Cards: WebP, 800 px wide, quality 80, max 90 KB.",
    briefs: [
      {
        name: "Hero",
        clauses: { ...webp, width: { exact: 2400 }, quality: { min: 80, max: 80 }, ...max("350KB") },
      },
      {
        name: "Cards",
        clauses: { ...webp, width: { exact: 800 }, quality: { min: 80, max: 80 }, ...max("90KB") },
      },
    ],
  },
  {
    text: "Das Foto (photo) must be JPEG and at most 500 KB.",
    briefs: one({ ...jpeg, ...max("500KB") }),
  },
  {
    text: "The candidate's photograph must be in JPEG, exactly 35 mm × 45 mm at 600 dpi, with a file size not exceeding 300 KB and not less than 100 KB; the background must be plain white.",
    briefs: one({
      ...jpeg,
      paper: paper("35mm", "45mm"),
      ...at(600),
      fileSize: kb(100, 300),
      background: "#ffffff",
    }),
  },
  {
    text: "Cover letter: PDF, 1 page, 500 KB. CV: PDF, 3 pages at most, 1 MB. Photo: JPEG, 200 KB.",
    briefs: [
      { name: "Cover letter", clauses: { ...pdf } },
      { name: "CV", clauses: { ...pdf, ...max("1MB") } },
      { name: "Photo", clauses: { ...jpeg } },
    ],
  },
  {
    text: "Kindly send the deed as a multi-page PDF, 300 dpi, colour, 20 MB max, and the site photos as JPEG, 2 MB max each.",
    briefs: [
      { name: "Deed", clauses: { ...pdf, ...at(300), ...max("20MB") } },
      { name: "Site photos", clauses: { ...jpeg, ...max("2MB") } },
    ],
  },
  {
    text: "Square crop, 1080 px, JPG, sRGB, no more than 500 KB, please.",
    briefs: one({ shape: "1:1", ...px(1080, 1080), ...jpeg, colour: { space: "srgb" }, ...max("500KB") }),
  },
  {
    text: "Step 2 of 4: passport photo. JPG or PNG. 2 × 2 inches at 300 dpi. Smaller than 5 MB.",
    briefs: one({ format: ["jpeg", "png"], paper: paper("2in", "2in"), ...at(300), ...max("5MB") }),
  },
];
