/** The second half of the invented wordings, written when the reader had been tried on the first. */
import { one, px, type Wording } from "./corpus";

export const SECOND: Wording[] = [
  { text: "Your picture has to be exactly 348 pixels wide and 436 pixels high.", briefs: one(px(348, 436)) },
  { text: "Photo dimensions: 348px (W) X 436px (H)", briefs: one(px(348, 436)) },
  {
    text: "348*436 pixels, JPG, 25 - 85 KB",
    briefs: one({ ...px(348, 436), format: ["jpeg"], fileSize: { min: "25KB", max: "85KB" } }),
  },
  {
    text: "Minimum 700 × 500 px, maximum 2100 × 1500 px.",
    briefs: one({ width: { min: 700, max: 2100 }, height: { min: 500, max: 1500 } }),
  },
  {
    text: "Between 400 x 500 and 800 x 1000 pixels, colour photograph.",
    briefs: one({ width: { min: 400, max: 800 }, height: { min: 500, max: 1000 } }),
    onlyYou: ["colour photograph"],
  },
  {
    text: "The longest edge should not be longer than 1350 pixels; the shortest no shorter than 500 px.",
    briefs: one({ longSide: { max: 1350 } }),
  },
  { text: "No side over 1150 px. Attachments: 3 per mail.", briefs: one({ longSide: { max: 1150 } }) },
  {
    text: "File must be under 85 KB but over 12 KB.",
    briefs: one({ fileSize: { min: "12KB", max: "85KB" } }),
  },
  {
    text: "Files must not be smaller than 15 KB or larger than 75 KB.",
    briefs: one({ fileSize: { min: "15KB", max: "75KB" } }),
  },
  {
    text: "From 14 KB up to 64 KB. GIF or BMP.",
    briefs: one({ fileSize: { min: "14KB", max: "64KB" }, format: ["gif", "bmp"] }),
  },
  {
    text: "Weight ≤ 650 KB, width ≥ 1100 px",
    briefs: one({ fileSize: { max: "650KB" }, width: { min: 1100 } }),
  },
  {
    text: "We refuse files over 3 MB and pictures less than 800 px wide.",
    briefs: one({ fileSize: { max: "3MB" }, width: { min: 800 } }),
  },
  { text: "Files of more than 250,000 bytes are sent back.", briefs: one({ fileSize: { max: "250000B" } }) },
  {
    text: "Anything smaller than 900 pixels on the longest side will not be accepted.",
    briefs: one({ longSide: { min: 900 } }),
  },
  { text: "Max 512 KiB per file", briefs: one({ fileSize: { max: "512KiB" } }) },
  { text: "Formats other than JPEG are rejected.", briefs: one({ format: ["jpeg"] }) },
  {
    text: "We take JPEG, PNG or WebP; TIFF is not accepted.",
    briefs: one({ format: ["jpeg", "png", "webp"] }),
  },
  {
    text: "Send TIFFs rather than JPEGs. 16 bit per channel, Display P3 with the profile embedded.",
    briefs: one({ format: ["tiff"], colour: { bits: 16, space: "display-p3", profile: "embed" } }),
  },
  { text: "PNG preferred, JPEG accepted.", briefs: one({ format: ["png", "jpeg"] }) },
  {
    text: "Greyscale scans, 24 cm wide, 120 px/cm.",
    briefs: one({ colour: { space: "gray" }, paper: { width: "24cm" }, resolution: { exact: "120ppcm" } }),
  },
  {
    text: "Print at 6 × 9 inches and 240 ppi. Do not upscale.",
    briefs: one({
      paper: { width: "6in", height: "9in" },
      resolution: { exact: "240ppi" },
      enlarge: "never",
    }),
  },
  {
    text: "Photo: 32mm x 40mm, white background, recent (not older than 6 months), no hats.",
    briefs: [{ name: "Photo", clauses: { paper: { width: "32mm", height: "40mm" }, background: "#ffffff" } }],
    onlyYou: ["recent", "no hats"],
  },
  {
    text: "5″ × 7″ at 300 dpi or more",
    briefs: one({ paper: { width: "5in", height: "7in" }, resolution: { min: "300ppi" } }),
  },
  {
    text: "Thumbnails: square, 180 px wide, WebP at 60 % quality or less.",
    briefs: [
      {
        name: "Thumbnails",
        clauses: { shape: "1:1", width: { exact: 180 }, format: ["webp"], quality: { max: 60 } },
      },
    ],
  },
  { text: "JPEG quality between 60 % and 80 %.", briefs: one({ quality: { min: 60, max: 80 } }) },
  { text: "Quality: 75 out of 100, JPEG", briefs: one({ quality: { min: 75, max: 75 }, format: ["jpeg"] }) },
  { text: "Quality 9 of 12. Aspect ratio 3:2.", briefs: one({ shape: "3:2" }), unread: ["9"] },
  { text: "The office closes at 16:30; the hut has 12:15 dinners on 4:3 days.", briefs: [] },
  { text: "The old limit was 2 MB, the limit is now 3.5 MB.", briefs: one({ fileSize: { max: "3.5MB" } }) },
  { text: "For example, a photo of 330 x 420 px would be fine. Is 90 KB enough?", briefs: [] },
  { text: "Keep about 200 KB free; pictures of roughly 900 px are usual.", briefs: [] },
  { text: "You need 2 GB of free disk space and a 1920 × 1080 monitor.", briefs: [] },
  {
    text: "Bring 2 passport photos, an envelope 22 x 11 cm and 40 EUR to room 330.",
    briefs: [],
    onlyYou: [],
  },
  {
    text: "Ring 01632 960 420 (9:00 to 16:30) or write to moths@quillmoor.example before 2026-11-30.",
    briefs: [],
  },
  {
    text: "Face height 70 to 80 % of the picture, 34 mm from chin to crown.",
    briefs: [],
  },
  { text: "If your picture is larger than 2 MB the form takes longer.", briefs: [] },
  { text: "El archivo no debe superar los 90 KB y la foto debe medir 330 x 420 px.", briefs: [] },
  { text: "Bilden ska vara 330 x 420 px och inte större än 90 KB.", briefs: [] },
  {
    text: "Each picture up to 900 KB, everything together at most 8 MB.",
    briefs: one({ fileSize: { max: "900KB" }, total: { max: "8MB" } }),
  },
  {
    text: "Our mail server bounces messages over 7 MB.",
    briefs: one({ total: { max: "7MB", counted: "mail" } }),
  },
  {
    text: "The whole e-mail must not exceed 9 MB. Do not rename the files.",
    briefs: one({ total: { max: "9MB", counted: "mail" }, names: "{name}" }),
  },
  {
    text: "Total size limit: 20 MB. Crop to 4:5.",
    briefs: one({ total: { max: "20MB" }, frame: "fill", shape: "4:5" }),
  },
  {
    text: "Warden's badge. Your face as PNG or JPEG, 330 px wide by 420 px high if possible, weighing 30 to 90 KB, to be printed 28 mm × 35 mm. No hats, please; the wall behind should be plain.\n\nConsent slip. Your mark in black pen on white, 200x90, not under 6 KB nor over 16 KB. Label both as the annex says.",
    briefs: [
      {
        name: "Warden's badge",
        clauses: {
          format: ["png", "jpeg"],
          ...px(330, 420),
          fileSize: { min: "30KB", max: "90KB" },
          paper: { width: "28mm", height: "35mm" },
        },
        wishes: ["width", "height"],
      },
      {
        name: "Consent slip",
        clauses: { ink: "black", ...px(200, 90), fileSize: { min: "6KB", max: "16KB" } },
      },
    ],
    onlyYou: ["No hats", "the wall behind should be plain"],
    unread: ["the annex says"],
  },
  {
    text: "All files in sRGB, no larger than 400 KB.\n\nFront cover\nJPEG, 900 × 1200 px\n\nBack cover\nPNG, 900 × 1200 px",
    briefs: [
      {
        name: "Front cover",
        clauses: {
          colour: { space: "srgb" },
          fileSize: { max: "400KB" },
          format: ["jpeg"],
          ...px(900, 1200),
        },
      },
      {
        name: "Back cover",
        clauses: { colour: { space: "srgb" }, fileSize: { max: "400KB" }, format: ["png"], ...px(900, 1200) },
      },
    ],
  },
  {
    text: "The photo must be 290 x 370 px and 15 to 55 KB. The signature must be 250 x 100 px and 4 to 14 KB.",
    briefs: [
      { name: "Photo", clauses: { ...px(290, 370), fileSize: { min: "15KB", max: "55KB" } } },
      { name: "Signature", clauses: { ...px(250, 100), fileSize: { min: "4KB", max: "14KB" } } },
    ],
  },
  {
    text: "| | Portrait | Signature |\n|---|---|---|\n| Width | 310 px | 230 px |\n| Height | 390 px | 85 px |\n| File size | 18–58 KB | 4–12 KB |\n| Type | JPEG | PNG |",
    briefs: [
      {
        name: "Portrait",
        clauses: { ...px(310, 390), fileSize: { min: "18KB", max: "58KB" }, format: ["jpeg"] },
      },
      {
        name: "Signature",
        clauses: { ...px(230, 85), fileSize: { min: "4KB", max: "12KB" }, format: ["png"] },
      },
    ],
  },
  {
    text: "Photo size: 300 x 390 px. Signature size: 240 x 90 px.",
    briefs: [
      { name: "Photo", clauses: px(300, 390) },
      { name: "Signature", clauses: px(240, 90) },
    ],
  },
  {
    text: "Requirements\n1. JPEG only\n2. 1,250 x 950 px\n3. between 100 and 480 KB\n4. no location data",
    briefs: one({
      format: ["jpeg"],
      ...px(1250, 950),
      fileSize: { min: "100KB", max: "480KB" },
      metadata: "private",
    }),
  },
  {
    text: "Width\t820 px\nHeight\t620 px\nMaximum size\t320 KB",
    briefs: one({ ...px(820, 620), fileSize: { max: "320KB" } }),
  },
  {
    text: "A banner of 1500 by 500 pixels (3:1), below 1.2 MB, PNG if possible.",
    briefs: one({ ...px(1500, 500), shape: "3:1", fileSize: { max: "1.2MB" }, format: ["png"] }, ["format"]),
  },
  {
    text: "Ideally 1400 px on the longest side, never below 700 px on the shortest side.",
    briefs: one({ longSide: { exact: 1400 }, shortSide: { min: 700 } }, ["longSide"]),
  },
  {
    text: "The hut's picture frame has 1024 × 600 pixels; pictures must fit inside it, upright or wide.",
    briefs: one({ box: { width: 1024, height: 600 } }),
  },
  {
    text: "As small as possible without visible loss, WebP or AVIF, whichever is smaller.",
    briefs: one({ fileSize: { aim: "clean" }, format: ["webp", "avif"], pick: "smallest" }),
  },
  {
    text: "Please flatten the artwork, keep the metadata and use a background of #f4f1ea.",
    briefs: one({ layers: "flatten", metadata: "keep", background: "#f4f1ea" }),
  },
  {
    text: "1 px black border, 640 × 800 px, nothing may be cut off.",
    briefs: one({ border: { px: 1, colour: "#000000" }, ...px(640, 800), frame: "whole" }),
  },
  {
    text: "Your signature in blue or black ink, scanned at 300 dpi, not above 64 kB.",
    briefs: one({ ink: "original", resolution: { exact: "300ppi" }, fileSize: { max: "64kB" } }),
  },
  { text: "Pictures 1.280 × 960 px, höchstens 2 MB", briefs: one(px(1280, 960)) },
  { text: "Upload limit 1.500 KB.", briefs: [], unread: ["1.500 KB"] },
  { text: "Meet us at Market Square with 3 square boxes, 12 by 12 by 20 cm.", briefs: [] },
  { text: "We sold 400 prints for 12.50 each; 8 bit music at 10.", briefs: [] },
];
