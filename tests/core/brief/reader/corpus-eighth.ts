/** Written without running the reader, after the corrections that the seventh set led to. All invented. */
import { jpeg, kb, max, one, paper, pdf, png, px, type Wording } from "./corpus";

export const EIGHTH: Wording[] = [
  {
    text: "Documents to be uploaded: i. Recent photograph (JPG, 30 KB to 80 KB) ii. Full signature (JPG, 10 KB to 30 KB) iii. Left thumb impression (JPG, 20 KB to 50 KB)",
    briefs: [
      { name: "Recent photograph", clauses: { ...jpeg, fileSize: kb(30, 80) } },
      { name: "Full signature", clauses: { ...jpeg, fileSize: kb(10, 30) } },
      { name: "Left thumb impression", clauses: { ...jpeg, fileSize: kb(20, 50) } },
    ],
  },
  {
    text: "Passport photo\n35 x 45 mm\n600 dpi\nJPEG, not larger than 500 KB\n\nSignature\n60 x 20 mm\n600 dpi\nJPEG, not larger than 100 KB",
    briefs: [
      {
        name: "Passport photo",
        clauses: { paper: paper("35mm", "45mm"), resolution: { exact: "600ppi" }, ...jpeg, ...max("500KB") },
      },
      {
        name: "Signature",
        clauses: { paper: paper("60mm", "20mm"), resolution: { exact: "600ppi" }, ...jpeg, ...max("100KB") },
      },
    ],
  },
  {
    text: "What | Pixels | Format | Limit\nHero | 1920 x 800 | JPG | 350 KB\nTeaser | 800 x 600 | JPG | 120 KB\nIcon | 128 x 128 | PNG | 20 KB",
    briefs: [
      { name: "Hero", clauses: { ...px(1920, 800), ...jpeg, ...max("350KB") } },
      { name: "Teaser", clauses: { ...px(800, 600), ...jpeg, ...max("120KB") } },
      { name: "Icon", clauses: { ...px(128, 128), ...png, ...max("20KB") } },
    ],
  },
  {
    text: "The wedding gallery takes pictures with 3000 px on the longer side, sRGB, JPEG at 85 % quality. The slideshow takes pictures with 1920 px on the longer side, same format and quality.",
    briefs: [
      {
        name: "Wedding gallery",
        clauses: {
          longSide: { exact: 3000 },
          colour: { space: "srgb" },
          ...jpeg,
          quality: { min: 85, max: 85 },
        },
      },
      { name: "Slideshow", clauses: { longSide: { exact: 1920 } } },
    ],
  },
  {
    text: "Dear colleagues, the annual report goes to press on 14 August. I need one portrait of every head of department, in colour, 300 dpi at a width of 60 mm, as TIFF or JPEG. Please do not retouch. Thank you.",
    briefs: one({
      resolution: { exact: "300ppi" },
      paper: { width: "60mm" },
      format: ["tiff", "jpeg"],
    }),
  },
  {
    text: "upload ur photo max size 100 kb min size 50 kb height 400 px width 300 px only jpg",
    briefs: one({
      fileSize: { max: "100KB", min: "50KB" },
      height: { exact: 400 },
      width: { exact: 300 },
      ...jpeg,
    }),
  },
  {
    text: "Photos (a) must be taken against a white background, (b) must be 45 × 35 mm, and (c) must be in JPEG format between 40 KB and 100 KB.",
    briefs: one({ background: "#ffffff", paper: paper("45mm", "35mm"), ...jpeg, fileSize: kb(40, 100) }),
  },
  {
    text: "Insurance claim: photos of the damage, JPEG, at least 1600 × 1200 px, max. 5 MB each, max. 25 MB in total. Copy of the invoice, PDF, max. 3 MB.",
    briefs: [
      {
        name: "Photos of the damage",
        clauses: {
          ...jpeg,
          width: { min: 1600 },
          height: { min: 1200 },
          ...max("5MB"),
          total: { max: "25MB" },
        },
      },
      { name: "Copy of the invoice", clauses: { ...pdf, ...max("3MB"), total: { max: "25MB" } } },
    ],
  },
  {
    text: "Your headshot should be square (at least 800 x 800 pixels). We accept JPG and PNG up to 2 MB.",
    briefs: one({
      shape: "1:1",
      width: { min: 800 },
      height: { min: 800 },
      format: ["jpeg", "png"],
      ...max("2MB"),
    }),
  },
  {
    text: "Drone shots: no smaller than 12 megapixels, TIFF, 16 bit, Adobe RGB or ProPhoto. Preview of each: JPEG, 1024 px, sRGB.",
    briefs: [
      { name: "Drone shots", clauses: { format: ["tiff"], colour: { bits: 16 } } },
      { name: "Preview of each", clauses: { ...jpeg, colour: { space: "srgb" } } },
    ],
  },
  {
    text: "The maximum permitted size of a message is 20 MB including all attachments, as it is counted after encoding.",
    briefs: one({ total: { max: "20MB", counted: "mail" } }),
  },
  {
    text: "Banner (desktop): 1440 x 400 px\nBanner (mobile): 720 x 400 px\nBoth: WebP, max. 150 KB",
    briefs: [
      { name: "Banner (desktop)", clauses: { ...px(1440, 400), format: ["webp"], ...max("150KB") } },
      { name: "Banner (mobile)", clauses: { ...px(720, 400), format: ["webp"], ...max("150KB") } },
    ],
  },
  {
    text: "Files larger than 4 MB cannot be processed. Portrait orientation, 3:4, JPEG. The minimum resolution is 1200 pixels in width.",
    briefs: one({ ...max("4MB"), shape: "3:4", ...jpeg, width: { min: 1200 } }),
  },
  {
    text: "Scan both sides of the card on one page. The page should be A4, black and white, 300 dpi, and the PDF should not exceed 800 KB.",
    briefs: one({
      paper: paper("210mm", "297mm"),
      colour: { space: "gray" },
      resolution: { exact: "300ppi" },
      ...pdf,
      ...max("800KB"),
    }),
  },
  {
    text: "Frame size of our picture frames: 1024 × 600 px. Pictures that fit inside, either way up, JPEG, in all no more than 480 MB.",
    briefs: one({ box: { width: 1024, height: 600 }, ...jpeg, total: { max: "480MB" } }),
  },
  {
    text: "1) Photo of applicant\n- Format: JPEG\n- Dimensions: 276 x 354 px\n- Size: 20 KB - 60 KB\n2) Signature of applicant\n- Format: JPEG\n- Dimensions: 354 x 157 px\n- Size: 10 KB - 30 KB",
    briefs: [
      { name: "Photo of applicant", clauses: { ...jpeg, ...px(276, 354), fileSize: kb(20, 60) } },
      { name: "Signature of applicant", clauses: { ...jpeg, ...px(354, 157), fileSize: kb(10, 30) } },
    ],
  },
  {
    text: "Entries are limited to four images. Long edge 2400 pixels, 300 ppi, JPEG quality 10 or 12, sRGB, no borders, no watermarks.",
    briefs: one({ longSide: { exact: 2400 }, resolution: { exact: "300ppi" }, colour: { space: "srgb" } }),
  },
  {
    text: "Please submit the following.\n* Floor plan: PNG or PDF, at least 2000 px wide\n* Elevation: PNG or PDF, at least 2000 px wide\n* Photograph of the model: JPEG, 2500 px on the long edge, not over 3 MB",
    briefs: [
      { name: "Floor plan", clauses: { format: ["png", "pdf"], width: { min: 2000 } } },
      { name: "Elevation", clauses: { format: ["png", "pdf"], width: { min: 2000 } } },
      { name: "Photograph of the model", clauses: { ...jpeg, longSide: { exact: 2500 }, ...max("3MB") } },
    ],
  },
  {
    text: "Book cover: 1600 px (w) × 2560 px (h), RGB, JPEG, min. 300 KB, max. 5 MB.",
    briefs: one({ ...px(1600, 2560), ...jpeg, fileSize: { min: "300KB", max: "5MB" } }),
  },
  {
    text: "For publication we need figures at 600 dpi (line art) or 300 dpi (halftones), TIFF with LZW, single column 88 mm wide.",
    briefs: one({ format: ["tiff"], paper: { width: "88mm" } }),
  },
  {
    text: "Photograph: Height 4.5 cm, Width 3.5 cm, File size between 20KB to 50KB, Format .jpg or .jpeg\nSignature: Height 1.5 cm, Width 3.5 cm, File size between 10KB to 20KB, Format .jpg or .jpeg",
    briefs: [
      {
        name: "Photograph",
        clauses: { paper: { height: "4.5cm", width: "3.5cm" }, fileSize: kb(20, 50), ...jpeg },
      },
      {
        name: "Signature",
        clauses: { paper: { height: "1.5cm", width: "3.5cm" }, fileSize: kb(10, 20), ...jpeg },
      },
    ],
  },
  {
    text: "Only TIFF files are taken, with 16 bits per channel and an embedded profile. The shorter side has to have 3000 pixels at least.",
    briefs: one({ format: ["tiff"], colour: { bits: 16, profile: "embed" }, shortSide: { min: 3000 } }),
  },
  {
    text: "Pictures of the shop window are due every Friday: portrait format, 1080 by 1920 pixels, PNG, under 3 MB, file names unchanged.",
    briefs: one({ ...px(1080, 1920), ...png, ...max("3MB"), names: "{name}" }),
  },
  {
    text: "The herbarium wants a label scan (PNG, 600 dpi, 90 × 50 mm) and a plant picture (JPEG, 300 dpi, 210 × 297 mm) of each sheet.",
    briefs: [
      {
        name: "Label scan",
        clauses: { ...png, resolution: { exact: "600ppi" }, paper: paper("90mm", "50mm") },
      },
      {
        name: "Plant picture",
        clauses: { ...jpeg, resolution: { exact: "300ppi" }, paper: paper("210mm", "297mm") },
      },
    ],
  },
  {
    text: "Image requirements\nFile format | JPG\nColour | sRGB\nLong side | 2048 px\nFile size | max. 1.5 MB\nMetadata | none",
    briefs: one({
      ...jpeg,
      colour: { space: "srgb" },
      longSide: { exact: 2048 },
      ...max("1.5MB"),
      metadata: "none",
    }),
  },
  {
    text: "Kindly note that photo upto 2 mb and id proof upto 5 mb are allowed; photo in jpg, id proof in pdf.",
    // Two documents woven into one sentence: nothing is read rather than a mixture.
    briefs: [],
  },
  {
    text: "We print on matt paper of 170 g. Data as PDF, trim size 148 × 210 mm, images at no less than 250 dpi. Delivery within 5 days, price 89.00.",
    briefs: one({ ...pdf, paper: paper("148mm", "210mm"), resolution: { min: "250ppi" } }),
  },
  {
    text: "Uploads may have 8 MB at most; the picture needs 1500 px in width at the least; heic is not supported, jpeg is.",
    briefs: one({ ...max("8MB"), width: { min: 1500 }, ...jpeg }),
  },
  {
    text: "Room photos must be landscape (3:2), JPEG, 2400 × 1600 px. Logo must be PNG, 500 × 500 px. All files below 2 MB.",
    briefs: [
      { name: "Room photos", clauses: { shape: "3:2", ...jpeg, ...px(2400, 1600), ...max("2MB") } },
      { name: "Logo", clauses: { ...png, ...px(500, 500), ...max("2MB") } },
    ],
  },
  {
    text: "Attachment A (map): PDF, A3, at most 6 MB.\nAttachment B (photographs): JPEG, at most 1 MB each, 1800 px wide.",
    briefs: [
      { name: "Attachment A (map)", clauses: { ...pdf, paper: paper("297mm", "420mm"), ...max("6MB") } },
      { name: "Attachment B (photographs)", clauses: { ...jpeg, ...max("1MB"), width: { exact: 1800 } } },
    ],
  },
  {
    text: "Please make sure your photo is less than 1MB, at least 500px by 500px, and either a JPG, a PNG or a GIF.",
    briefs: one({ ...max("1MB"), width: { min: 500 }, height: { min: 500 }, format: ["jpeg", "png", "gif"] }),
  },
  {
    text: "Size 5 x 7 inches at 300 dpi, JPEG, borderless, colour.",
    briefs: one({ paper: paper("5in", "7in"), resolution: { exact: "300ppi" }, ...jpeg }),
  },
  {
    text: "Our office is open from 9 to 17. Applications by post only. Fee: 30.00.",
    briefs: [],
  },
  {
    text: "Thumbnail – 320 px wide, WebP, under 30 KB; medium – 960 px wide, WebP, under 120 KB; large – 1920 px wide, WebP, under 400 KB.",
    briefs: [
      { name: "Thumbnail", clauses: { width: { exact: 320 }, format: ["webp"], ...max("30KB") } },
      { name: "Medium", clauses: { width: { exact: 960 }, format: ["webp"], ...max("120KB") } },
      { name: "Large", clauses: { width: { exact: 1920 }, format: ["webp"], ...max("400KB") } },
    ],
  },
  {
    text: "The image of the bird shall not be cropped, shall not be upscaled, shall have its original metadata, and shall be sent as JPEG of 3 MB or less.",
    briefs: one({ frame: "whole", enlarge: "never", metadata: "keep", ...jpeg, ...max("3MB") }),
  },
  {
    text: "Signature in blue ink on plain white paper, scanned at 300 dpi, saved as PNG with 50 KB at most.",
    briefs: one({ ink: "original", resolution: { exact: "300ppi" }, ...png, ...max("50KB") }),
  },
  {
    text: "Front page: PDF\nInner pages: JPEG, 1240 × 1754 px\nNo file may be heavier than 700 KB.",
    briefs: [
      { name: "Front page", clauses: { ...pdf, ...max("700KB") } },
      { name: "Inner pages", clauses: { ...jpeg, ...px(1240, 1754), ...max("700KB") } },
    ],
  },
];
