/** Written without running the reader, after the corrections that the nineteenth set led to. All invented. */
import { at, jpeg, kb, max, one, paper, pdf, png, px, tiff, type Wording, webp } from "./corpus";

export const TWENTIETH: Wording[] = [
  {
    text: "Documents to be uploaded\n1. Recent colour photograph (JPG, 20 KB to 50 KB, 200 × 230 px)\n2. Signature (JPG, 10 KB to 20 KB, 140 × 60 px)\n3. Left thumb impression (JPG, 20 KB to 50 KB, 240 × 240 px)\n4. Handwritten declaration (JPG, 50 KB to 100 KB, 800 × 400 px)",
    briefs: [
      { name: "Recent colour photograph", clauses: { ...jpeg, fileSize: kb(20, 50), ...px(200, 230) } },
      { name: "Signature", clauses: { ...jpeg, fileSize: kb(10, 20), ...px(140, 60) } },
      { name: "Left thumb impression", clauses: { ...jpeg, fileSize: kb(20, 50), ...px(240, 240) } },
      { name: "Handwritten declaration", clauses: { ...jpeg, fileSize: kb(50, 100), ...px(800, 400) } },
    ],
  },
  {
    text: "Please send your portrait for the staff page as a JPEG of 600 by 800 pixels. It should not be larger than 250 KB.",
    briefs: one({ ...jpeg, ...px(600, 800), ...max("250KB") }),
  },
  {
    text: "The gallery needs two files of each work: a TIFF of at least 4000 px on the longest side for the catalogue, and a JPEG of 1500 px on the longest side, under 500 KB, for the web page.",
    briefs: [
      { name: "Catalogue", clauses: { ...tiff, longSide: { min: 4000 } } },
      { name: "Web page", clauses: { ...jpeg, longSide: { exact: 1500 }, ...max("500KB") } },
    ],
  },
  {
    text: "Error 413: the request is too large. Attachments may have up to 10 MB in total.",
    briefs: one({ total: { max: "10MB" } }),
  },
  {
    text: "| Item | Format | Pixels | Limit |\n|---|---|---|---|\n| Cover | JPEG | 1600 × 2400 | 2 MB |\n| Back | JPEG | 1600 × 2400 | 2 MB |\n| Author | PNG | 500 × 500 | 300 KB |",
    briefs: [
      { name: "Cover", clauses: { ...jpeg, ...px(1600, 2400), ...max("2MB") } },
      { name: "Back", clauses: { ...jpeg, ...px(1600, 2400), ...max("2MB") } },
      { name: "Author", clauses: { ...png, ...px(500, 500), ...max("300KB") } },
    ],
  },
  {
    text: "For the annual report we need your picture in print quality: 300 dpi at 10 × 15 cm, JPEG or TIFF, sRGB.",
    briefs: one({
      ...at(300),
      paper: paper("10cm", "15cm"),
      format: ["jpeg", "tiff"],
      colour: { space: "srgb" },
    }),
  },
  {
    text: "Passport scan: PDF, max 1 MB. Photo: JPG, 35 × 45 mm at 600 dpi, max 500 KB. Both must be in colour.",
    briefs: [
      { name: "Passport scan", clauses: { ...pdf, ...max("1MB") } },
      { name: "Photo", clauses: { ...jpeg, paper: paper("35mm", "45mm"), ...at(600), ...max("500KB") } },
    ],
  },
  {
    text: "Shop pictures: square, white background, at least 1000 × 1000 px, JPG or PNG, not over 5 MB, no watermarks.",
    briefs: one({
      shape: "1:1",
      background: "#ffffff",
      width: { min: 1000 },
      height: { min: 1000 },
      format: ["jpeg", "png"],
      ...max("5MB"),
    }),
  },
  {
    text: "Submit: (i) a head-and-shoulders photograph in JPEG, 40–90 KB; (ii) your signature in JPEG, 5–20 KB; (iii) degree certificate in PDF, not exceeding 400 KB.",
    briefs: [
      { name: "Head-and-shoulders photograph", clauses: { ...jpeg, fileSize: kb(40, 90) } },
      { name: "Signature", clauses: { ...jpeg, fileSize: kb(5, 20) } },
      { name: "Degree certificate", clauses: { ...pdf, ...max("400KB") } },
    ],
  },
  {
    text: "Our office is open from 9 to 17 o'clock. The fee of 120 is payable in cash. Bring two photos.",
    briefs: [],
  },
  {
    text: "Photos of the damage (up to 6) can be attached as JPG or HEIC; each may have 8 MB at most.",
    briefs: one({ ...jpeg, ...max("8MB") }),
  },
  {
    text: "What size should my picture be?\nAt least 1200 pixels wide and no more than 3000.\nWhich formats do you take?\nJPEG and PNG.\nIs there a size limit?\nYes, 4 MB.",
    briefs: one({ width: { min: 1200, max: 3000 }, format: ["jpeg", "png"], ...max("4MB") }),
  },
  {
    text: "Logo – vector or PNG with transparent ground, 2000 px wide\nTeam photo – JPEG, 3000 px wide, up to 6 MB",
    briefs: [
      { name: "Logo", clauses: { ...png, width: { exact: 2000 } } },
      { name: "Team photo", clauses: { ...jpeg, width: { exact: 3000 }, ...max("6MB") } },
    ],
  },
  {
    text: "The file name must not contain spaces. Use only JPEG. The longer side must have exactly 2048 pixels.",
    briefs: one({ ...jpeg, longSide: { exact: 2048 } }),
  },
  {
    text: "Scan all pages in grey at 200 dpi and put them into one PDF of not more than 3 MB.",
    briefs: one({ colour: { space: "gray" }, ...at(200), ...pdf, ...max("3MB") }),
  },
  {
    text: "A. Certificate of birth: PDF or JPG, max. 700 KB\nB. Proof of address: PDF or JPG, max. 700 KB\nC. Portrait: JPG only, min. 30 KB, max. 100 KB, 3:4",
    briefs: [
      { name: "Certificate of birth", clauses: { format: ["pdf", "jpeg"], ...max("700KB") } },
      { name: "Proof of address", clauses: { format: ["pdf", "jpeg"], ...max("700KB") } },
      { name: "Portrait", clauses: { ...jpeg, fileSize: kb(30, 100), shape: "3:4" } },
    ],
  },
  {
    text: "Upload a profile image (jpg, png or webp, max 1 MB, at least 256 x 256 px).",
    briefs: one({
      format: ["jpeg", "png", "webp"],
      ...max("1MB"),
      width: { min: 256 },
      height: { min: 256 },
    }),
  },
  {
    text: "Competition rules\n§ 4 Entries shall be submitted as JPEG files in the sRGB colour space.\n§ 5 The long edge shall measure between 3000 and 6000 pixels.\n§ 6 No file shall exceed 15 MB.\n§ 7 The jury meets on 12 May.",
    briefs: one({
      ...jpeg,
      colour: { space: "srgb" },
      longSide: { min: 3000, max: 6000 },
      ...max("15MB"),
    }),
  },
  {
    text: "Photograph must be 2 inch × 2 inch, 300 dpi, jpg; file size between 54 kb and 10 mb",
    briefs: one({
      paper: paper("2in", "2in"),
      ...at(300),
      ...jpeg,
      fileSize: { min: "54KB", max: "10MB" },
    }),
  },
  {
    text: "Slides: 1920 × 1080 px, JPEG, quality 85\nHandout: A4, 150 dpi, PDF, under 5 MB",
    briefs: [
      { name: "Slides", clauses: { ...px(1920, 1080), ...jpeg, quality: { min: 85, max: 85 } } },
      { name: "Handout", clauses: { paper: paper("210mm", "297mm"), ...at(150), ...pdf, ...max("5MB") } },
    ],
  },
  {
    text: "Your picture was refused: 1.8 MB. Pictures can have 1 MB at most.",
    briefs: one(max("1MB")),
  },
  {
    text: "Dear author, figures are to be delivered as separate TIFF files, width 84 mm (one column) or 174 mm (two columns), 600 dpi for line art.",
    briefs: one({ ...tiff, ...at(600) }),
  },
  {
    text: "All images: WebP, quality 75 to 85. Teaser images are 640 px wide and may weigh 60 KB. Full images are 1600 px wide and may weigh 250 KB.",
    briefs: [
      {
        name: "Teaser images",
        clauses: { ...webp, quality: { min: 75, max: 85 }, width: { exact: 640 }, ...max("60KB") },
      },
      {
        name: "Full images",
        clauses: { ...webp, quality: { min: 75, max: 85 }, width: { exact: 1600 }, ...max("250KB") },
      },
    ],
  },
  {
    text: "Foto's: minimum 1500 px breed. Please note: only JPG, 2 MB max.",
    briefs: one({ width: { min: 1500 }, ...jpeg, ...max("2MB") }),
  },
  {
    text: "ID front – JPG – 500 KB\nID back – JPG – 500 KB\nSelfie with ID – JPG – 1 MB",
    briefs: [
      { name: "ID front", clauses: { ...jpeg, ...max("500KB") } },
      { name: "ID back", clauses: { ...jpeg, ...max("500KB") } },
      { name: "Selfie with ID", clauses: { ...jpeg, ...max("1MB") } },
    ],
  },
  {
    text: "The stamp motif is printed 33 × 40 mm. We need it at 1200 dpi, 16 bit, TIFF without compression, Adobe RGB.",
    briefs: one({
      paper: paper("33mm", "40mm"),
      ...at(1200),
      ...tiff,
      colour: { bits: 16 },
    }),
  },
  {
    text: "Upload photo, signature and certificate.\nPhoto: dimensions 160 x 200 px; size 15 kb – 40 kb.\nSignature: dimensions 256 x 64 px; size 4 kb – 15 kb.\nCertificate: size below 300 kb.\nAll files have to be JPG.",
    briefs: [
      { name: "Photo", clauses: { ...px(160, 200), fileSize: kb(15, 40), ...jpeg } },
      { name: "Signature", clauses: { ...px(256, 64), fileSize: kb(4, 15), ...jpeg } },
      { name: "Certificate", clauses: { ...max("300KB"), ...jpeg } },
    ],
  },
  {
    text: "Listing photos must be landscape, 4:3 and at least 1024 px wide. We accept JPG files up to 3 MB.",
    briefs: one({ shape: "4:3", width: { min: 1024 }, ...jpeg, ...max("3MB") }),
  },
  {
    text: "The message must stay under 7 MB with all attachments. Reduce photos to 1280 px before sending.",
    briefs: one({ total: { max: "7MB", counted: "mail" }, longSide: { max: 1280 } }),
  },
  {
    text: "Header: 1500 × 500 px. Avatar: 400 × 400 px. Both: JPG or PNG, 2 MB each.",
    briefs: [
      { name: "Header", clauses: { ...px(1500, 500), format: ["jpeg", "png"], ...max("2MB") } },
      { name: "Avatar", clauses: { ...px(400, 400), format: ["jpeg", "png"], ...max("2MB") } },
    ],
  },
  {
    text: "Photo: white ground, JPEG 4:4:4, 413 × 531 px, 300 ppi, maximum 100 kB, no metadata.",
    briefs: one({
      background: "#ffffff",
      ...jpeg,
      ...px(413, 531),
      ...at(300),
      fileSize: { max: "100kB" },
      metadata: "none",
    }),
  },
  {
    text: "Species record: one picture of the whole animal and one of its head. JPEG, at least 2 megapixels, up to 10 MB each.",
    briefs: one({ ...jpeg, ...max("10MB") }),
  },
  {
    text: "Poster: A2 at 200 dpi, PDF, CMYK. Flyer: A5 at 300 dpi, PDF, CMYK. Bleed 3 mm.",
    briefs: [
      {
        name: "Poster",
        clauses: { paper: paper("420mm", "594mm"), ...at(200), ...pdf, colour: { space: "cmyk" } },
      },
      {
        name: "Flyer",
        clauses: { paper: paper("148mm", "210mm"), ...at(300), ...pdf, colour: { space: "cmyk" } },
      },
    ],
  },
  {
    text: "file type jpg only, file size minimum 10 KB maximum 50 KB, image dimension 3.5 cm width 4.5 cm height",
    briefs: one({ ...jpeg, fileSize: kb(10, 50), paper: paper("3.5cm", "4.5cm") }),
  },
  {
    text: "The scan of your licence (front and back on one page) must be a PDF smaller than 900 KB.",
    briefs: one({ ...pdf, ...max("900KB") }),
  },
  {
    text: "Exhibits\n• Site plan – PDF, A3, max 4 MB\n• Photographs of the site – JPEG, 2000 px on the long side, max 1 MB each\n• Section drawing – PDF, A3, max 4 MB",
    briefs: [
      { name: "Site plan", clauses: { ...pdf, paper: paper("297mm", "420mm"), ...max("4MB") } },
      { name: "Photographs of the site", clauses: { ...jpeg, longSide: { exact: 2000 }, ...max("1MB") } },
      { name: "Section drawing", clauses: { ...pdf, paper: paper("297mm", "420mm"), ...max("4MB") } },
    ],
  },
  {
    text: "We cannot accept your image. Reason: resolution 72 dpi. Required: 300 dpi.",
    briefs: one(at(300)),
  },
  {
    text: "Wall calendar pictures: landscape, 3600 x 2400 px or more, JPEG at the highest quality.",
    briefs: one({ width: { min: 3600 }, height: { min: 2400 }, ...jpeg }),
  },
  {
    text: "Photo (mandatory): jpg, 100 KB max. Resume (mandatory): pdf, 2 MB max. Cover letter (optional): pdf, 1 MB max.",
    briefs: [
      { name: "Photo", clauses: { ...jpeg, ...max("100KB") } },
      { name: "Resume", clauses: { ...pdf, ...max("2MB") } },
      { name: "Cover letter", clauses: { ...pdf, ...max("1MB") } },
    ],
  },
  {
    text: "Newsletter pictures should be 1200 px wide, progressive JPEG, about 150 KB and never above 200 KB.",
    briefs: one({ width: { exact: 1200 }, ...jpeg, ...max("200KB") }),
  },
];
