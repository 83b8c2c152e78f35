/** Several documents in one text, told apart by lists, letters, dashes and tables. All invented. */
import { kb, px, type Wording } from "./corpus";

const mm = (width: number, height: number) => ({ width: `${width}mm`, height: `${height}mm` });

export const FOURTH: Wording[] = [
  {
    text: "1. Photograph – 35mm*45mm, 12 KB to 48 KB, JPG\n2. Signature – 40mm*20mm, 5 KB to 15 KB, JPG",
    briefs: [
      { name: "Photograph", clauses: { paper: mm(35, 45), fileSize: kb(12, 48), format: ["jpeg"] } },
      { name: "Signature", clauses: { paper: mm(40, 20), fileSize: kb(5, 15), format: ["jpeg"] } },
    ],
  },
  {
    text: "Please send us (a) a portrait as JPG, at most 400 KB; (b) a scan of your diploma, PDF, 200 dpi, at most 2 MB.",
    briefs: [
      { name: "Portrait", clauses: { format: ["jpeg"], fileSize: { max: "400KB" } } },
      {
        name: "Scan of your diploma",
        clauses: { format: ["pdf"], resolution: { exact: "200ppi" }, fileSize: { max: "2MB" } },
      },
    ],
  },
  {
    text: "- ID card, front: JPG, 60 to 180 KB\n- ID card, back: JPG, 40 to 120 KB",
    briefs: [
      { name: "ID card, front", clauses: { format: ["jpeg"], fileSize: kb(60, 180) } },
      { name: "ID card, back", clauses: { format: ["jpeg"], fileSize: kb(40, 120) } },
    ],
  },
  {
    text: "Uploads for the heath walk:\na) Photo - 240 x 320 px, 20-60 KB\nb) Signature - 180 x 60 px, 8-20 KB\nc) Thumb impression - 240 x 240 px, 10-30 KB\nAll files in JPEG.",
    briefs: [
      { name: "Photo", clauses: { ...px(240, 320), fileSize: kb(20, 60), format: ["jpeg"] } },
      { name: "Signature", clauses: { ...px(180, 60), fileSize: kb(8, 20), format: ["jpeg"] } },
      { name: "Thumb impression", clauses: { ...px(240, 240), fileSize: kb(10, 30), format: ["jpeg"] } },
    ],
  },
  {
    text: "• Passport photo – 413 × 531 px, max. 300 KB\n• Proof of address – PDF, max. 3 MB\n• Consent of a parent – PDF, max. 1 MB",
    briefs: [
      { name: "Passport photo", clauses: { ...px(413, 531), fileSize: { max: "300KB" } } },
      { name: "Proof of address", clauses: { format: ["pdf"], fileSize: { max: "3MB" } } },
      { name: "Consent of a parent", clauses: { format: ["pdf"], fileSize: { max: "1MB" } } },
    ],
  },
  {
    text: "Photo (JPG, 200 x 230 pixels, 20 to 50 KB)\nSignature (JPG, 140 x 60 pixels, 10 to 20 KB)",
    briefs: [
      { name: "Photo", clauses: { format: ["jpeg"], ...px(200, 230), fileSize: kb(20, 50) } },
      { name: "Signature", clauses: { format: ["jpeg"], ...px(140, 60), fileSize: kb(10, 20) } },
    ],
  },
  {
    text: "Shop window\n- main picture, 2000 x 2000 px, JPEG, up to 3 MB\n- detail picture, 1200 x 1200 px, JPEG, up to 1 MB\n- moving sample, 600 x 600 px, GIF, up to 4 MB",
    briefs: [
      { name: "Main picture", clauses: { ...px(2000, 2000), format: ["jpeg"], fileSize: { max: "3MB" } } },
      { name: "Detail picture", clauses: { ...px(1200, 1200), format: ["jpeg"], fileSize: { max: "1MB" } } },
      { name: "Moving sample", clauses: { ...px(600, 600), format: ["gif"], fileSize: { max: "4MB" } } },
    ],
  },
  {
    text: "(i) Recent colour photograph: 35 mm x 45 mm, 20 KB - 100 KB. (ii) Left thumb: 35 mm x 35 mm, 20 KB - 50 KB. Both in JPEG.",
    briefs: [
      {
        name: "Recent colour photograph",
        clauses: { paper: mm(35, 45), fileSize: kb(20, 100), format: ["jpeg"] },
      },
      { name: "Left thumb", clauses: { paper: mm(35, 35), fileSize: kb(20, 50), format: ["jpeg"] } },
    ],
  },
  {
    text: "Requirements:\n- JPEG only\n- between 40 and 90 KB\n- 300 x 400 pixels\n- plain background",
    briefs: [{ clauses: { format: ["jpeg"], fileSize: kb(40, 90), ...px(300, 400) } }],
  },
  {
    text: "Before you upload:\n1. Crop the portrait to 300 x 400 px.\n2. Save it as JPEG.\n3. Keep it between 40 and 90 KB.",
    briefs: [{ clauses: { ...px(300, 400), format: ["jpeg"], fileSize: kb(40, 90) } }],
  },
  {
    text: "Size rules: (a) at least 600 px wide; (b) at least 400 px high; (c) no more than 500 KB.",
    briefs: [{ clauses: { width: { min: 600 }, height: { min: 400 }, fileSize: { max: "500KB" } } }],
  },
  {
    text: "Team page – 800 x 800 px, PNG\nMailing – 600 x 200 px, JPEG\nNotice board – A4, 300 dpi, PDF",
    briefs: [
      { name: "Team page", clauses: { ...px(800, 800), format: ["png"] } },
      { name: "Mailing", clauses: { ...px(600, 200), format: ["jpeg"] } },
      {
        name: "Notice board",
        clauses: { paper: mm(210, 297), resolution: { exact: "300ppi" }, format: ["pdf"] },
      },
    ],
  },

  {
    text: "Documents to be uploaded: 1) Applicant's photo - JPEG, 15 KB to 40 KB 2) Applicant's signature - JPEG, 5 KB to 12 KB",
    briefs: [
      { name: "Applicant's photo", clauses: { format: ["jpeg"], fileSize: kb(15, 40) } },
      { name: "Applicant's signature", clauses: { format: ["jpeg"], fileSize: kb(5, 12) } },
    ],
  },
  {
    text: "Document | Format | Size\nPhoto | JPG | 20 to 50 KB\nSignature | JPG | 10 to 20 KB\nMark sheet | PDF | up to 300 KB",
    briefs: [
      { name: "Photo", clauses: { format: ["jpeg"], fileSize: kb(20, 50) } },
      { name: "Signature", clauses: { format: ["jpeg"], fileSize: kb(10, 20) } },
      { name: "Mark sheet", clauses: { format: ["pdf"], fileSize: { max: "300KB" } } },
    ],
  },
  {
    text: "For the allotment card we need two files:\n\n(1) Face – 300 × 400 px, JPG, not more than 80 KB\n(2) Handwritten mark – 300 × 100 px, JPG, not more than 30 KB",
    briefs: [
      { name: "Face", clauses: { ...px(300, 400), format: ["jpeg"], fileSize: { max: "80KB" } } },
      { name: "Handwritten mark", clauses: { ...px(300, 100), format: ["jpeg"], fileSize: { max: "30KB" } } },
    ],
  },
  {
    text: "The portrait must be a JPEG of 600 x 800 pixels. The signature must be a PNG of 400 x 150 pixels.",
    briefs: [
      { name: "Portrait", clauses: { format: ["jpeg"], ...px(600, 800) } },
      { name: "Signature", clauses: { format: ["png"], ...px(400, 150) } },
    ],
  },
  {
    text: "a. Photograph of the candidate: 3.5 cm x 4.5 cm, 30 KB – 60 KB.\nb. Signature of the candidate: 6 cm x 2 cm, 10 KB – 30 KB.\nSame format for both: JPG.",
    briefs: [
      {
        name: "Photograph of the candidate",
        clauses: { paper: { width: "3.5cm", height: "4.5cm" }, fileSize: kb(30, 60), format: ["jpeg"] },
      },
      {
        name: "Signature of the candidate",
        clauses: { paper: { width: "6cm", height: "2cm" }, fileSize: kb(10, 30), format: ["jpeg"] },
      },
    ],
  },
  {
    text: "Web: 1200 px wide, JPEG, under 300 KB. Print: 300 dpi, TIFF.",
    briefs: [
      { name: "Web", clauses: { width: { exact: 1200 }, format: ["jpeg"], fileSize: { max: "300KB" } } },
      { name: "Print", clauses: { resolution: { exact: "300ppi" }, format: ["tiff"] } },
    ],
  },
  {
    text: "Entries\n* Thumbnail (square, 400 x 400 px, PNG)\n* Large picture (1600 x 1200 px, JPEG, at most 2 MB)",
    briefs: [
      { name: "Thumbnail", clauses: { shape: "1:1", ...px(400, 400), format: ["png"] } },
      { name: "Large picture", clauses: { ...px(1600, 1200), format: ["jpeg"], fileSize: { max: "2MB" } } },
    ],
  },
  {
    text: "- Upload a JPEG\n- Do not exceed 200 KB\n- 240 x 300 pixels\n- no borders",
    briefs: [{ clauses: { format: ["jpeg"], fileSize: { max: "200KB" }, ...px(240, 300), border: "none" } }],
  },
  {
    text: "Photo: 20 KB to 50 KB (JPEG)\nThumb: 20 KB to 40 KB (JPEG)\nDeclaration, handwritten: 50 KB to 100 KB (JPEG)",
    briefs: [
      { name: "Photo", clauses: { fileSize: kb(20, 50), format: ["jpeg"] } },
      { name: "Thumb", clauses: { fileSize: kb(20, 40), format: ["jpeg"] } },
      { name: "Declaration, handwritten", clauses: { fileSize: kb(50, 100), format: ["jpeg"] } },
    ],
  },
  {
    text: "Please attach:\n– your photo in JPG format (max. 150 KB)\n– your certificate in PDF format (max. 1 MB)",
    briefs: [
      { name: "Photo", clauses: { format: ["jpeg"], fileSize: { max: "150KB" } } },
      { name: "Certificate", clauses: { format: ["pdf"], fileSize: { max: "1MB" } } },
    ],
  },
  {
    text: "Maximum – 2 MB\nMinimum – 100 KB\nFormat – PNG",
    briefs: [{ clauses: { fileSize: { min: "100KB", max: "2MB" }, format: ["png"] } }],
  },
  {
    text: "The stall's sign (i) shall be 900 px wide, and (ii) shall not exceed 700 KB.",
    briefs: [{ clauses: { width: { exact: 900 }, fileSize: { max: "700KB" } } }],
  },
];
