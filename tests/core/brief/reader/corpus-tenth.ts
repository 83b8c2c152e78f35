/** Written without running the reader, after the corrections that the ninth set led to. All invented. */
import { at, jpeg, kb, max, one, paper, pdf, png, px, tiff, type Wording, webp } from "./corpus";

export const TENTH: Wording[] = [
  {
    text: "Visa form, part C\nPhotograph of the applicant: 413 × 531 px, JPEG, at most 240 KB\nScan of the passport: PDF, at most 900 KB\nLetter of invitation: PDF, at most 900 KB",
    briefs: [
      { name: "Photograph of the applicant", clauses: { ...px(413, 531), ...jpeg, ...max("240KB") } },
      { name: "Scan of the passport", clauses: { ...pdf, ...max("900KB") } },
      { name: "Letter of invitation", clauses: { ...pdf, ...max("900KB") } },
    ],
  },
  {
    text: "For the exhibition we would like an overall view (JPEG, at least 2500 px wide) and a detail view (JPEG, at least 1500 px wide) of each object.",
    briefs: [
      { name: "Overall view", clauses: { ...jpeg, width: { min: 2500 } } },
      { name: "Detail view", clauses: { ...jpeg, width: { min: 1500 } } },
    ],
  },
  {
    text: "The photo of your child: JPG, upright, 3:4, not over 2 MB. The birth certificate: PDF, not over 5 MB.",
    briefs: [
      { name: "Photo of your child", clauses: { ...jpeg, shape: "3:4", ...max("2MB") } },
      { name: "Birth certificate", clauses: { ...pdf, ...max("5MB") } },
    ],
  },
  {
    text: "Type\tMin\tMax\nPhoto\t20 KB\t50 KB\nSignature\t10 KB\t20 KB",
    briefs: [
      { name: "Photo", clauses: { fileSize: kb(20, 50) } },
      { name: "Signature", clauses: { fileSize: kb(10, 20) } },
    ],
  },
  {
    text: "Image uploads: JPEG/PNG only. Maximum dimensions 2400 × 2400. Maximum weight 4 MB.",
    briefs: one({ format: ["jpeg", "png"], width: { max: 2400 }, height: { max: 2400 }, ...max("4MB") }),
  },
  {
    text: "Section A. Applicant's photo\nThe file must be JPEG and no bigger than 300 KB.\nSection B. Applicant's signature\nThe file must be PNG and no bigger than 60 KB.",
    briefs: [
      { name: "Applicant's photo", clauses: { ...jpeg, ...max("300KB") } },
      { name: "Applicant's signature", clauses: { ...png, ...max("60KB") } },
    ],
  },
  {
    text: "Good day. We received your files but for the catalogue we need them again, please: 300 dpi, 120 mm wide, TIFF, no layers. The deadline is 3 September, 18:00.",
    briefs: one({ ...at(300), paper: { width: "120mm" }, ...tiff, layers: "flatten" }),
  },
  {
    text: "Business card: 85 × 55 mm, 300 dpi, PDF, CMYK\nLetterhead: 210 × 297 mm, 300 dpi, PDF, CMYK\nWeb logo: 400 px wide, PNG, sRGB",
    briefs: [
      {
        name: "Business card",
        clauses: { paper: paper("85mm", "55mm"), ...at(300), ...pdf, colour: { space: "cmyk" } },
      },
      {
        name: "Letterhead",
        clauses: { paper: paper("210mm", "297mm"), ...at(300), ...pdf, colour: { space: "cmyk" } },
      },
      { name: "Web logo", clauses: { width: { exact: 400 }, ...png, colour: { space: "srgb" } } },
    ],
  },
  {
    text: "pls send pic in jpg, not more than 1 mb, width should be 1000 px",
    briefs: one({ ...jpeg, ...max("1MB"), width: { exact: 1000 } }),
  },
  {
    text: "(1) Photographs are taken in daylight. (2) They are JPEG files with a long side of 2000 to 4000 px. (3) They are between 500 KB and 5 MB in size. (4) They keep their original names.",
    briefs: one({
      ...jpeg,
      longSide: { min: 2000, max: 4000 },
      fileSize: { min: "500KB", max: "5MB" },
      names: "{name}",
    }),
  },
  {
    text: "Main image – 1:1, 1500 px, white background, JPEG\nLifestyle image – 4:5, 1500 px on the long side, JPEG\nDetail image – 1:1, 1000 px on the long side, JPEG",
    briefs: [
      { name: "Main image", clauses: { shape: "1:1", background: "#ffffff", ...jpeg } },
      { name: "Lifestyle image", clauses: { shape: "4:5", longSide: { exact: 1500 }, ...jpeg } },
      { name: "Detail image", clauses: { shape: "1:1", longSide: { exact: 1000 }, ...jpeg } },
    ],
  },
  {
    text: "Send the pictures by e-mail. The mail must not be larger than 9 MB altogether, or it will be lost.",
    briefs: one({ total: { max: "9MB", counted: "mail" } }),
  },
  {
    text: "Fingerprint cards are scanned at 500 ppi with 8 bits of grey and saved as PNG.",
    briefs: one({ resolution: { exact: "500ppi" }, ...png, colour: { bits: 8 } }),
  },
  {
    text: "Application photo\n\nFile format: JPG\nMinimum size: 300 x 400 pixels\nMaximum size: 900 x 1200 pixels\nMaximum file size: 1 MB",
    briefs: one({
      ...jpeg,
      width: { min: 300, max: 900 },
      height: { min: 400, max: 1200 },
      ...max("1MB"),
    }),
  },
  {
    text: "Do not send photos wider than 2500 px or heavier than 3 MB. Do not send PNG. Do send JPEG.",
    briefs: one({ width: { max: 2500 }, ...max("3MB"), ...jpeg }),
  },
  {
    text: "Header picture: 2:1, WebP, 1200 px wide\nAuthor portrait: 1:1, WebP, 300 px wide\nEvery file: under 100 KB",
    briefs: [
      { name: "Header picture", clauses: { shape: "2:1", ...webp, width: { exact: 1200 }, ...max("100KB") } },
      { name: "Author portrait", clauses: { shape: "1:1", ...webp, width: { exact: 300 }, ...max("100KB") } },
    ],
  },
  {
    text: "Files: one PDF per chapter; figures as TIFF with 600 dpi, photographs as TIFF with 300 dpi.",
    briefs: [
      { name: "Figures", clauses: { ...tiff, ...at(600) } },
      { name: "Photographs", clauses: { ...tiff, ...at(300) } },
    ],
  },
  {
    text: "You can upload up to ten images. Each image can be up to 8 MB. Accepted are .jpg, .jpeg, .png and .webp.",
    briefs: one({ ...max("8MB"), format: ["jpeg", "png", "webp"] }),
  },
  {
    text: "Photo ID (front and back in one file): JPG or PDF, 100 KB – 2 MB. Bank statement (last three months): PDF, up to 5 MB.",
    briefs: [
      { name: "Photo ID", clauses: { format: ["jpeg", "pdf"], fileSize: { min: "100KB", max: "2MB" } } },
      { name: "Bank statement", clauses: { ...pdf, ...max("5MB") } },
    ],
  },
  {
    text: "The passport photo measures 35 mm by 45 mm. The head has a height of 31 to 36 mm. The resolution is at least 600 dpi. The file is a JPEG.",
    briefs: one({
      paper: paper("35mm", "45mm"),
      head: { height: { min: "31mm", max: "36mm" } },
      resolution: { min: "600ppi" },
      ...jpeg,
    }),
  },
  {
    text: "Please mind: no screenshots, no filters, no frames. 1080 x 1350 px, 30 MB max.",
    briefs: one({ ...px(1080, 1350), ...max("30MB") }),
  },
  {
    text: "Advertisement 1/1 page: 216 × 303 mm incl. bleed, 350 dpi. Advertisement 1/2 page: 216 × 154 mm incl. bleed, 350 dpi. Data format for both: PDF.",
    briefs: [
      { name: "Advertisement 1/1 page", clauses: { paper: paper("216mm", "303mm"), ...at(350), ...pdf } },
      { name: "Advertisement 1/2 page", clauses: { paper: paper("216mm", "154mm"), ...at(350), ...pdf } },
    ],
  },
  {
    text: "Weather station log: send one picture a day, 1280 x 720, JPEG, smaller than 200 KB, to the address below.",
    briefs: one({ ...px(1280, 720), ...jpeg, ...max("200KB") }),
  },
  {
    text: "Every upload needs a picture (PNG or JPEG, 500 KB at most) and a document (PDF, 1 MB at most).",
    briefs: [
      { name: "Picture", clauses: { format: ["png", "jpeg"], ...max("500KB") } },
      { name: "Document", clauses: { ...pdf, ...max("1MB") } },
    ],
  },
  {
    text: "Recommended picture size: 1200 px × 675 px. File size limit: 5 MB. Formats: JPG, PNG, WEBP, GIF (not animated).",
    briefs: [
      {
        clauses: {
          ...px(1200, 675),
          ...max("5MB"),
          format: ["jpeg", "png", "webp", "gif"],
          frames: "first",
        },
        wishes: ["width", "height"],
      },
    ],
  },
  {
    text: "Specimens: photograph each from above and from the side. Long side 4000 px. TIFF, 16 bit, with the profile embedded. Do not sharpen.",
    briefs: one({ longSide: { exact: 4000 }, ...tiff, colour: { bits: 16, profile: "embed" } }),
  },
  {
    text: "Photo should be of 200 x 230 pixels and 20kb–50kb; signature of 140 x 60 pixels and 10kb–20kb; left thumb of 240 x 240 pixels and 20kb–50kb.",
    briefs: [
      { name: "Photo", clauses: { ...px(200, 230), fileSize: kb(20, 50) } },
      { name: "Signature", clauses: { ...px(140, 60), fileSize: kb(10, 20) } },
      { name: "Left thumb", clauses: { ...px(240, 240), fileSize: kb(20, 50) } },
    ],
  },
  {
    text: "Please upload a photo of the front (JPEG, max. 3 MB), a photo of the back (JPEG, max. 3 MB) and the receipt (PDF, max. 1 MB).",
    briefs: [
      { name: "Photo of the front", clauses: { ...jpeg, ...max("3MB") } },
      { name: "Photo of the back", clauses: { ...jpeg, ...max("3MB") } },
      { name: "Receipt", clauses: { ...pdf, ...max("1MB") } },
    ],
  },
  {
    text: "Our display is 7680 px wide and 1080 px high. Pictures for it: same pixels, PNG, no more than 20 MB.",
    briefs: one({ ...png, ...max("20MB") }),
  },
  {
    text: "Opening hours 10–18. Admission 8.00, reduced 5.00. Groups of 10 to 25 pay 60.00.",
    briefs: [],
  },
  {
    text: "For web: 72 ppi, RGB, JPEG, max 1 MB. For print: 300 ppi, CMYK, TIFF, no limit of size.",
    briefs: [
      { name: "Web", clauses: { ...at(72), ...jpeg, ...max("1MB") } },
      { name: "Print", clauses: { ...at(300), colour: { space: "cmyk" }, ...tiff } },
    ],
  },
  {
    text: "The picture's shorter side must not be under 1080 px, its file not over 15 MB; png, jpg and tif are fine.",
    briefs: one({ shortSide: { min: 1080 }, ...max("15MB"), format: ["png", "jpeg", "tiff"] }),
  },
  {
    text: "Signature: sign on white paper with black pen, scan at 200 dpi, crop to 50 × 20 mm, save as JPG of 10 to 40 KB.\nDeclaration: write by hand in black pen, scan at 200 dpi, crop to 100 × 50 mm, save as JPG of 50 to 100 KB.",
    briefs: [
      {
        name: "Signature",
        clauses: {
          ink: "black",
          ...at(200),
          paper: paper("50mm", "20mm"),
          frame: "fill",
          ...jpeg,
          fileSize: kb(10, 40),
        },
      },
      {
        name: "Declaration",
        clauses: {
          ink: "black",
          ...at(200),
          paper: paper("100mm", "50mm"),
          frame: "fill",
          ...jpeg,
          fileSize: kb(50, 100),
        },
      },
    ],
  },
];
