/** Written without running the reader, after the corrections that the tenth set led to. All invented. */
import { at, jpeg, kb, max, one, paper, pdf, png, px, tiff, type Wording, webp } from "./corpus";

export const ELEVENTH: Wording[] = [
  {
    text: "Guidelines for uploading\nThe photo should be in JPG format, between 20 KB and 100 KB.\nThe signature should be in JPG format, between 10 KB and 50 KB.\nThe handwritten declaration should be in JPG format, between 50 KB and 100 KB.",
    briefs: [
      { name: "Photo", clauses: { ...jpeg, fileSize: kb(20, 100) } },
      { name: "Signature", clauses: { ...jpeg, fileSize: kb(10, 50) } },
      { name: "Handwritten declaration", clauses: { ...jpeg, fileSize: kb(50, 100) } },
    ],
  },
  {
    text: "Photo: JPG, 50 KB max. Signature: JPG, 20 KB max. Resolution of both: 200 dpi.",
    briefs: [
      { name: "Photo", clauses: { ...jpeg, ...max("50KB"), ...at(200) } },
      { name: "Signature", clauses: { ...jpeg, ...max("20KB"), ...at(200) } },
    ],
  },
  {
    text: "Dear parents, for the yearbook we need a portrait of your child (JPEG, at least 1200 px high) by 12 May. Costs: 14.50 per copy.",
    briefs: one({ ...jpeg, height: { min: 1200 } }),
  },
  {
    text: "Teaser image: width 640 px, height 360 px, JPEG, quality 70 %.\nStory image: width 1280 px, JPEG, quality 80 %.\nThumbnail: width 160 px, height 90 px, JPEG, quality 60 %.",
    briefs: [
      { name: "Teaser image", clauses: { ...px(640, 360), ...jpeg, quality: { min: 70, max: 70 } } },
      { name: "Story image", clauses: { width: { exact: 1280 }, ...jpeg, quality: { min: 80, max: 80 } } },
      { name: "Thumbnail", clauses: { ...px(160, 90), ...jpeg, quality: { min: 60, max: 60 } } },
    ],
  },
  {
    text: "We take pictures up to 16 MB, as JPEG, HEIC or PNG, in any size.",
    briefs: one({ ...max("16MB"), format: ["jpeg", "png"] }),
  },
  {
    text: "All entries: JPEG, sRGB, 3000 px on the longest side.\nShortlisted entries: TIFF, 300 dpi, at least 5000 px on the longest side.",
    briefs: [
      { name: "All entries", clauses: { ...jpeg, colour: { space: "srgb" }, longSide: { exact: 3000 } } },
      { name: "Shortlisted entries", clauses: { ...tiff, ...at(300), longSide: { min: 5000 } } },
    ],
  },
  {
    text: "Medical imaging office: photographs of the wound shall be taken with a ruler beside it, JPEG, 2000 to 6000 KB, and not be compressed further.",
    briefs: one({ ...jpeg, fileSize: { min: "2000KB", max: "6000KB" } }),
  },
  {
    text: "Name of file | Format | Pixels\nlogo | PNG | 400 x 400\nbackground | JPG | 1920 x 1080\nbutton | PNG | 120 x 40",
    briefs: [
      { name: "Logo", clauses: { ...png, ...px(400, 400) } },
      { name: "Background", clauses: { ...jpeg, ...px(1920, 1080) } },
      { name: "Button", clauses: { ...png, ...px(120, 40) } },
    ],
  },
  {
    text: "The image you submit shall be at least 10 cm wide when printed at 300 dpi, in RGB, and come as a TIFF or a high quality JPEG.",
    briefs: one({ ...at(300), format: ["tiff", "jpeg"] }),
  },
  {
    text: "Photo size must be 3.5 X 4.5 cm with file size of maximum 100 KB; scanned signature must be 3.5 X 1.5 cm with file size of maximum 30 KB. Only jpg files are accepted.",
    briefs: [
      { name: "Photo", clauses: { paper: paper("3.5cm", "4.5cm"), ...max("100KB"), ...jpeg } },
      { name: "Scanned signature", clauses: { paper: paper("3.5cm", "1.5cm"), ...max("30KB"), ...jpeg } },
    ],
  },
  {
    text: "Please note: the system accepts PDF only, one file, A4 pages, 150 dpi, greyscale, 3 MB or less.",
    briefs: one({
      ...pdf,
      paper: paper("210mm", "297mm"),
      ...at(150),
      colour: { space: "gray" },
      ...max("3MB"),
    }),
  },
  {
    text: "Slides for the lecture hall: PNG, 1920 × 1080.\nHandouts: PDF, A4.",
    briefs: [
      { name: "Slides for the lecture hall", clauses: { ...png, ...px(1920, 1080) } },
      { name: "Handouts", clauses: { ...pdf, paper: paper("210mm", "297mm") } },
    ],
  },
  {
    text: "Please supply product photos of 1000 x 1000 px or larger, with a pure white background (#FFFFFF), JPEG, sRGB, each up to 5 MB, zipped.",
    briefs: one({
      width: { min: 1000 },
      height: { min: 1000 },
      background: "#ffffff",
      ...jpeg,
      colour: { space: "srgb" },
      ...max("5MB"),
    }),
  },
  {
    text: "Driving licence: scan both sides, JPEG, 300 dpi, up to 2 MB per side.\nEye test: PDF, up to 1 MB.",
    briefs: [
      { name: "Driving licence", clauses: { ...jpeg, ...at(300), ...max("2MB") } },
      { name: "Eye test", clauses: { ...pdf, ...max("1MB") } },
    ],
  },
  {
    text: "The complete e-mail may weigh 10 MB, pictures included. A single picture may weigh 2 MB.",
    briefs: one({ total: { max: "10MB", counted: "mail" }, ...max("2MB") }),
  },
  {
    text: "Field notes go to the archive as PDF/A, 400 dpi, grey. Field photographs go to the archive as TIFF, 16 bit, long side 6000 px.",
    briefs: [
      { name: "Field notes", clauses: { ...pdf, ...at(400), colour: { space: "gray" } } },
      { name: "Field photographs", clauses: { ...tiff, colour: { bits: 16 }, longSide: { exact: 6000 } } },
    ],
  },
  {
    text: "1. Upload a photo (max. 2 MB).\n2. Crop it to a square.\n3. Press “Save”.",
    briefs: one({ ...max("2MB"), shape: "1:1" }),
  },
  {
    text: "Photograph requirements: 2 inches by 2 inches, 300 pixels per inch, head between 1 inch and 1 3/8 inches, JPEG, less than 240 kilobytes.",
    briefs: one({ paper: paper("2in", "2in"), ...at(300), ...jpeg, ...max("240KB") }),
  },
  {
    text: "Team page\nPortraits: 480 × 600 px, WebP, up to 60 KB\nGroup picture: 1600 × 900 px, WebP, up to 250 KB",
    briefs: [
      { name: "Portraits", clauses: { ...px(480, 600), ...webp, ...max("60KB") } },
      { name: "Group picture", clauses: { ...px(1600, 900), ...webp, ...max("250KB") } },
    ],
  },
  {
    text: "Files must be named after the applicant. Photo in passport format (45 mm high, 35 mm wide), colour, JPEG or PNG, not below 100 KB.",
    briefs: one({
      paper: { height: "45mm", width: "35mm" },
      format: ["jpeg", "png"],
      fileSize: { min: "100KB" },
    }),
  },
  {
    text: "Wallpaper pack: desktop 2560x1440 JPG; tablet 2048x1536 JPG; phone 1170x2532 JPG; none over 1.2 MB.",
    briefs: [
      { name: "Desktop", clauses: { ...px(2560, 1440), ...jpeg, ...max("1.2MB") } },
      { name: "Tablet", clauses: { ...px(2048, 1536), ...jpeg, ...max("1.2MB") } },
      { name: "Phone", clauses: { ...px(1170, 2532), ...jpeg, ...max("1.2MB") } },
    ],
  },
  {
    text: "Kindly ensure that the dimensions of the uploaded image are within 1024 by 768 and its size is within 512 KB.",
    briefs: one({ width: { max: 1024 }, height: { max: 768 }, ...max("512KB") }),
  },
  {
    text: "Cover letter as PDF (1 MB), photo as JPG (500 KB), certificates in one PDF (4 MB).",
    briefs: [
      { name: "Cover letter", clauses: { ...pdf, ...max("1MB") } },
      { name: "Photo", clauses: { ...jpeg, ...max("500KB") } },
      { name: "Certificates", clauses: { ...pdf, ...max("4MB") } },
    ],
  },
  {
    text: "No login needed. The survey takes 5 minutes. 3 questions, 2 pictures.",
    briefs: [],
  },
  {
    text: "Print proof: 150 dpi, RGB, JPEG, 1 MB at most\nPrint master: 300 dpi, CMYK, TIFF\nBoth at final size, 148 × 210 mm",
    briefs: [
      {
        name: "Print proof",
        clauses: { ...at(150), ...jpeg, ...max("1MB"), paper: paper("148mm", "210mm") },
      },
      {
        name: "Print master",
        clauses: { ...at(300), colour: { space: "cmyk" }, ...tiff, paper: paper("148mm", "210mm") },
      },
    ],
  },
  {
    text: "Exhibit photographs are to be not less than 300 pixels per inch and not less than 8 inches wide; they are to be lodged as JPEG, each less than 20 MB.",
    briefs: one({ resolution: { min: "300ppi" }, ...jpeg, ...max("20MB") }),
  },
];
