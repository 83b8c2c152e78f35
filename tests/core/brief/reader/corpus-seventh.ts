/** Written before the reader was touched once more: trades of all kinds, most with several documents. All invented. */
import { jpeg, kb, max, one, paper, pdf, px, type Wording } from "./corpus";

export const SEVENTH: Wording[] = [
  {
    text: "1. Photograph – 3.5cm*4.5cm, 12 KB to 48 KB, JPG\n2. Signature – 4cm*2cm, 5 KB to 20 KB, JPG\n3. Thumb impression – 4cm*3cm, 8 KB to 30 KB, JPG",
    briefs: [
      { name: "Photograph", clauses: { paper: paper("3.5cm", "4.5cm"), fileSize: kb(12, 48), ...jpeg } },
      { name: "Signature", clauses: { paper: paper("4cm", "2cm"), fileSize: kb(5, 20), ...jpeg } },
      { name: "Thumb impression", clauses: { paper: paper("4cm", "3cm"), fileSize: kb(8, 30), ...jpeg } },
    ],
  },
  {
    text: "Please send (a) a portrait as JPG, at least 800 px wide; (b) a scan of your diploma, PDF, 200 dpi, not over 1 MB.",
    briefs: [
      { name: "Portrait", clauses: { ...jpeg, width: { min: 800 } } },
      { name: "Scan of your diploma", clauses: { ...pdf, resolution: { exact: "200ppi" }, ...max("1MB") } },
    ],
  },
  {
    text: "- ID card, front: JPEG or PNG, max. 2 MB\n- ID card, back: JPEG or PNG, max. 2 MB\n- Selfie: JPEG, max. 1 MB, at least 600 px on the short side",
    briefs: [
      { name: "ID card, front", clauses: { format: ["jpeg", "png"], ...max("2MB") } },
      { name: "ID card, back", clauses: { format: ["jpeg", "png"], ...max("2MB") } },
      { name: "Selfie", clauses: { ...jpeg, ...max("1MB"), shortSide: { min: 600 } } },
    ],
  },
  {
    text: "Document | Format | Size\nPortrait | JPG | 20-50 KB\nSignature | JPG | 10-20 KB\nCertificate | PDF | up to 300 KB",
    briefs: [
      { name: "Portrait", clauses: { ...jpeg, fileSize: kb(20, 50) } },
      { name: "Signature", clauses: { ...jpeg, fileSize: kb(10, 20) } },
      { name: "Certificate", clauses: { ...pdf, ...max("300KB") } },
    ],
  },
  {
    text: "Size | Document | Type\n20-50 KB | Portrait | JPG\nas above | Signature | JPG\nup to 300 KB | Certificate | PDF",
    briefs: [
      { name: "Portrait", clauses: { fileSize: kb(20, 50), ...jpeg } },
      { name: "Signature", clauses: { fileSize: kb(20, 50), ...jpeg } },
      { name: "Certificate", clauses: { ...max("300KB"), ...pdf } },
    ],
  },
  {
    text: "The quarterly herd report must reach the dairy board by 4 March. Attach two pictures of each cow: one of the left side, one of the udder. Pictures shall be JPEG of minimum 1200 × 900 pixels; the fee of 12.50 is due on arrival.",
    briefs: one({ ...jpeg, width: { min: 1200 }, height: { min: 900 } }),
  },
  {
    text: "Detail pictures must have 2000 px on the long side. Overview pictures must have 3000 px on the long side. Both in JPEG, quality 90 or better.",
    briefs: [
      { name: "Detail pictures", clauses: { longSide: { exact: 2000 }, ...jpeg, quality: { min: 90 } } },
      { name: "Overview pictures", clauses: { longSide: { exact: 3000 }, ...jpeg, quality: { min: 90 } } },
    ],
  },
  {
    text: "Web file: JPEG, 1200 px wide, no larger than 250 KB.\nPrint file (winners only): TIFF, CMYK, 300 dpi, 210 × 297 mm.",
    briefs: [
      { name: "Web file", clauses: { ...jpeg, width: { exact: 1200 }, ...max("250KB") } },
      {
        name: "Print file (winners only)",
        clauses: {
          format: ["tiff"],
          colour: { space: "cmyk" },
          resolution: { exact: "300ppi" },
          paper: paper("210mm", "297mm"),
        },
      },
    ],
  },
  {
    text: "Q: What size should the photo be?\nA: 413 × 531 pixels.\nQ: Which format?\nA: JPEG only.\nQ: How large may the file be?\nA: Not more than 240 KB.",
    briefs: one({ ...px(413, 531), ...jpeg, ...max("240KB") }),
  },
  {
    text: "§ 4 (1) The applicant shall enclose a photograph. (2) The photograph shall measure 45 mm by 35 mm. (3) It shall be in JPEG format and shall not exceed 500 kilobytes.",
    briefs: one({ paper: paper("45mm", "35mm"), ...jpeg, ...max("500KB") }),
  },
  {
    text: "Photo must not be more than 100kb and not less than 20kb in size, dimension 200 x 230 pixel (preferred).",
    briefs: [
      { clauses: { fileSize: { max: "100KB", min: "20KB" }, ...px(200, 230) }, wishes: ["width", "height"] },
    ],
  },
  {
    text: "Kindly upload the photo in black and white, upto 80 KB, jpg format, dimensions 300 × 400.",
    briefs: one({ colour: { space: "gray" }, ...max("80KB"), ...jpeg, ...px(300, 400) }),
  },
  {
    text: "Scans: greyscale, 400 dpi, TIFF, eight (8) bits. No CMYK.",
    briefs: one({ colour: { space: "gray", bits: 8 }, resolution: { exact: "400ppi" }, format: ["tiff"] }),
  },
  {
    text: "JPEG quality between 70 and 85 %, long side 1600 px. Do not enlarge small pictures. Do not crop.",
    briefs: one({
      quality: { min: 70, max: 85 },
      longSide: { exact: 1600 },
      enlarge: "never",
      frame: "whole",
    }),
  },
  {
    text: "Letter size scans, 300 dpi, PDF, each no more than 2 MB. Storage of the mailbox is 50 GB.",
    briefs: one({ paper: paper("8.5in", "11in"), resolution: { exact: "300ppi" }, ...pdf, ...max("2MB") }),
  },
  {
    text: "Files must be under 10 MB each and under 40 MB together. PNG or JPEG. Paper weight of the prints: 250 g/m².",
    briefs: one({ fileSize: { max: "10MB" }, total: { max: "40MB" }, format: ["png", "jpeg"] }),
  },
  {
    text: "Put all photos in one zip. The zip must stay below 25 MB.",
    briefs: one({ total: { max: "25MB" } }),
  },
  {
    text: "Our mail gateway counts the complete message as encoded and takes 15 MB at most.",
    briefs: one({ total: { max: "15MB", counted: "mail" } }),
  },
  {
    text: "Minimum of 2 megapixels, JPG.",
    briefs: one({ ...jpeg }),
    unread: ["2 megapixels"],
  },
  {
    text: "Product shots\nBackground: #f5f5f5\nFormat: WebP\nSize: 1500 × 1500 px\nWeight: max 180 KB\n\nBanner\nFormat: WebP\nSize: 1920 × 600 px\nWeight: max 300 KB",
    briefs: [
      {
        name: "Product shots",
        clauses: { background: "#f5f5f5", format: ["webp"], ...px(1500, 1500), ...max("180KB") },
      },
      { name: "Banner", clauses: { format: ["webp"], ...px(1920, 600), ...max("300KB") } },
    ],
  },
  {
    text: "Passport photo - JPEG - 600x600 - max 240 KB\nPassport page - PDF - max 1 MB\nTicket - PDF or JPEG - max 1 MB",
    briefs: [
      { name: "Passport photo", clauses: { ...jpeg, ...px(600, 600), ...max("240KB") } },
      { name: "Passport page", clauses: { ...pdf, ...max("1MB") } },
      { name: "Ticket", clauses: { format: ["pdf", "jpeg"], ...max("1MB") } },
    ],
  },
  {
    text: "The photograph must be of 25 mm x 35 mm; the file must not pass 60 KB. The signature must be of 60 mm x 20 mm; the file must not pass 30 KB. Same format for both files: JPG.",
    briefs: [
      { name: "Photograph", clauses: { paper: paper("25mm", "35mm"), ...max("60KB"), ...jpeg } },
      { name: "Signature", clauses: { paper: paper("60mm", "20mm"), ...max("30KB"), ...jpeg } },
    ],
  },
  {
    text: "Images for the bulletin are reduced to 25% of the original and saved as GIF.",
    briefs: one({ scale: "25%", format: ["gif"] }),
  },
  {
    text: "Members aged 18 to 65 upload a picture (PNG, 512 x 512 px) before 30 June. Membership is 24 a year.",
    briefs: one({ format: ["png"], ...px(512, 512) }),
  },
  {
    text: "Halftones are set with a 60-line screen; originals must be supplied at 300 ppi or more, width 84 mm or 174 mm.",
    briefs: one({ resolution: { min: "300ppi" } }),
  },
  {
    text: "a) Cover: 2560 x 1600 px, JPEG, under 5 MB\nb) Author photo: at least 600 px in width, JPEG, under 2 MB\nc) Back cover: same as cover",
    briefs: [
      { name: "Cover", clauses: { ...px(2560, 1600), ...jpeg, ...max("5MB") } },
      { name: "Author photo", clauses: { width: { min: 600 }, ...jpeg, ...max("2MB") } },
    ],
  },
  {
    text: "Avatar\t256 x 256\tPNG\t<= 100 KB\nHeader\t1500 x 500\tJPG\t<= 400 KB",
    briefs: [
      { name: "Avatar", clauses: { ...px(256, 256), format: ["png"], ...max("100KB") } },
      { name: "Header", clauses: { ...px(1500, 500), ...jpeg, ...max("400KB") } },
    ],
  },
  {
    text: "Herbarium sheets are photographed against a black background, 24-bit colour, at no less than 600 dpi, uncompressed TIFF.",
    briefs: one({
      background: "#000000",
      colour: { bits: 8 },
      resolution: { min: "600ppi" },
      format: ["tiff"],
    }),
  },
  {
    text: "For the tender: site plan as PDF (A3, 300 dpi, up to 4 MB); photos of the site as JPEG (long side 1800 px, up to 900 KB each); all in all not more than 20 MB.",
    briefs: [
      {
        name: "Site plan",
        clauses: {
          ...pdf,
          paper: paper("297mm", "420mm"),
          resolution: { exact: "300ppi" },
          ...max("4MB"),
          total: { max: "20MB" },
        },
      },
      {
        name: "Photos of the site",
        clauses: { ...jpeg, longSide: { exact: 1800 }, ...max("900KB"), total: { max: "20MB" } },
      },
    ],
  },
  {
    text: "Width of the picture is 640 pixels, height is 480 pixels, file size is maximum 150 kilobytes, picture must be of format jpg.",
    briefs: one({ ...px(640, 480), ...max("150KB"), ...jpeg }),
  },
  {
    text: "Only color scan is accepted. Maximum file size: 1 MB. Resolution: 200 DPI or above. Format: PDF.",
    briefs: one({ ...max("1MB"), resolution: { min: "200ppi" }, ...pdf }),
  },
  {
    text: "Portrait (35 x 45 mm, 600 dpi, JPG): face must take up 70 to 80 % of the height.\nSignature (50 x 20 mm, 600 dpi, JPG): in black ink.",
    briefs: [
      {
        name: "Portrait",
        clauses: {
          paper: paper("35mm", "45mm"),
          resolution: { exact: "600ppi" },
          ...jpeg,
          head: { height: { min: "70%", max: "80%" } },
        },
      },
      {
        name: "Signature",
        clauses: { paper: paper("50mm", "20mm"), resolution: { exact: "600ppi" }, ...jpeg, ink: "black" },
      },
    ],
  },
  {
    text: "Upload your licence (both sides) as two JPG files, min 1000 px wide, max 3 MB per file.",
    briefs: one({ ...jpeg, width: { min: 1000 }, ...max("3MB") }),
  },
  {
    text: "Images: JPG/PNG • 1080×1350 or 1080×1080 • sRGB • <8MB",
    briefs: one({
      format: ["jpeg", "png"],
      sizes: [
        { width: 1080, height: 1350 },
        { width: 1080, height: 1080 },
      ],
      colour: { space: "srgb" },
      ...max("8MB"),
    }),
  },
  {
    text: "Herr Brandt needs the pictures of the roof by Monday: not bigger than 3 MB a piece, JPG, and please leave the file names as they are.",
    briefs: one({ ...max("3MB"), ...jpeg, names: "{name}" }),
  },
  {
    text: "Poster: A2 at 150 dpi, PDF.\nHandout: A5 at 300 dpi, PDF.",
    briefs: [
      {
        name: "Poster",
        clauses: { paper: paper("420mm", "594mm"), resolution: { exact: "150ppi" }, ...pdf },
      },
      {
        name: "Handout",
        clauses: { paper: paper("148mm", "210mm"), resolution: { exact: "300ppi" }, ...pdf },
      },
    ],
  },
  {
    text: "The picture has to be square, minimum 400 by 400 pixels, maximum 2000 by 2000 pixels, and lighter than 1 MB.",
    briefs: one({
      shape: "1:1",
      width: { min: 400, max: 2000 },
      height: { min: 400, max: 2000 },
      ...max("1MB"),
    }),
  },
  {
    text: "Title image: 16:9, at least 1280 px wide\nGallery images: 4:3, at least 800 px wide\nGeneral: JPEG, 75% quality, no metadata",
    briefs: [
      {
        name: "Title image",
        clauses: {
          shape: "16:9",
          width: { min: 1280 },
          ...jpeg,
          quality: { min: 75, max: 75 },
          metadata: "none",
        },
      },
      {
        name: "Gallery images",
        clauses: {
          shape: "4:3",
          width: { min: 800 },
          ...jpeg,
          quality: { min: 75, max: 75 },
          metadata: "none",
        },
      },
    ],
  },
  {
    text: "Scanned copies of the following documents should be uploaded:\n(i) Mark sheet of class X (PDF, 50 KB to 300 KB)\n(ii) Experience certificate, if any (PDF, 50 KB to 300 KB)\n(iii) Photograph (JPEG, 10 KB to 100 KB)",
    briefs: [
      { name: "Mark sheet of class X", clauses: { ...pdf, fileSize: kb(50, 300) } },
      { name: "Experience certificate", clauses: { ...pdf, fileSize: kb(50, 300) } },
      { name: "Photograph", clauses: { ...jpeg, fileSize: kb(10, 100) } },
    ],
  },
  {
    text: "Photos must be clear and in focus. Heads straight, eyes open. No hats. Send them before 12:30 on Friday.",
    briefs: [],
  },
  {
    text: "Each picture should have between 1500 and 3000 pixels on its longest edge and weigh no more than 1,5 MB. JPEG please!",
    briefs: one({ longSide: { min: 1500, max: 3000 }, ...max("1.5MB"), ...jpeg }),
  },
  {
    text: "Logo (vector preferred, otherwise PNG, at least 1000 px wide, transparent). Team photo (JPEG, landscape, at least 2500 px wide).",
    briefs: [
      { name: "Logo", clauses: { format: ["png"], width: { min: 1000 } } },
      { name: "Team photo", clauses: { ...jpeg, width: { min: 2500 } } },
    ],
  },
  {
    text: "Resize to 72 dpi, 1024 px at the longest edge, sRGB, then save for screen as JPEG with 80 quality (out of 100).",
    briefs: one({
      resolution: { exact: "72ppi" },
      longSide: { exact: 1024 },
      colour: { space: "srgb" },
      ...jpeg,
      quality: { min: 80, max: 80 },
    }),
  },
  {
    text: "Passport-style photograph, taken within 6 months. File: .jpg, no less than 15 KB, no greater than 45 KB.",
    briefs: one({ ...jpeg, fileSize: kb(15, 45) }),
  },
];
