/** Written without running the reader, after the corrections that the fourteenth set led to. All invented. */
import { at, jpeg, kb, max, one, paper, pdf, png, px, tiff, type Wording, webp } from "./corpus";

export const FIFTEENTH: Wording[] = [
  {
    text: "What to upload:\n(1) Recent photograph – JPEG, 30 KB to 60 KB, 300 × 400 pixels\n(2) Signature in black ink – JPEG, 10 KB to 30 KB, 300 × 100 pixels\n(3) Degree certificate – PDF, not more than 1 MB",
    briefs: [
      { name: "Recent photograph", clauses: { ...jpeg, fileSize: kb(30, 60), ...px(300, 400) } },
      { name: "Signature", clauses: { ink: "black", ...jpeg, fileSize: kb(10, 30), ...px(300, 100) } },
      { name: "Degree certificate", clauses: { ...pdf, ...max("1MB") } },
    ],
  },
  {
    text: "Our shop shows pictures 1200 px wide. Please send JPEG files in sRGB that are no wider than 2400 px and no heavier than 600 KB.",
    briefs: one({ ...jpeg, colour: { space: "srgb" }, width: { max: 2400 }, ...max("600KB") }),
  },
  {
    text: "Passport page: scan in colour, 300 dpi, PDF, max. 2 MB. Passport photo: JPEG, 35 mm × 45 mm, 600 dpi, max. 500 KB.",
    briefs: [
      { name: "Passport page", clauses: { ...at(300), ...pdf, ...max("2MB") } },
      {
        name: "Passport photo",
        clauses: { ...jpeg, paper: paper("35mm", "45mm"), ...at(600), ...max("500KB") },
      },
    ],
  },
  {
    text: "Attachments may not exceed 10 MB in total. Pictures as JPEG please.",
    briefs: one({ total: { max: "10MB" }, ...jpeg }),
  },
  {
    text: "| File | Format | Max size |\n| Logo | PNG | 200 KB |\n| Team photo | JPEG | 2 MB |\n| Brochure | PDF | 10 MB |",
    briefs: [
      { name: "Logo", clauses: { ...png, ...max("200KB") } },
      { name: "Team photo", clauses: { ...jpeg, ...max("2MB") } },
      { name: "Brochure", clauses: { ...pdf, ...max("10MB") } },
    ],
  },
  {
    text: "The jury sees every entry at 1920 × 1080. Entries: JPEG, exactly 1920 px on the long side, quality 10 of 12 or about 2 MB, sRGB.",
    briefs: one({ ...jpeg, longSide: { exact: 1920 }, colour: { space: "srgb" } }),
  },
  {
    text: "Dear applicant, the picture you attach to the form has to be a JPEG between 100 and 250 kilobytes. Its height must be 600 pixels and its width 480 pixels.",
    briefs: one({ ...jpeg, fileSize: kb(100, 250), ...px(480, 600) }),
  },
  {
    text: "Cover picture: 1640 × 624 px, PNG or JPEG, under 100 KB\nProfile picture: 720 × 720 px, PNG or JPEG, under 100 KB\nPost picture: 1080 px wide, JPEG, under 300 KB",
    briefs: [
      { name: "Cover picture", clauses: { ...px(1640, 624), format: ["png", "jpeg"], ...max("100KB") } },
      { name: "Profile picture", clauses: { ...px(720, 720), format: ["png", "jpeg"], ...max("100KB") } },
      { name: "Post picture", clauses: { width: { exact: 1080 }, ...jpeg, ...max("300KB") } },
    ],
  },
  {
    text: "Requirements\n• Photo must be in JPG format\n• Size of the photo must be between 20 KB and 100 KB\n• Signature must be in JPG format\n• Size of the signature must be between 10 KB and 40 KB",
    briefs: [
      { name: "Photo", clauses: { ...jpeg, fileSize: kb(20, 100) } },
      { name: "Signature", clauses: { ...jpeg, fileSize: kb(10, 40) } },
    ],
  },
  {
    text: "Print data: PDF or TIFF, CMYK, 300 dpi, 216 × 303 mm including 3 mm bleed.",
    briefs: one({
      format: ["pdf", "tiff"],
      colour: { space: "cmyk" },
      ...at(300),
      paper: paper("216mm", "303mm"),
    }),
  },
  {
    text: "For the plaque we need the founder's portrait in greyscale (TIFF, at least 600 dpi at 12 × 16 cm) and the company's mark (PNG with a transparent background, 2000 px wide).",
    briefs: [
      {
        name: "Founder's portrait",
        clauses: {
          colour: { space: "gray" },
          ...tiff,
          resolution: { min: "600ppi" },
          paper: paper("12cm", "16cm"),
        },
      },
      { name: "Company's mark", clauses: { ...png, width: { exact: 2000 } } },
    ],
  },
  {
    text: "Only JPG is accepted; the file must weigh 40 KB at least and 80 KB at most; the picture must be square, 600 px or more.",
    briefs: one({ ...jpeg, fileSize: kb(40, 80), shape: "1:1", width: { min: 600 }, height: { min: 600 } }),
  },
  {
    text: "Photo ID\nFormat: PDF or JPEG\nLimit: 3 MB\n\nProof of address\nFormat: PDF\nLimit: 3 MB\n\nSelfie\nFormat: JPEG\nLimit: 1 MB",
    briefs: [
      { name: "Photo ID", clauses: { format: ["pdf", "jpeg"], ...max("3MB") } },
      { name: "Proof of address", clauses: { ...pdf, ...max("3MB") } },
      { name: "Selfie", clauses: { ...jpeg, ...max("1MB") } },
    ],
  },
  {
    text: "The reading room opens at 9. Scans cost 0.40 each; you may bring a stick of 8 GB.",
    briefs: [],
  },
  {
    text: "Images for the web: WebP, 1600 px on the longest edge, max 250 KB. Images for print: TIFF, 300 ppi, Adobe RGB, no size limit.",
    briefs: [
      { name: "Images for the web", clauses: { ...webp, longSide: { exact: 1600 }, ...max("250KB") } },
      { name: "Images for print", clauses: { ...tiff, ...at(300) } },
    ],
  },
  {
    text: "Your photograph, not older than six months, 4.5 cm high and 3.5 cm wide, must be uploaded as JPEG with 200 dpi and a volume of 50 to 100 kB.",
    briefs: one({
      paper: paper("3.5cm", "4.5cm"),
      ...jpeg,
      ...at(200),
      fileSize: { min: "50kB", max: "100kB" },
    }),
  },
  {
    text: "Step 1 - Upload photo: .jpg, 3.5 x 4.5 cm, upto 50 KB\nStep 2 - Upload signature: .jpg, 3.5 x 1.5 cm, upto 20 KB\nStep 3 - Upload left thumb impression: .jpg, 3 x 3 cm, upto 20 KB",
    briefs: [
      { name: "Photo", clauses: { ...jpeg, paper: paper("3.5cm", "4.5cm"), ...max("50KB") } },
      { name: "Signature", clauses: { ...jpeg, paper: paper("3.5cm", "1.5cm"), ...max("20KB") } },
      { name: "Left thumb impression", clauses: { ...jpeg, paper: paper("3cm", "3cm"), ...max("20KB") } },
    ],
  },
  {
    text: "Figures must be at least 85 mm wide at 600 dpi for line art and 300 dpi for photographs.",
    briefs: [],
  },
  {
    text: "Photos larger than 5 MB are rejected. Photos smaller than 500 KB are rejected. Use JPEG.",
    briefs: one({ fileSize: { min: "500KB", max: "5MB" }, ...jpeg }),
  },
  {
    text: "For the staff directory: head and shoulders, 400 by 500 pixels, JPEG, less than 120 KB. For the door sign: the same picture, 1200 by 1500 pixels, TIFF.",
    briefs: [
      { name: "Staff directory", clauses: { ...px(400, 500), ...jpeg, ...max("120KB") } },
      { name: "Door sign", clauses: { ...px(1200, 1500), ...tiff } },
    ],
  },
  {
    text: "Max dimensions 4000 × 4000, max size 8 MB, allowed types jpg, png, tif.",
    briefs: one({
      width: { max: 4000 },
      height: { max: 4000 },
      ...max("8MB"),
      format: ["jpeg", "png", "tiff"],
    }),
  },
  {
    text: "a) front of the card: JPEG, 1000 px wide, ≤ 500 KB; b) back of the card: JPEG, 1000 px wide, ≤ 500 KB; c) receipt: PDF, ≤ 1 MB",
    briefs: [
      { name: "Front of the card", clauses: { ...jpeg, width: { exact: 1000 }, ...max("500KB") } },
      { name: "Back of the card", clauses: { ...jpeg, width: { exact: 1000 }, ...max("500KB") } },
      { name: "Receipt", clauses: { ...pdf, ...max("1MB") } },
    ],
  },
  {
    text: "Please reduce your pictures to 1280 pixels (long side) before you mail them. One mail holds 15 MB.",
    briefs: one({ longSide: { exact: 1280 }, total: { max: "15MB", counted: "mail" } }),
  },
  {
    text: "Black and white scan of the deed, A4, 300 dpi, PDF, no more than 4 MB.",
    briefs: one({
      colour: { space: "gray" },
      paper: paper("210mm", "297mm"),
      ...at(300),
      ...pdf,
      ...max("4MB"),
    }),
  },
  {
    text: "The thumbnail (JPEG, 320 × 180, max 50 KB) appears in lists; the hero image (JPEG or WebP, 1920 × 1080, max 400 KB) opens the page.",
    briefs: [
      { name: "Thumbnail", clauses: { ...jpeg, ...px(320, 180), ...max("50KB") } },
      { name: "Hero image", clauses: { format: ["jpeg", "webp"], ...px(1920, 1080), ...max("400KB") } },
    ],
  },
  {
    text: "Resolution 300 dpi minimum. Format A3 landscape. PDF, CMYK. File smaller than 50 MB.",
    briefs: one({
      resolution: { min: "300ppi" },
      paper: paper("420mm", "297mm"),
      ...pdf,
      colour: { space: "cmyk" },
      ...max("50MB"),
    }),
  },
];
