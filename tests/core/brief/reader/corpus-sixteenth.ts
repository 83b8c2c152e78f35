/** Written without running the reader, after the fifteenth set was measured and before anything was corrected for it. All invented. */
import { at, jpeg, kb, max, one, paper, pdf, png, px, tiff, type Wording, webp } from "./corpus";

export const SIXTEENTH: Wording[] = [
  {
    text: "Instructions for uploading\n\nPhotograph: colour, JPEG, 200 × 230 px, 20 KB – 50 KB.\nSignature: black ink, JPEG, 140 × 60 px, 10 KB – 20 KB.\nThumb impression: blue ink, JPEG, 240 × 240 px, 20 KB – 50 KB.\nHandwritten declaration: black ink, JPEG, 800 × 400 px, 50 KB – 100 KB.\n\nThe fee of 850 is not refunded. The form closes on 14 March at 23:59.",
    briefs: [
      { name: "Photograph", clauses: { ...jpeg, ...px(200, 230), fileSize: kb(20, 50) } },
      { name: "Signature", clauses: { ink: "black", ...jpeg, ...px(140, 60), fileSize: kb(10, 20) } },
      {
        name: "Thumb impression",
        clauses: { ink: "original", ...jpeg, ...px(240, 240), fileSize: kb(20, 50) },
      },
      {
        name: "Handwritten declaration",
        clauses: { ink: "black", ...jpeg, ...px(800, 400), fileSize: kb(50, 100) },
      },
    ],
  },
  {
    text: "Pictures for the newsletter should be JPEG, 1200 px wide and at most 350 KB.",
    briefs: one({ ...jpeg, width: { exact: 1200 }, ...max("350KB") }),
  },
  {
    text: "We print your calendar from JPEG files of at least 3508 × 2480 px. Each file may have up to 20 MB.",
    briefs: one({ ...jpeg, width: { min: 3508 }, height: { min: 2480 }, ...max("20MB") }),
  },
  {
    text: "Document\tType\tMinimum\tMaximum\nPhoto\tJPG\t20 KB\t40 KB\nSignature\tJPG\t5 KB\t15 KB\nMarksheet\tPDF\t50 KB\t500 KB",
    briefs: [
      { name: "Photo", clauses: { ...jpeg, fileSize: kb(20, 40) } },
      { name: "Signature", clauses: { ...jpeg, fileSize: kb(5, 15) } },
      { name: "Marksheet", clauses: { ...pdf, fileSize: kb(50, 500) } },
    ],
  },
  {
    text: "The applicant shall submit (a) a photograph in JPEG format not exceeding 100 KB and (b) a specimen signature in JPEG format not exceeding 50 KB.",
    briefs: [
      { name: "Photograph", clauses: { ...jpeg, ...max("100KB") } },
      { name: "Specimen signature", clauses: { ...jpeg, ...max("50KB") } },
    ],
  },
  {
    text: "Avatar: PNG, 256 × 256, max 64 KB. Banner: PNG or JPEG, 1500 × 500, max 1 MB.",
    briefs: [
      { name: "Avatar", clauses: { ...png, ...px(256, 256), ...max("64KB") } },
      { name: "Banner", clauses: { format: ["png", "jpeg"], ...px(1500, 500), ...max("1MB") } },
    ],
  },
  {
    text: "Send us the plan as a PDF in A3, and photos of the site as JPEG, not more than 4 MB each.",
    briefs: [
      { name: "Plan", clauses: { ...pdf, paper: paper("297mm", "420mm") } },
      { name: "Photos of the site", clauses: { ...jpeg, ...max("4MB") } },
    ],
  },
  {
    text: "The size of photo should be between 12KB to 100KB in JPEG format only. The pixel size should be 110 x 140 (W x H).",
    briefs: one({ fileSize: kb(12, 100), ...jpeg, ...px(110, 140) }),
  },
  {
    text: "Mailbox rules: no message over 12 MB. Office hours 8 to 16. Ask at room 214.",
    briefs: one({ total: { max: "12MB", counted: "mail" } }),
  },
  {
    text: "Photo must be taken against a light background. Ears must be seen. JPEG, 413 × 531 px, 300 dpi, below 500 KB.",
    briefs: one({ ...jpeg, ...px(413, 531), ...at(300), ...max("500KB") }),
  },
  {
    text: "Exhibition prints 30 × 45 cm at 240 ppi or better, TIFF or JPEG with quality 90 or better, sRGB.",
    briefs: one({
      paper: paper("30cm", "45cm"),
      resolution: { min: "240ppi" },
      format: ["tiff", "jpeg"],
      quality: { min: 90 },
      colour: { space: "srgb" },
    }),
  },
  {
    text: "ID card, front side: JPG, 50 KB to 300 KB\nID card, back side: JPG, 50 KB to 300 KB\nPhoto of your face: JPG, 50 KB to 300 KB, 600 × 600",
    briefs: [
      { name: "ID card, front side", clauses: { ...jpeg, fileSize: kb(50, 300) } },
      { name: "ID card, back side", clauses: { ...jpeg, fileSize: kb(50, 300) } },
      { name: "Photo of your face", clauses: { ...jpeg, fileSize: kb(50, 300), ...px(600, 600) } },
    ],
  },
  {
    text: "Upload one image. Supported: .png, .jpg, .webp. Max. file size: 1 MB. Recommended: 1024 x 1024 px.",
    briefs: [
      {
        clauses: { format: ["png", "jpeg", "webp"], ...max("1MB"), ...px(1024, 1024) },
        wishes: ["width", "height"],
      },
    ],
  },
  {
    text: "All drawings must be delivered as PDF, DIN A1, greyscale, and may not be larger than 15 MB each.",
    briefs: one({ ...pdf, paper: paper("594mm", "841mm"), colour: { space: "gray" }, ...max("15MB") }),
  },
  {
    text: "Press photo: JPEG, 300 dpi, at least 20 cm wide. Web photo: JPEG, 72 dpi, 800 px wide, under 150 KB.",
    briefs: [
      { name: "Press photo", clauses: { ...jpeg, ...at(300), paper: { width: "20cm" } } },
      { name: "Web photo", clauses: { ...jpeg, ...at(72), width: { exact: 800 }, ...max("150KB") } },
    ],
  },
  {
    text: "We cannot read HEIC. Send JPEG or PNG up to 6 MB.",
    briefs: one({ format: ["jpeg", "png"], ...max("6MB") }),
  },
  {
    text: "Photo size 2 inch by 2 inch, 300 dpi, file not more than 240 kilobytes, JPEG.",
    briefs: one({ paper: paper("2in", "2in"), ...at(300), ...max("240KB"), ...jpeg }),
  },
  {
    text: "Slides are shown at 16:9, 1920 × 1080. Save your pictures as PNG with exactly these pixels.",
    briefs: one({ ...png, ...px(1920, 1080) }),
  },
  {
    text: "1. Product image: white background (#FFFFFF), square, at least 1000 × 1000 px, JPEG, max 2 MB\n2. Size chart: PNG, max 500 KB\n3. Packaging: JPEG, max 2 MB",
    briefs: [
      {
        name: "Product image",
        clauses: {
          background: "#ffffff",
          shape: "1:1",
          width: { min: 1000 },
          height: { min: 1000 },
          ...jpeg,
          ...max("2MB"),
        },
      },
      { name: "Size chart", clauses: { ...png, ...max("500KB") } },
      { name: "Packaging", clauses: { ...jpeg, ...max("2MB") } },
    ],
  },
  {
    text: "Your file was not accepted before? Check that it is a JPG, that it has 480 × 640 pixels and that it is smaller than 200 KB.",
    briefs: one({ ...jpeg, ...px(480, 640), ...max("200KB") }),
  },
  {
    text: "For the visa: photograph 35 × 45 mm, 600 dpi, JPEG, between 100 and 500 KB. For the hotel: a copy of the passport, PDF, up to 1 MB.",
    briefs: [
      {
        name: "Photograph",
        clauses: { paper: paper("35mm", "45mm"), ...at(600), ...jpeg, fileSize: kb(100, 500) },
      },
      { name: "Hotel", clauses: { ...pdf, ...max("1MB") } },
    ],
  },
  {
    text: "Bilder are welcome in JPEG. Not bigger than 3 MB. Long side minimum 1800 pixel.",
    briefs: one({ ...jpeg, ...max("3MB"), longSide: { min: 1800 } }),
  },
  {
    text: "Keep images below 100 kB so that pages load fast. Use WebP. Nothing needs to be wider than 1440 px.",
    briefs: one({ fileSize: { max: "100kB" }, ...webp, width: { max: 1440 } }),
  },
  {
    text: "The licence photograph must be 35 mm wide by 45 mm high, the head from chin to crown between 29 mm and 34 mm, JPEG, at least 600 dpi.",
    briefs: one({
      paper: paper("35mm", "45mm"),
      head: { height: { min: "29mm", max: "34mm" } },
      ...jpeg,
      resolution: { min: "600ppi" },
    }),
  },
  {
    text: "Applicant photo\n  type: jpg\n  width: 150 px\n  height: 200 px\n  size: max 40 KB\nApplicant signature\n  type: jpg\n  width: 150 px\n  height: 60 px\n  size: max 20 KB",
    briefs: [
      { name: "Applicant photo", clauses: { ...jpeg, ...px(150, 200), ...max("40KB") } },
      { name: "Applicant signature", clauses: { ...jpeg, ...px(150, 60), ...max("20KB") } },
    ],
  },
  {
    text: "Cover: 2560 × 1600 px, JPEG, under 5 MB. Inside pages: PDF, A5, 300 dpi, under 100 MB. Author's portrait: JPEG, at least 1000 px on the short side.",
    briefs: [
      { name: "Cover", clauses: { ...px(2560, 1600), ...jpeg, ...max("5MB") } },
      {
        name: "Inside pages",
        clauses: { ...pdf, paper: paper("148mm", "210mm"), ...at(300), ...max("100MB") },
      },
      { name: "Author's portrait", clauses: { ...jpeg, shortSide: { min: 1000 } } },
    ],
  },
  {
    text: "The archive wants uncompressed TIFF, 16 bit per channel, 400 ppi, ProPhoto or Adobe RGB.",
    briefs: one({ ...tiff, colour: { bits: 16 }, ...at(400) }),
  },
  {
    text: "Please note: photos over 1 MB make the page slow, so stay under that. 1000 pixels across is enough. JPEG.",
    briefs: one({ ...max("1MB"), ...jpeg }),
  },
  {
    text: "Section A: Photograph\nThe photograph must be in JPEG format.\nThe file size must be from 20 KB to 200 KB.\nSection B: Signature\nThe signature must be in JPEG format.\nThe file size must be from 10 KB to 100 KB.",
    briefs: [
      { name: "Photograph", clauses: { ...jpeg, fileSize: kb(20, 200) } },
      { name: "Signature", clauses: { ...jpeg, fileSize: kb(10, 100) } },
    ],
  },
  {
    text: "Scan both sides of the licence into one PDF, 200 dpi, greyscale, at most 800 KB.",
    briefs: one({ ...pdf, ...at(200), colour: { space: "gray" }, ...max("800KB") }),
  },
  {
    text: "The poster hall takes sheets of 90 × 120 cm upright. Send PDF. 150 dpi suffices. Not above 30 MB.",
    briefs: one({ paper: paper("90cm", "120cm"), ...pdf, ...max("30MB") }),
  },
  {
    text: "Images must not be upscaled. 2048 px on the long side, JPEG, quality 80, no metadata.",
    briefs: one({
      enlarge: "never",
      longSide: { exact: 2048 },
      ...jpeg,
      quality: { min: 80, max: 80 },
      metadata: "none",
    }),
  },
  {
    text: "Item: Photo / Format: JPEG / Size: 50 KB max / Pixels: 240 × 320\nItem: Signature / Format: JPEG / Size: 20 KB max / Pixels: 240 × 80",
    briefs: [
      { name: "Photo", clauses: { ...jpeg, ...max("50KB"), ...px(240, 320) } },
      { name: "Signature", clauses: { ...jpeg, ...max("20KB"), ...px(240, 80) } },
    ],
  },
  {
    text: "The club's website crops pictures to 3:2. Upload JPEGs with at least 1500 × 1000 px and at most 2 MB.",
    briefs: one({ ...jpeg, shape: "3:2", width: { min: 1500 }, height: { min: 1000 }, ...max("2MB") }),
  },
  {
    text: "Tender documents: PDF only, each below 10 MB, all together below 50 MB.",
    briefs: one({ ...pdf, fileSize: { max: "10MB" }, total: { max: "50MB" } }),
  },
  {
    text: "The photo has to be square. Between 500 and 2000 pixels. PNG or JPG. Up to 2 megabytes.",
    briefs: one({
      shape: "1:1",
      width: { min: 500, max: 2000 },
      height: { min: 500, max: 2000 },
      format: ["png", "jpeg"],
      ...max("2MB"),
    }),
  },
  {
    text: "Dear members, for the yearbook we need a picture of your boat (landscape, JPEG, at least 3000 px wide) and one of the crew (portrait, JPEG, at least 2000 px high). Deadline 30 September. Last year we printed 214 of them.",
    briefs: [
      { name: "Picture of your boat", clauses: { ...jpeg, width: { min: 3000 } } },
      { name: "Crew", clauses: { ...jpeg, height: { min: 2000 } } },
    ],
  },
  {
    text: "Accepted: JPEG, 24-bit colour, 640 × 480 to 1600 × 1200 pixels, 30–300 KB.",
    briefs: one({
      ...jpeg,
      colour: { bits: 8 },
      width: { min: 640, max: 1600 },
      height: { min: 480, max: 1200 },
      fileSize: kb(30, 300),
    }),
  },
  {
    text: "Fax cover sheets are no longer used. Send the scan (PDF, 200 dpi, black and white, A4) by mail, at most 3 MB.",
    briefs: one({
      ...pdf,
      ...at(200),
      colour: { space: "gray" },
      paper: paper("210mm", "297mm"),
      ...max("3MB"),
    }),
  },
  {
    text: "Logo: SVG or PNG with transparent background, at least 1000 px wide. Photo of the stand: JPEG, at least 300 dpi at A5.",
    briefs: [
      { name: "Logo", clauses: { ...png, width: { min: 1000 } } },
      {
        name: "Photo of the stand",
        clauses: { ...jpeg, resolution: { min: "300ppi" }, paper: paper("148mm", "210mm") },
      },
    ],
  },
  {
    text: "Size of photograph: 4 cm × 5 cm. Size of signature: 4 cm × 2 cm. Both JPG, photograph 50 KB, signature 25 KB at most.",
    briefs: [
      { name: "Photograph", clauses: { paper: paper("4cm", "5cm"), ...jpeg, ...max("50KB") } },
      { name: "Signature", clauses: { paper: paper("4cm", "2cm"), ...jpeg, ...max("25KB") } },
    ],
  },
  {
    text: "File upload: images only (jpg, png), 5 files at most, 2 MB per file.",
    briefs: one({ format: ["jpeg", "png"], ...max("2MB") }),
  },
  {
    text: "The medical certificate must be scanned at 150 to 300 dpi and saved as PDF of less than 1 MB.",
    briefs: one({ resolution: { min: "150ppi", max: "300ppi" }, ...pdf, ...max("1MB") }),
  },
  {
    text: "Teaser 600 × 400 px JPEG ≤ 80 KB\nHeader 1600 × 500 px JPEG ≤ 250 KB\nGallery 1600 × 1067 px JPEG ≤ 400 KB",
    briefs: [
      { name: "Teaser", clauses: { ...px(600, 400), ...jpeg, ...max("80KB") } },
      { name: "Header", clauses: { ...px(1600, 500), ...jpeg, ...max("250KB") } },
      { name: "Gallery", clauses: { ...px(1600, 1067), ...jpeg, ...max("400KB") } },
    ],
  },
  {
    text: "Hand in your drawing as a photo, JPEG or HEIC does not matter, but not above 10 MB.",
    briefs: one({ ...max("10MB") }),
  },
  {
    text: "Rates: 12 per hour. Room 4 seats 30. Slides must be sent by Friday.",
    briefs: [],
  },
  {
    text: "Candidates have to upload a scanned image of their photo (JPG/JPEG, 10 KB to 200 KB), signature (JPG/JPEG, 4 KB to 30 KB) and category certificate (PDF, 50 KB to 300 KB).",
    briefs: [
      { name: "Photo", clauses: { ...jpeg, fileSize: kb(10, 200) } },
      { name: "Signature", clauses: { ...jpeg, fileSize: kb(4, 30) } },
      { name: "Category certificate", clauses: { ...pdf, fileSize: kb(50, 300) } },
    ],
  },
  {
    text: "Photos: min. 1 MB, max. 8 MB, JPEG, RGB. Do not crop or retouch.",
    briefs: one({ fileSize: { min: "1MB", max: "8MB" }, ...jpeg, frame: "whole" }),
  },
  {
    text: "The system takes pictures of 5 megapixels at the most, as JPEG of no more than 1.5 MB.",
    briefs: one({ ...jpeg, ...max("1.5MB") }),
  },
  {
    text: "Passport copy (PDF, max 1 MB)\nWork permit (PDF, max 1 MB)\nPhoto (JPEG, 600 × 800, max 300 KB)",
    briefs: [
      { name: "Passport copy", clauses: { ...pdf, ...max("1MB") } },
      { name: "Work permit", clauses: { ...pdf, ...max("1MB") } },
      { name: "Photo", clauses: { ...jpeg, ...px(600, 800), ...max("300KB") } },
    ],
  },
];
