/** Breadth and structure: lists, tables, long unrelated text, words for numbers. All invented; measured once before the reader was touched. */
import { kb, one, paper, px, type Wording } from "./corpus";

export const FIFTH: Wording[] = [
  {
    text: "Photograph upto 60 KB, signature upto 20 KB, both JPG.",
    briefs: [
      { name: "Photograph", clauses: { fileSize: { max: "60KB" }, format: ["jpeg"] } },
      { name: "Signature", clauses: { fileSize: { max: "20KB" }, format: ["jpeg"] } },
    ],
  },
  {
    text: "The picture shall have a minimum of 800 pixels on the shorter side and not more than 3 MB.",
    briefs: one({ shortSide: { min: 800 }, fileSize: { max: "3MB" } }),
  },
  {
    text: "File size: 15 KB till 45 KB. File type: jpg.",
    briefs: one({ fileSize: kb(15, 45), format: ["jpeg"] }),
  },
  {
    text: "Scans on A4 at 300 dpi, saved as PDF, no more than 5 MB.",
    briefs: one({
      paper: paper("210mm", "297mm"),
      resolution: { exact: "300ppi" },
      format: ["pdf"],
      fileSize: { max: "5MB" },
    }),
  },
  {
    text: "Please send the drawing in greyscale, sixteen (16) bits, as TIFF.",
    briefs: one({ colour: { space: "gray", bits: 16 }, format: ["tiff"] }),
  },
  {
    text: "JPEG quality 90 or better, sRGB, long side 2400 px.",
    briefs: one({
      format: ["jpeg"],
      quality: { min: 90 },
      colour: { space: "srgb" },
      longSide: { exact: 2400 },
    }),
  },
  {
    text: "Save as JPEG with a quality between 70 and 85 %, longest edge 1800 pixels.",
    briefs: one({ format: ["jpeg"], quality: { min: 70, max: 85 }, longSide: { exact: 1800 } }),
  },
  {
    text: "Black and white only. 600 dpi. TIFF, LZW or none.",
    briefs: one({ colour: { space: "gray" }, resolution: { exact: "600ppi" }, format: ["tiff"] }),
  },
  {
    text: "The Fellbeck Society, founded 1931, has 212 members and meets on 14 March at 19:30 in room 7. For the year book we need your portrait: 60 x 80 mm, 300 dpi, JPEG. The fee of 35.00 is due on 1 May.",
    briefs: one({ paper: paper("60mm", "80mm"), resolution: { exact: "300ppi" }, format: ["jpeg"] }),
  },
  { text: "Pictures must not pass 900 KB each.", briefs: one({ fileSize: { max: "900KB" } }) },
  {
    text: "No less than 1000 px wide, no less than 1500 px high, do not enlarge.",
    briefs: one({ width: { min: 1000 }, height: { min: 1500 }, enlarge: "never" }),
  },
  {
    text: "Under 2 MB, over 200 KB, PNG or JPG.",
    briefs: one({ fileSize: { max: "2MB", min: "200KB" }, format: ["png", "jpeg"] }),
  },
  {
    text: "Header: 1920 x 480 px, JPG, under 400 KB\nLogo: 512 x 512 px, PNG with transparent background, under 100 KB\nFavicon: 64 x 64 px, PNG",
    briefs: [
      { name: "Header", clauses: { ...px(1920, 480), format: ["jpeg"], fileSize: { max: "400KB" } } },
      { name: "Logo", clauses: { ...px(512, 512), format: ["png"], fileSize: { max: "100KB" } } },
      { name: "Favicon", clauses: { ...px(64, 64), format: ["png"] } },
    ],
  },
  {
    text: "What | Pixels | KB\nFace | 300 x 400 | 20-50\nMark | 300 x 100 | 5-20",
    briefs: [
      { name: "Face", clauses: { ...px(300, 400), fileSize: kb(20, 50) } },
      { name: "Mark", clauses: { ...px(300, 100), fileSize: kb(5, 20) } },
    ],
  },
  {
    text: "Detail pictures must have 1200 x 900 px and at most 600 KB. Overview pictures must have 2400 x 1800 px and at most 2 MB. All pictures as JPEG.",
    briefs: [
      {
        name: "Detail pictures",
        clauses: { ...px(1200, 900), fileSize: { max: "600KB" }, format: ["jpeg"] },
      },
      {
        name: "Overview pictures",
        clauses: { ...px(2400, 1800), fileSize: { max: "2MB" }, format: ["jpeg"] },
      },
    ],
  },
  {
    text: "Print file (winners only): TIFF, 300 dpi, 297 x 210 mm. Entry file: JPEG, long side 1600 px, at most 1.5 MB.",
    briefs: [
      {
        name: "Print file (winners only)",
        clauses: { format: ["tiff"], resolution: { exact: "300ppi" }, paper: paper("297mm", "210mm") },
      },
      {
        name: "Entry file",
        clauses: { format: ["jpeg"], longSide: { exact: 1600 }, fileSize: { max: "1.5MB" } },
      },
    ],
  },
  {
    text: "How large may my picture be? At most 4 MB. Which format? JPEG. How many pixels? At least 1024 on the long side.",
    briefs: one({ fileSize: { max: "4MB" }, format: ["jpeg"], longSide: { min: 1024 } }),
  },
  {
    text: "§ 4 (1) The photograph shall be 35 mm wide and 45 mm high. (2) It shall be submitted as JPEG. (3) It shall not exceed 240 KB.",
    briefs: one({ paper: paper("35mm", "45mm"), format: ["jpeg"], fileSize: { max: "240KB" } }),
  },
  {
    text: "Attachments: in all no more than 8 MB, each picture at most 1600 px on its long side, JPEG.",
    briefs: one({ longSide: { max: 1600 }, format: ["jpeg"], total: { max: "8MB" } }),
  },
  {
    text: "Cover: 210 x 297 mm plus 3 mm bleed, 300 dpi, PDF. Back cover: 210 x 297 mm, 300 dpi, PDF.",
    briefs: [
      {
        name: "Cover",
        clauses: { paper: paper("210mm", "297mm"), resolution: { exact: "300ppi" }, format: ["pdf"] },
      },
      {
        name: "Back cover",
        clauses: { paper: paper("210mm", "297mm"), resolution: { exact: "300ppi" }, format: ["pdf"] },
      },
    ],
  },
  {
    text: "Your mailbox holds 5 GB. Messages larger than 20 MB are returned. Send the pictures as JPEG, 1280 pixels wide.",
    briefs: one({ format: ["jpeg"], width: { exact: 1280 } }),
  },
  {
    text: "Item 1: signature on white paper, black ink, JPG, 140 x 60 px, between 4 KB and 20 KB.\nItem 2: photo on a plain background, JPG, 200 x 230 px, between 20 KB and 50 KB.",
    briefs: [
      { name: "Item 1", clauses: { ink: "black", format: ["jpeg"], ...px(140, 60), fileSize: kb(4, 20) } },
      { name: "Item 2", clauses: { format: ["jpeg"], ...px(200, 230), fileSize: kb(20, 50) } },
    ],
  },
  {
    text: "max. 500 KB, min. 50 KB, 4:3, JPG/PNG",
    briefs: one({ fileSize: kb(50, 500), shape: "4:3", format: ["jpeg", "png"] }),
  },
  {
    text: "Size 500 KB max. Width 900 px min.",
    briefs: one({ fileSize: { max: "500KB" }, width: { min: 900 } }),
  },
  {
    text: "Photo:\n  Format: JPG\n  Pixels: 200 x 260\n  Size: 12-48 KB\nSignature:\n  Format: JPG\n  Pixels: 200 x 80\n  Size: 6-18 KB",
    briefs: [
      { name: "Photo", clauses: { format: ["jpeg"], ...px(200, 260), fileSize: kb(12, 48) } },
      { name: "Signature", clauses: { format: ["jpeg"], ...px(200, 80), fileSize: kb(6, 18) } },
    ],
  },
];
