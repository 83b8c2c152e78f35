/** Written without running the reader, to see what new wordings give; most name several documents. All invented. */
import { kb, one, paper, px, type Wording } from "./corpus";

export const SIXTH: Wording[] = [
  {
    text: "Uploads\n1. Passport size photo: 4.5 x 3.5 cm, 20-80 KB, jpg/jpeg\n2. Signature: 10-40 KB, jpg/jpeg\n3. Caste certificate (pdf, below 500 KB)",
    briefs: [
      {
        name: "Passport size photo",
        clauses: { paper: paper("4.5cm", "3.5cm"), fileSize: kb(20, 80), format: ["jpeg"] },
      },
      { name: "Signature", clauses: { fileSize: kb(10, 40), format: ["jpeg"] } },
      { name: "Caste certificate", clauses: { format: ["pdf"], fileSize: { max: "500KB" } } },
    ],
  },
  {
    text: "Portrait of the grower – JPEG, 1000 x 1250 px, no more than 700 KB\nThe orchard from above – JPEG, 2400 x 1350 px, no more than 2 MB",
    briefs: [
      {
        name: "Portrait of the grower",
        clauses: { format: ["jpeg"], ...px(1000, 1250), fileSize: { max: "700KB" } },
      },
      {
        name: "Orchard from above",
        clauses: { format: ["jpeg"], ...px(2400, 1350), fileSize: { max: "2MB" } },
      },
    ],
  },
  {
    text: "We ask for: (a) one photo of the stall, 1600 px wide, JPEG; (b) one photo of yourself, 600 px wide, JPEG. Each at most 900 KB.",
    briefs: [
      {
        name: "Photo of the stall",
        clauses: { width: { exact: 1600 }, format: ["jpeg"], fileSize: { max: "900KB" } },
      },
      {
        name: "Photo of yourself",
        clauses: { width: { exact: 600 }, format: ["jpeg"], fileSize: { max: "900KB" } },
      },
    ],
  },
  {
    text: "Use | Width | Height | Format\nStage screen | 1920 | 1080 | PNG\nDoor sign | 1080 | 1920 | PNG\nTicket | 800 | 400 | JPEG",
    briefs: [
      { name: "Stage screen", clauses: { format: ["png"] } },
      { name: "Door sign", clauses: { format: ["png"] } },
      { name: "Ticket", clauses: { format: ["jpeg"] } },
    ],
  },
  {
    text: "ID document, front page: PDF, up to 1.5 MB\nID document, rear page: PDF, up to 1.5 MB\nSelfie: JPG, 480 x 640 px, up to 300 KB",
    briefs: [
      { name: "ID document, front page", clauses: { format: ["pdf"], fileSize: { max: "1.5MB" } } },
      { name: "ID document, rear page", clauses: { format: ["pdf"], fileSize: { max: "1.5MB" } } },
      { name: "Selfie", clauses: { format: ["jpeg"], ...px(480, 640), fileSize: { max: "300KB" } } },
    ],
  },
  {
    text: "Your photo must be between 30 KB and 90 KB. Your signature must be between 10 KB and 30 KB. Both have to be JPEG.",
    briefs: [
      { name: "Photo", clauses: { fileSize: kb(30, 90), format: ["jpeg"] } },
      { name: "Signature", clauses: { fileSize: kb(10, 30), format: ["jpeg"] } },
    ],
  },
  {
    text: "For the leaflet: TIFF, 300 dpi, 105 x 148 mm.\nFor the website: JPEG, 1200 px on the long side, below 350 KB.",
    briefs: [
      {
        name: "Leaflet",
        clauses: { format: ["tiff"], resolution: { exact: "300ppi" }, paper: paper("105mm", "148mm") },
      },
      {
        name: "Website",
        clauses: { format: ["jpeg"], longSide: { exact: 1200 }, fileSize: { max: "350KB" } },
      },
    ],
  },
  {
    text: "Checklist:\n[ ] JPEG\n[ ] 600 x 600 px\n[ ] not more than 240 KB\n[ ] white background",
    briefs: one({ format: ["jpeg"], ...px(600, 600), fileSize: { max: "240KB" }, background: "#ffffff" }),
  },
  {
    text: "Kindly submit scanned copies of: i) Degree certificate - PDF, max 2 MB; ii) Mark sheets - PDF, max 4 MB; iii) Recent photo - JPG, max 100 KB",
    briefs: [
      { name: "Degree certificate", clauses: { format: ["pdf"], fileSize: { max: "2MB" } } },
      { name: "Mark sheets", clauses: { format: ["pdf"], fileSize: { max: "4MB" } } },
      { name: "Recent photo", clauses: { format: ["jpeg"], fileSize: { max: "100KB" } } },
    ],
  },
  {
    text: "Pictures for the wall calendar are printed at 300 x 420 mm; we need 200 dpi or more. TIFF or JPEG.",
    briefs: one({ paper: paper("300mm", "420mm"), resolution: { min: "200ppi" }, format: ["tiff", "jpeg"] }),
  },
  {
    text: "Avatar 256×256 PNG max 80KB; banner 1500×500 JPG max 600KB",
    briefs: [
      { name: "Avatar", clauses: { ...px(256, 256), format: ["png"], fileSize: { max: "80KB" } } },
      { name: "Banner", clauses: { ...px(1500, 500), format: ["jpeg"], fileSize: { max: "600KB" } } },
    ],
  },
  {
    text: "Annex 3\nA. Applicant's photograph – width 35 mm, height 45 mm, size 20 to 60 kB\nB. Applicant's signature – width 35 mm, height 15 mm, size 10 to 30 kB\nC. General – JPEG, 24-bit colour, no scanned prints",
    briefs: [
      {
        name: "Applicant's photograph",
        clauses: {
          paper: paper("35mm", "45mm"),
          fileSize: { min: "20kB", max: "60kB" },
          format: ["jpeg"],
          colour: { bits: 8 },
        },
      },
      {
        name: "Applicant's signature",
        clauses: {
          paper: paper("35mm", "15mm"),
          fileSize: { min: "10kB", max: "30kB" },
          format: ["jpeg"],
          colour: { bits: 8 },
        },
      },
    ],
  },
  {
    text: "Attach at most six pictures, together not more than 12 MB. JPEG. None wider than 2000 px.",
    briefs: one({ total: { max: "12MB" }, format: ["jpeg"], width: { max: 2000 } }),
  },
  {
    text: "Photo size: 200 x 230 px (20 kb - 50 kb)\nSignature size: 140 x 60 px (10 kb - 20 kb)\nFile type: jpg / jpeg",
    briefs: [
      { name: "Photo", clauses: { ...px(200, 230), fileSize: kb(20, 50), format: ["jpeg"] } },
      { name: "Signature", clauses: { ...px(140, 60), fileSize: kb(10, 20), format: ["jpeg"] } },
    ],
  },
  {
    text: "The image should not be blurred. It should be in colour. It should be at least 1200 pixels wide and 1600 pixels high. It should not be heavier than 5 MB.",
    briefs: one({ width: { min: 1200 }, height: { min: 1600 }, fileSize: { max: "5MB" } }),
  },
  {
    text: "Left hand: PNG, 500 x 500 px, 40 KB to 120 KB\nRight hand: PNG, 500 x 500 px, 40 KB to 120 KB\nBoth thumbs: PNG, 700 x 500 px, 40 KB to 150 KB",
    briefs: [
      { name: "Left hand", clauses: { format: ["png"], ...px(500, 500), fileSize: kb(40, 120) } },
      { name: "Right hand", clauses: { format: ["png"], ...px(500, 500), fileSize: kb(40, 120) } },
      { name: "Both thumbs", clauses: { format: ["png"], ...px(700, 500), fileSize: kb(40, 150) } },
    ],
  },
  {
    text: "Do:\n- use JPG\n- stay under 1 MB\nDon't:\n- send anything wider than 1800 px\n- use PNG",
    briefs: one({ format: ["jpeg"], fileSize: { max: "1MB" }, width: { max: 1800 } }),
  },
  {
    text: "Section 2 – Photograph\nDigital photograph in JPG format of 50 to 100 KB.\n\nSection 3 – Signature\nScanned signature in JPG format of 20 to 50 KB.",
    briefs: [
      { name: "Photograph", clauses: { format: ["jpeg"], fileSize: kb(50, 100) } },
      { name: "Signature", clauses: { format: ["jpeg"], fileSize: kb(20, 50) } },
    ],
  },
  {
    text: "* 1 cover picture (3:2, min. 1800 px wide)\n* 4 step pictures (1:1, min. 900 px wide)\nall JPG",
    briefs: [
      { name: "Cover picture", clauses: { shape: "3:2", width: { min: 1800 }, format: ["jpeg"] } },
      { name: "Step pictures", clauses: { shape: "1:1", width: { min: 900 }, format: ["jpeg"] } },
    ],
  },
  {
    text: "Specimen label: PNG, 600 dpi, 50 x 20 mm. Specimen photo: TIFF, 16 bits per channel, no compression.",
    briefs: [
      {
        name: "Specimen label",
        clauses: { format: ["png"], resolution: { exact: "600ppi" }, paper: paper("50mm", "20mm") },
      },
      { name: "Specimen photo", clauses: { format: ["tiff"], colour: { bits: 16 } } },
    ],
  },
];
