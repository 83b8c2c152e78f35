/** Written without running the reader, after the corrections that the sixteenth set led to. All invented. */
import { at, jpeg, kb, max, one, paper, pdf, png, px, tiff, type Wording, webp } from "./corpus";

export const SEVENTEENTH: Wording[] = [
  {
    text: "Upload your documents\nPhoto (passport style): JPEG, 20–100 KB\nSignature: JPEG, 10–50 KB\nIdentity proof: PDF, up to 500 KB\nKeep your application number ready.",
    briefs: [
      { name: "Photo (passport style)", clauses: { ...jpeg, fileSize: kb(20, 100) } },
      { name: "Signature", clauses: { ...jpeg, fileSize: kb(10, 50) } },
      { name: "Identity proof", clauses: { ...pdf, ...max("500KB") } },
    ],
  },
  {
    text: "Please mail your three best shots as JPEG. Together they must not exceed 9 MB.",
    briefs: one({ ...jpeg, total: { max: "9MB" } }),
  },
  {
    text: "Photo specification: width 3.5 cm, height 4.5 cm, 300 dpi, JPEG, file size 40 KB to 80 KB.",
    briefs: one({ paper: paper("3.5cm", "4.5cm"), ...at(300), ...jpeg, fileSize: kb(40, 80) }),
  },
  {
    text: "Front view: JPEG, 3000 px wide. Side view: JPEG, 3000 px wide. Detail: JPEG, 2000 px wide. All below 4 MB.",
    briefs: [
      { name: "Front view", clauses: { ...jpeg, width: { exact: 3000 }, ...max("4MB") } },
      { name: "Side view", clauses: { ...jpeg, width: { exact: 3000 }, ...max("4MB") } },
      { name: "Detail", clauses: { ...jpeg, width: { exact: 2000 }, ...max("4MB") } },
    ],
  },
  {
    text: "The portal accepts PDF files of up to 5 MB. Scan at 300 dpi in greyscale.",
    briefs: one({ ...pdf, ...max("5MB"), ...at(300), colour: { space: "gray" } }),
  },
  {
    text: "Name | Format | Pixels | Weight\nLogo | PNG | 400 × 400 | ≤ 50 KB\nBackground | JPEG | 1920 × 1080 | ≤ 300 KB\nPreview | WebP | 640 × 360 | ≤ 40 KB",
    briefs: [
      { name: "Logo", clauses: { ...png, ...px(400, 400), ...max("50KB") } },
      { name: "Background", clauses: { ...jpeg, ...px(1920, 1080), ...max("300KB") } },
      { name: "Preview", clauses: { ...webp, ...px(640, 360), ...max("40KB") } },
    ],
  },
  {
    text: "Send the signed form back as PDF. It must not be larger than 1 MB.",
    briefs: one({ ...pdf, ...max("1MB") }),
  },
  {
    text: "Your profile photo should be a square JPEG of 800 × 800 pixels and less than 300 KB.",
    briefs: [
      {
        clauses: { shape: "1:1", ...jpeg, ...px(800, 800), ...max("300KB") },
      },
    ],
  },
  {
    text: "i. Photograph of the candidate (JPG, 3.5 cm × 4.5 cm, 20 KB to 50 KB)\nii. Signature of the candidate (JPG, 3.5 cm × 1.5 cm, 10 KB to 20 KB)\niii. Signature of the parent (JPG, 3.5 cm × 1.5 cm, 10 KB to 20 KB)",
    briefs: [
      {
        name: "Photograph of the candidate",
        clauses: { ...jpeg, paper: paper("3.5cm", "4.5cm"), fileSize: kb(20, 50) },
      },
      {
        name: "Signature of the candidate",
        clauses: { ...jpeg, paper: paper("3.5cm", "1.5cm"), fileSize: kb(10, 20) },
      },
      {
        name: "Signature of the parent",
        clauses: { ...jpeg, paper: paper("3.5cm", "1.5cm"), fileSize: kb(10, 20) },
      },
    ],
  },
  {
    text: "Artwork must be supplied as CMYK TIFF at 300 ppi, 210 × 210 mm, without layers.",
    briefs: one({
      colour: { space: "cmyk" },
      ...tiff,
      ...at(300),
      paper: paper("210mm", "210mm"),
      layers: "flatten",
    }),
  },
  {
    text: "Images on this page load slowly above 200 KB, so please stay below. Long side 1400 px.",
    briefs: one({ longSide: { exact: 1400 } }),
  },
  {
    text: "Please attach a photo of the meter (JPEG, at most 2 MB) and the last invoice (PDF, at most 2 MB).",
    briefs: [
      { name: "Photo of the meter", clauses: { ...jpeg, ...max("2MB") } },
      { name: "Last invoice", clauses: { ...pdf, ...max("2MB") } },
    ],
  },
  {
    text: "Minimum 1200 pixels on the short side. JPEG only. Maximum 12 MB.",
    briefs: one({ shortSide: { min: 1200 }, ...jpeg, ...max("12MB") }),
  },
  {
    text: "Photograph\nDimensions: 160 × 200 px\nFormat: JPG\nSize: 15–30 KB\n\nSignature\nDimensions: 160 × 60 px\nFormat: JPG\nSize: 5–15 KB",
    briefs: [
      { name: "Photograph", clauses: { ...px(160, 200), ...jpeg, fileSize: kb(15, 30) } },
      { name: "Signature", clauses: { ...px(160, 60), ...jpeg, fileSize: kb(5, 15) } },
    ],
  },
  {
    text: "The hall is closed on Mondays. Entry 4.50, children 2. Dogs of up to 10 kg are welcome.",
    briefs: [],
  },
  {
    text: "Winners send us the print file: TIFF, 16 bit, ProPhoto, 300 ppi, 60 cm on the long side.",
    briefs: one({ ...tiff, colour: { bits: 16 }, ...at(300) }),
  },
  {
    text: "The picture for your card must be 25 mm × 35 mm, 300 dpi, JPEG, between 8 KB and 24 KB, with a white background.",
    briefs: one({
      paper: paper("25mm", "35mm"),
      ...at(300),
      ...jpeg,
      fileSize: kb(8, 24),
      background: "#ffffff",
    }),
  },
  {
    text: "Attach up to six JPEGs. No single file over 3 MB, no message over 18 MB.",
    briefs: one({ ...jpeg, ...max("3MB"), total: { max: "18MB", counted: "mail" } }),
  },
  {
    text: "1) Cover photo - JPEG, 1600 x 900 px\n2) Author photo - JPEG, 600 x 600 px\n3) Sample chapter - PDF, at most 3 MB",
    briefs: [
      { name: "Cover photo", clauses: { ...jpeg, ...px(1600, 900) } },
      { name: "Author photo", clauses: { ...jpeg, ...px(600, 600) } },
      { name: "Sample chapter", clauses: { ...pdf, ...max("3MB") } },
    ],
  },
  {
    text: "Acceptable formats are JPEG and PNG; the longest side may have 2500 px at most; anything above 5 MB is refused.",
    briefs: one({ format: ["jpeg", "png"], longSide: { max: 2500 }, ...max("5MB") }),
  },
  {
    text: "Scans of maps: TIFF, 400 dpi, colour. Scans of letters: PDF, 200 dpi, greyscale, A4.",
    briefs: [
      { name: "Scans of maps", clauses: { ...tiff, ...at(400) } },
      {
        name: "Scans of letters",
        clauses: { ...pdf, ...at(200), colour: { space: "gray" }, paper: paper("210mm", "297mm") },
      },
    ],
  },
  {
    text: "Photo should be in colour and of the size of 50 mm × 50 mm. Scan it with 300 dpi. Save it as JPEG. The file should not exceed 120 KB.",
    briefs: one({ paper: paper("50mm", "50mm"), ...at(300), ...jpeg, ...max("120KB") }),
  },
  {
    text: "Poster: A2 upright, PDF, 200 dpi or more. Invitation: A6 landscape, PDF, 300 dpi or more.",
    briefs: [
      { name: "Poster", clauses: { paper: paper("420mm", "594mm"), ...pdf, resolution: { min: "200ppi" } } },
      {
        name: "Invitation",
        clauses: { paper: paper("148mm", "105mm"), ...pdf, resolution: { min: "300ppi" } },
      },
    ],
  },
  {
    text: "Product pictures have 1000 px at least on each side, are square, and weigh no more than 1 MB as JPEG.",
    briefs: one({ shortSide: { min: 1000 }, shape: "1:1", ...max("1MB"), ...jpeg }),
  },
  {
    text: "Applicants upload: photo .jpg (max 100 KB), signature .jpg (max 50 KB), résumé .pdf (max 1 MB).",
    briefs: [
      { name: "Photo", clauses: { ...jpeg, ...max("100KB") } },
      { name: "Signature", clauses: { ...jpeg, ...max("50KB") } },
      { name: "Résumé", clauses: { ...pdf, ...max("1MB") } },
    ],
  },
  {
    text: "The bench is 1600 × 400 mm and weighs 24 kg. For the catalogue we need a JPEG of it, 2400 px wide.",
    briefs: one({ ...jpeg, width: { exact: 2400 } }),
  },
  {
    text: "Slide 1: 1920 × 1080 px, PNG. Slide 2: 1920 × 1080 px, PNG. Handout: A4, PDF, below 2 MB.",
    briefs: [
      { name: "Slide 1", clauses: { ...px(1920, 1080), ...png } },
      { name: "Slide 2", clauses: { ...px(1920, 1080), ...png } },
      { name: "Handout", clauses: { paper: paper("210mm", "297mm"), ...pdf, ...max("2MB") } },
    ],
  },
  {
    text: "Pixel size: 600 (width) × 800 (height). Type: JPG. Weight: 60 KB minimum, 200 KB maximum.",
    briefs: one({ ...px(600, 800), ...jpeg, fileSize: kb(60, 200) }),
  },
  {
    text: "Do not send raw files. JPEG with quality 85 or more, at least 12 megapixels, at most 15 MB.",
    briefs: one({ ...jpeg, quality: { min: 85 }, ...max("15MB") }),
  },
  {
    text: "Floor plan: PDF or PNG, max. 2 MB\nOutside view: JPEG, max. 3 MB, landscape 4:3\nInside views: JPEG, max. 3 MB each",
    briefs: [
      { name: "Floor plan", clauses: { format: ["pdf", "png"], ...max("2MB") } },
      { name: "Outside view", clauses: { ...jpeg, ...max("3MB"), shape: "4:3" } },
      { name: "Inside views", clauses: { ...jpeg, ...max("3MB") } },
    ],
  },
];
