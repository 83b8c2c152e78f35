/** Written without running the reader, after the corrections that the eighth set led to. All invented. */
import { jpeg, kb, max, one, paper, pdf, png, px, type Wording, webp } from "./corpus";

const min = (px: number) => ({ min: px });

export const NINTH: Wording[] = [
  {
    text: "Item 1: Colour photograph. JPEG, 4 × 5 cm, 25 to 75 KB.\nItem 2: Signature. JPEG, 5 × 2 cm, 5 to 25 KB.",
    briefs: [
      { name: "Colour photograph", clauses: { ...jpeg, paper: paper("4cm", "5cm"), fileSize: kb(25, 75) } },
      { name: "Signature", clauses: { ...jpeg, paper: paper("5cm", "2cm"), fileSize: kb(5, 25) } },
    ],
  },
  {
    text: "Candidates must upload their photograph and signature. The photograph must be in JPG and have a size of 40 KB to 80 KB. The signature must be in JPG and have a size of 10 KB to 40 KB.",
    briefs: [
      { name: "Photograph", clauses: { ...jpeg, fileSize: kb(40, 80) } },
      { name: "Signature", clauses: { ...jpeg, fileSize: kb(10, 40) } },
    ],
  },
  {
    text: "Tenancy application\n• Payslip: PDF, up to 2 MB\n• Proof of identity: JPG or PDF, up to 4 MB\n• Reference letter: PDF, up to 2 MB",
    briefs: [
      { name: "Payslip", clauses: { ...pdf, ...max("2MB") } },
      { name: "Proof of identity", clauses: { format: ["jpeg", "pdf"], ...max("4MB") } },
      { name: "Reference letter", clauses: { ...pdf, ...max("2MB") } },
    ],
  },
  {
    text: "Small: 400 × 300, WebP, 40 KB at most\nLarge: 1600 × 1200, WebP, 260 KB at most",
    briefs: [
      { name: "Small", clauses: { ...px(400, 300), ...webp, ...max("40KB") } },
      { name: "Large", clauses: { ...px(1600, 1200), ...webp, ...max("260KB") } },
    ],
  },
  {
    text: "| | Portrait | Signature |\n| Format | JPG | PNG |\n| Width | 300 px | 400 px |\n| Height | 400 px | 150 px |\n| File size | 20-60 KB | 5-30 KB |",
    briefs: [
      { name: "Portrait", clauses: { ...jpeg, ...px(300, 400), fileSize: kb(20, 60) } },
      { name: "Signature", clauses: { ...png, ...px(400, 150), fileSize: kb(5, 30) } },
    ],
  },
  {
    text: "For exhibitors: your logo as PNG (transparent, 800 px wide), a stand photo as JPEG (1920 × 1080 px, max. 1 MB).",
    briefs: [
      { name: "Logo", clauses: { ...png, width: { exact: 800 } } },
      { name: "Stand photo", clauses: { ...jpeg, ...px(1920, 1080), ...max("1MB") } },
    ],
  },
  {
    text: "Please keep every picture below 900 KB. Longest side no more than 1500 px. PNG is not accepted; send JPEG. Orders placed before noon ship the same day, 4.90 for postage.",
    briefs: one({ ...max("900KB"), longSide: { max: 1500 }, ...jpeg }),
  },
  {
    text: "The file is to be a TIFF of 16 bit in ProPhoto or sRGB, at least 5000 px on the long side, no sharpening applied.",
    briefs: one({ format: ["tiff"], colour: { bits: 16, space: "srgb" }, longSide: min(5000) }),
  },
  {
    text: "Portrait: 35x45mm, 300dpi, jpeg, 50kb-150kb, head height 32-36mm\nSpouse portrait: 35x45mm, 300dpi, jpeg, 50kb-150kb, head height 32-36mm",
    briefs: [
      {
        name: "Portrait",
        clauses: {
          paper: paper("35mm", "45mm"),
          resolution: { exact: "300ppi" },
          ...jpeg,
          fileSize: kb(50, 150),
          head: { height: { min: "32mm", max: "36mm" } },
        },
      },
      {
        name: "Spouse portrait",
        clauses: {
          paper: paper("35mm", "45mm"),
          resolution: { exact: "300ppi" },
          ...jpeg,
          fileSize: kb(50, 150),
          head: { height: { min: "32mm", max: "36mm" } },
        },
      },
    ],
  },
  {
    text: "Mails above 18 MB (whole message) bounce. Each photo may have at most 2 MB.",
    briefs: one({ total: { max: "18MB", counted: "mail" }, ...max("2MB") }),
  },
  {
    text: "1st picture: front of the house, 3:2, JPEG\n2nd picture: garden, 3:2, JPEG\nBoth at least 2000 px wide and below 6 MB",
    briefs: [
      { name: "1st picture", clauses: { shape: "3:2", ...jpeg, width: min(2000), ...max("6MB") } },
      { name: "2nd picture", clauses: { shape: "3:2", ...jpeg, width: min(2000), ...max("6MB") } },
    ],
  },
  {
    text: "Picture size 800*800 pixels minimum, white background, jpg/png, less than 3MB. No text, no logo, no border.",
    briefs: one({
      width: min(800),
      height: min(800),
      background: "#ffffff",
      format: ["jpeg", "png"],
      ...max("3MB"),
    }),
  },
  {
    text: "The competition closes on 31 October. Entry fee 15 per image. Digital files: JPEG, 1920 pixels horizontally, 1200 pixels vertically at the most, sRGB, 2 MB at the most.",
    briefs: one({
      ...jpeg,
      width: { max: 1920 },
      height: { max: 1200 },
      colour: { space: "srgb" },
      ...max("2MB"),
    }),
  },
  {
    text: "Your passport page must be scanned in colour at 300 dpi and saved as a PDF not bigger than 1.5 MB. Your photograph must be saved as a JPEG not bigger than 250 KB.",
    briefs: [
      { name: "Passport page", clauses: { resolution: { exact: "300ppi" }, ...pdf, ...max("1.5MB") } },
      { name: "Photograph", clauses: { ...jpeg, ...max("250KB") } },
    ],
  },
  {
    text: "WHAT WE NEED\nCover photo\nJPEG, 2500 x 1000 px, max 2 MB\nProfile photo\nJPEG, 600 x 600 px, max 500 KB",
    briefs: [
      { name: "Cover photo", clauses: { ...jpeg, ...px(2500, 1000), ...max("2MB") } },
      { name: "Profile photo", clauses: { ...jpeg, ...px(600, 600), ...max("500KB") } },
    ],
  },
  {
    text: "All plates: 178 mm wide, no higher than 240 mm, 400 dpi, CMYK, TIFF or PDF.",
    briefs: one({
      paper: { width: "178mm" },
      resolution: { exact: "400ppi" },
      colour: { space: "cmyk" },
      format: ["tiff", "pdf"],
    }),
  },
  {
    text: "Send us your picture (JPEG; 1–3 MB; at least 2000 px wide).",
    briefs: one({ ...jpeg, fileSize: { min: "1MB", max: "3MB" }, width: min(2000) }),
  },
  {
    text: "Photo dimension: 200 x 230 pixels\nPhoto size: 20 kb to 50 kb\nSignature dimension: 140 x 60 pixels\nSignature size: 10 kb to 20 kb\nBoth in jpg",
    briefs: [
      { name: "Photo", clauses: { ...px(200, 230), fileSize: kb(20, 50), ...jpeg } },
      { name: "Signature", clauses: { ...px(140, 60), fileSize: kb(10, 20), ...jpeg } },
    ],
  },
  {
    text: "Resize the image to fit within 1280 x 1280, save it as a progressive JPEG, and strip all EXIF data.",
    briefs: one({ box: { width: 1280, height: 1280 }, ...jpeg, metadata: "none" }),
  },
  {
    text: "Label: 62 mm × 29 mm at 300 dpi, black and white, PNG. Poster: 297 × 420 mm at 200 dpi, PDF.",
    briefs: [
      {
        name: "Label",
        clauses: {
          paper: paper("62mm", "29mm"),
          resolution: { exact: "300ppi" },
          colour: { space: "gray" },
          ...png,
        },
      },
      {
        name: "Poster",
        clauses: { paper: paper("297mm", "420mm"), resolution: { exact: "200ppi" }, ...pdf },
      },
    ],
  },
  {
    text: "Dos and don'ts: keep hair off the face, no shadows, neutral expression. The digital image has to be at least 600 pixels wide and 750 pixels tall, at least 50KB and no more than 10MB.",
    briefs: one({ width: min(600), height: min(750), fileSize: { min: "50KB", max: "10MB" } }),
  },
  {
    text: "Attach the following: (1) photo of meter, JPG, max 1 MB; (2) copy of last bill, PDF, max 2 MB; (3) signed form, PDF, max 2 MB.",
    briefs: [
      { name: "Photo of meter", clauses: { ...jpeg, ...max("1MB") } },
      { name: "Copy of last bill", clauses: { ...pdf, ...max("2MB") } },
      { name: "Signed form", clauses: { ...pdf, ...max("2MB") } },
    ],
  },
  {
    text: "Size of file: from 10 to 200 KB. Type of file: JPG. Size of picture: from 240 × 320 to 480 × 640 px.",
    briefs: one({
      fileSize: kb(10, 200),
      ...jpeg,
      width: { min: 240, max: 480 },
      height: { min: 320, max: 640 },
    }),
  },
  {
    text: "The photo must be recent, must be in colour, must not be edited, must be 5 cm × 5 cm, must be saved as jpg and must weigh no less than 20 and no more than 300 KB.",
    briefs: one({ paper: paper("5cm", "5cm"), ...jpeg, fileSize: kb(20, 300) }),
  },
  {
    text: "Screens in the foyer show 2160 × 3840 px, upright. Slides must be of this size, PNG or JPEG, at most 8 MB each.",
    briefs: one({ format: ["png", "jpeg"], ...max("8MB") }),
  },
  {
    text: "Preferred: 3000 px long side. Required: at least 1800 px long side, JPEG.",
    briefs: [{ clauses: { longSide: min(1800), ...jpeg } }],
  },
  {
    text: "Annex 1 – Site photos (JPEG, long side 1600 px, together at most 15 MB)\nAnnex 2 – Drawings (PDF, A1, at most 10 MB each)",
    briefs: [
      { name: "Site photos", clauses: { ...jpeg, longSide: { exact: 1600 }, total: { max: "15MB" } } },
      {
        name: "Drawings",
        clauses: { ...pdf, paper: paper("594mm", "841mm"), ...max("10MB"), total: { max: "15MB" } },
      },
    ],
  },
  {
    text: "No attachments over 12 MB, please: our server sends them back.",
    briefs: one({ fileSize: { max: "12MB" } }),
  },
  {
    text: "Vendor images: JPEG, RGB, 2000x2000, 72dpi, 100% quality, #FFFFFF background, product fills 85% of the frame.",
    briefs: one({
      ...jpeg,
      ...px(2000, 2000),
      resolution: { exact: "72ppi" },
      quality: { min: 100, max: 100 },
      background: "#ffffff",
    }),
  },
  {
    text: "Document scans: 200 dpi, greyscale, PDF, below 1 MB. Photo: 600 dpi, colour, JPEG, below 3 MB.",
    briefs: [
      {
        name: "Document scans",
        clauses: { resolution: { exact: "200ppi" }, colour: { space: "gray" }, ...pdf, ...max("1MB") },
      },
      { name: "Photo", clauses: { resolution: { exact: "600ppi" }, ...jpeg, ...max("3MB") } },
    ],
  },
  {
    text: "It is recommended to upload a picture of 1200 × 630 pixels. The minimum is 600 × 315 pixels. Up to 5 MB.",
    briefs: [{ clauses: { width: min(600), height: min(315), ...max("5MB") } }],
  },
  {
    text: "Upload a scanned image of your signature in black ink. Width 6 cm, height 2 cm. JPEG. Not exceeding 40 KB.",
    briefs: one({ ink: "black", paper: { width: "6cm", height: "2cm" }, ...jpeg, ...max("40KB") }),
  },
  {
    text: "Please bring 2 printed photos (35 × 45 mm) and upload 1 digital photo (JPEG, 826 × 1062 px, up to 1 MB).",
    briefs: [
      { name: "Printed photos", clauses: { paper: paper("35mm", "45mm") } },
      { name: "Digital photo", clauses: { ...jpeg, ...px(826, 1062), ...max("1MB") } },
    ],
  },
  {
    text: "icon 64x64 png | tile 256x256 png | splash 1080x1920 jpg, all under 500k",
    briefs: [
      { name: "Icon", clauses: { ...px(64, 64), ...png, ...max("500KB") } },
      { name: "Tile", clauses: { ...px(256, 256), ...png, ...max("500KB") } },
      { name: "Splash", clauses: { ...px(1080, 1920), ...jpeg, ...max("500KB") } },
    ],
  },
  {
    text: "We do not need high resolution: 150 ppi at A5 is enough. JPEG, quality about 80.",
    briefs: one({ ...jpeg }),
  },
  {
    text: "Thank you for registering. Your place is confirmed for 14:00, room 300. Bring photo identification.",
    briefs: [],
  },
];
