/** Written without running the reader, after the corrections that the eleventh set led to. All invented. */
import { at, jpeg, kb, max, one, paper, pdf, png, px, tiff, type Wording, webp } from "./corpus";

export const TWELFTH: Wording[] = [
  {
    text: "Instructions: The applicant's photograph should be of passport size (3.5 cm × 4.5 cm), JPG, file size 20 KB to 60 KB. The applicant's signature should be on white paper (3.5 cm × 1.5 cm), JPG, file size 10 KB to 30 KB.",
    briefs: [
      {
        name: "Applicant's photograph",
        clauses: { paper: paper("3.5cm", "4.5cm"), ...jpeg, fileSize: kb(20, 60) },
      },
      {
        name: "Applicant's signature",
        clauses: { paper: paper("3.5cm", "1.5cm"), ...jpeg, fileSize: kb(10, 30) },
      },
    ],
  },
  {
    text: "Product page needs: packshot 2000x2000 (PNG), mood picture 2400x1600 (JPEG), size chart 1200x800 (PNG). Each below 1.5 MB.",
    briefs: [
      { name: "Packshot", clauses: { ...px(2000, 2000), ...png, ...max("1.5MB") } },
      { name: "Mood picture", clauses: { ...px(2400, 1600), ...jpeg, ...max("1.5MB") } },
      { name: "Size chart", clauses: { ...px(1200, 800), ...png, ...max("1.5MB") } },
    ],
  },
  {
    text: "Please reduce your photos before sending: longest edge 1280 pixels, JPEG quality 75, no metadata. We cannot open HEIC.",
    briefs: one({ longSide: { exact: 1280 }, quality: { min: 75, max: 75 }, metadata: "none" }),
  },
  {
    text: "Photo\tJPEG\t600 × 800 px\tmax. 200 KB\nPassport\tPDF\t–\tmax. 1 MB\nDegree\tPDF\t–\tmax. 2 MB",
    briefs: [
      { name: "Photo", clauses: { ...jpeg, ...px(600, 800), ...max("200KB") } },
      { name: "Passport", clauses: { ...pdf, ...max("1MB") } },
      { name: "Degree", clauses: { ...pdf, ...max("2MB") } },
    ],
  },
  {
    text: "Exhibition prints: A3, 300 dpi, TIFF, ProPhoto not allowed, sRGB only.\nCatalogue: A5, 300 dpi, TIFF, CMYK.",
    briefs: [
      {
        name: "Exhibition prints",
        clauses: { paper: paper("297mm", "420mm"), ...at(300), ...tiff, colour: { space: "srgb" } },
      },
      {
        name: "Catalogue",
        clauses: { paper: paper("148mm", "210mm"), ...at(300), ...tiff, colour: { space: "cmyk" } },
      },
    ],
  },
  {
    text: "What size should it be? At least 1080 pixels on the short edge. What type? PNG or JPG. How heavy? 5 MB at most.",
    briefs: one({ shortSide: { min: 1080 }, format: ["png", "jpeg"], ...max("5MB") }),
  },
  {
    text: "Subject: your upload. Hello, the portrait must be exactly 480 px by 640 px and must not exceed 90 kB. Regards, the registry. Tel. 0123 456 789, room 480.",
    briefs: one({ ...px(480, 640), ...max("90kB") }),
  },
  {
    text: "Slot A – outside view: landscape, JPEG, 2000 px wide\nSlot B – inside view: landscape, JPEG, 2000 px wide\nSlot C – floor plan: PNG, 1600 px wide",
    briefs: [
      { name: "Outside view", clauses: { ...jpeg, width: { exact: 2000 } } },
      { name: "Inside view", clauses: { ...jpeg, width: { exact: 2000 } } },
      { name: "Floor plan", clauses: { ...png, width: { exact: 1600 } } },
    ],
  },
  {
    text: "The e-mail with all its attachments must stay under 7.5 MB. Photos: JPEG, around 1600 px.",
    briefs: one({ total: { max: "7.5MB", counted: "mail" }, ...jpeg }),
  },
  {
    text: "Photo for the membership card: portrait format, 25 × 32 mm, 300 dpi, jpg. It is printed without borders.",
    briefs: one({ paper: paper("25mm", "32mm"), ...at(300), ...jpeg }),
  },
  {
    text: "For the newsletter: pictures 600 px wide, JPEG, under 80 KB. For the website: pictures 1600 px wide, WebP, under 250 KB. For print: pictures 120 mm wide at 300 ppi, TIFF.",
    briefs: [
      { name: "Newsletter", clauses: { width: { exact: 600 }, ...jpeg, ...max("80KB") } },
      { name: "Website", clauses: { width: { exact: 1600 }, ...webp, ...max("250KB") } },
      { name: "Print", clauses: { paper: { width: "120mm" }, ...at(300), ...tiff } },
    ],
  },
  {
    text: "Images must meet the following criteria:\n- minimum width: 1500 px\n- minimum height: 1000 px\n- maximum file size: 6 MB\n- file type: jpg or png\n- colour space: sRGB",
    briefs: one({
      width: { min: 1500 },
      height: { min: 1000 },
      ...max("6MB"),
      format: ["jpeg", "png"],
      colour: { space: "srgb" },
    }),
  },
  {
    text: "Photograph of left hand and of right hand, each as PNG of 800 × 800 px with 200 KB at the most.",
    briefs: one({ ...png, ...px(800, 800), ...max("200KB") }),
  },
  {
    text: "Annex: pictures of the accident. We can take JPEGs of up to 3 MB each; in total our portal takes 30 MB per claim.",
    briefs: one({ ...jpeg, fileSize: { max: "3MB" }, total: { max: "30MB" } }),
  },
  {
    text: "Upload 1: Photo ID. JPG, PNG or PDF. 50 KB to 5 MB.\nUpload 2: Proof of income. PDF. 50 KB to 10 MB.",
    briefs: [
      {
        name: "Photo ID",
        clauses: { format: ["jpeg", "png", "pdf"], fileSize: { min: "50KB", max: "5MB" } },
      },
      { name: "Proof of income", clauses: { ...pdf, fileSize: { min: "50KB", max: "10MB" } } },
    ],
  },
  {
    text: "Cut-out on white, #ffffff, square 1:1, at least 1024 by 1024 pixels, no shadow, JPEG baseline, at most 2 MB.",
    briefs: one({
      background: "#ffffff",
      shape: "1:1",
      width: { min: 1024 },
      height: { min: 1024 },
      ...jpeg,
      ...max("2MB"),
    }),
  },
  {
    text: "Scorecards: scan, 150 dpi, grey, PDF. Team photo: 16:9, at least 1920 px wide, JPEG. Deadline for both: Sunday.",
    briefs: [
      { name: "Scorecards", clauses: { ...at(150), colour: { space: "gray" }, ...pdf } },
      { name: "Team photo", clauses: { shape: "16:9", width: { min: 1920 }, ...jpeg } },
    ],
  },
  {
    text: "The digital photograph must be 630 pixels wide and 810 pixels high or larger in the same proportion, and the file may be anything from 250 KB to 5 MB.",
    briefs: one({ width: { min: 630 }, height: { min: 810 }, fileSize: { min: "250KB", max: "5MB" } }),
  },
  {
    text: "Certificate of birth (scan, PDF, ≤ 1 MB), certificate of residence (scan, PDF, ≤ 1 MB), portrait (JPEG, ≤ 300 KB).",
    briefs: [
      { name: "Certificate of birth", clauses: { ...pdf, ...max("1MB") } },
      { name: "Certificate of residence", clauses: { ...pdf, ...max("1MB") } },
      { name: "Portrait", clauses: { ...jpeg, ...max("300KB") } },
    ],
  },
  {
    text: "Rooms from 79 a night. Breakfast 7 to 10. Check-out 11:00. Parking 12.",
    briefs: [],
  },
  {
    text: "Microscope images: TIFF, uncompressed, 16 bit, greyscale, no cropping, scale bar burnt in.",
    briefs: one({ ...tiff, colour: { bits: 16, space: "gray" }, frame: "whole" }),
  },
  {
    text: "Submit your headshot and your logo. Headshot: JPEG, 1000 × 1000 px, 1 MB max. Logo: PNG, 1000 px wide, 500 KB max.",
    briefs: [
      { name: "Headshot", clauses: { ...jpeg, ...px(1000, 1000), ...max("1MB") } },
      { name: "Logo", clauses: { ...png, width: { exact: 1000 }, ...max("500KB") } },
    ],
  },
];
