/** Longer and untidier wordings, as they stand on pages, in mails and in leaflets. All invented. */
import { one, px, type Wording } from "./corpus";

export const THIRD: Wording[] = [
  {
    text: "Dear applicant,\n\nthank you for registering. Before Friday 27 November 2026 please upload the following at counter 14:\n\n1) Passport-style photograph\n   - JPG/JPEG format only\n   - dimensions: 320 x 410 pixels (preferred)\n   - file size between 22 KB and 68 KB\n   - taken within the last 6 months\n\n2) Signature\n   - JPG/JPEG format\n   - 180 x 70 pixels\n   - 7 KB to 18 KB\n   - in black ink on white paper\n\nQuestions? Ring 0555 014 330. The fee is 45.00.",
    briefs: [
      {
        name: "Passport-style photograph",
        clauses: { format: ["jpeg"], ...px(320, 410), fileSize: { min: "22KB", max: "68KB" } },
        wishes: ["width", "height"],
      },
      {
        name: "Signature",
        clauses: { format: ["jpeg"], ...px(180, 70), fileSize: { min: "7KB", max: "18KB" }, ink: "black" },
      },
    ],
    onlyYou: ["taken within the last 6 months"],
  },
  {
    text: "Images for the newsletter should be landscape, at least 1300 pixels wide, saved as JPG, and no bigger than 1.8 MB.",
    briefs: one({ width: { min: 1300 }, format: ["jpeg"], fileSize: { max: "1.8MB" } }),
  },
  {
    text: "File type: .jpg, .jpeg or .png\nMax. file size: 4 MB\nMin. dimensions: 500 x 650 px\nRecommended dimensions: 1000 x 1300 px",
    briefs: one({
      format: ["jpeg", "png"],
      fileSize: { max: "4MB" },
      width: { min: 500 },
      height: { min: 650 },
    }),
  },
  {
    text: "We print your plate at 128 mm x 92 mm with a resolution of 320 ppi. Please supply CMYK TIFFs without layers.",
    briefs: one({
      paper: { width: "128mm", height: "92mm" },
      resolution: { exact: "320ppi" },
      colour: { space: "cmyk" },
      format: ["tiff"],
      layers: "flatten",
    }),
  },
  {
    text: "Moth pictures for the course: longest side 1050 px, 96 ppi, JPEG with a quality of at most 68 %, sRGB.",
    briefs: one({
      longSide: { exact: 1050 },
      resolution: { exact: "96ppi" },
      format: ["jpeg"],
      quality: { max: 68 },
      colour: { space: "srgb" },
    }),
  },
  {
    text: "Your upload was refused: the file has 412 KB, the limit is 250 KB.",
    briefs: one({ fileSize: { max: "250KB" } }),
  },
  {
    text: "Cover image\n\nSize: 1640 × 624 px\nFile: PNG, up to 2.5 MB\n\nKeep text away from the outer 80 px.",
    briefs: [
      { name: "Cover image", clauses: { ...px(1640, 624), format: ["png"], fileSize: { max: "2.5MB" } } },
    ],
  },
  {
    text: "The picture must not be more than 900 px in width and 600 px in height",
    briefs: one({ width: { max: 900 }, height: { max: 600 } }),
  },
  { text: "Height: 450 px minimum, 900 px maximum", briefs: one({ height: { min: 450, max: 900 } }) },
  {
    text: "maximum height of 700 pixels, minimum width of 350 pixels",
    briefs: one({ height: { max: 700 }, width: { min: 350 } }),
  },
  {
    text: "The photo is to be 3.2 cm wide and 4.1 cm high.",
    briefs: one({ paper: { width: "3.2cm", height: "4.1cm" } }),
  },
  {
    text: "300dpi, 3.2cmx4.1cm, <=60KB",
    briefs: one({
      resolution: { exact: "300ppi" },
      paper: { width: "3.2cm", height: "4.1cm" },
      fileSize: { max: "60KB" },
    }),
  },
  {
    text: "Attach up to 5 photographs (JPEG, max 800 KB each).",
    briefs: one({ format: ["jpeg"], fileSize: { max: "800KB" } }),
  },
  {
    text: "Files should not exceed 350 KB in size, and must be in either JPEG or PNG format.",
    briefs: one({ fileSize: { max: "350KB" }, format: ["jpeg", "png"] }),
  },
  {
    text: "Nothing over 90 KB and nothing under 30 KB will pass.",
    briefs: one({ fileSize: { max: "90KB", min: "30KB" } }),
  },
  {
    text: "It must weigh more than 10 KB, yet less than 50 KB.",
    briefs: one({ fileSize: { min: "10KB", max: "50KB" } }),
  },
  { text: "Pictures larger than 1200 px on any side are scaled down by us.", briefs: [] },
  {
    text: "Use 8-bit sRGB with no embedded profile and strip all EXIF data.",
    briefs: one({ colour: { bits: 8, space: "srgb", profile: "omit" }, metadata: "none" }),
  },
  {
    text: "The form is a PDF; download the PDF and sign it by hand with a black pen.",
    briefs: one({ ink: "black" }),
  },
  { text: "Fill in the form in capital letters with a black pen.", briefs: [] },
  {
    text: "scanned signature (black on white), 12-24 KB, 250 x 75",
    briefs: one({ ink: "black", fileSize: { min: "12KB", max: "24KB" }, ...px(250, 75) }),
  },
  {
    text: "Logo: SVG or PNG, at least 512 px on the shortest side, transparent.",
    briefs: [{ name: "Logo", clauses: { format: ["png"], shortSide: { min: 512 } } }],
  },
  {
    text: "Nothing wider than 1180 px, nothing taller than 880 px, please.",
    briefs: one({ width: { max: 1180 }, height: { max: 880 } }),
  },
  {
    text: "We would like 2200 px on the long edge, but will take anything above 1400 px on the long edge.",
    briefs: one({ longSide: { min: 1400 } }),
  },
  {
    text: "PDF of one page, A5, between 80 and 400 KB",
    briefs: one({
      format: ["pdf"],
      paper: { width: "148mm", height: "210mm" },
      fileSize: { min: "80KB", max: "400KB" },
    }),
  },
  { text: "The screen in the hut shows 1366 × 768 px and has 512 MB of memory.", briefs: [] },
  { text: "HEIC and RAW files cannot be opened here. Send JPEGs.", briefs: one({ format: ["jpeg"] }) },
  {
    text: "Save as JPEG, quality 70 percent or lower, 1080 px wide, no sharpening.",
    briefs: one({ format: ["jpeg"], quality: { max: 70 }, width: { exact: 1080 } }),
  },
  {
    text: "Resize to 50 % and keep it under 300 KB.",
    briefs: one({ scale: "50%", fileSize: { max: "300KB" } }),
  },
  { text: "Reduce the pictures by 20 %. Discount 15 %.", briefs: [] },
  {
    text: "minimum 300 DPI; maximum 600 DPI; RGB not accepted, CMYK only",
    briefs: one({ resolution: { min: "300ppi", max: "600ppi" }, colour: { space: "cmyk" } }),
  },
  { text: "No black and white photographs. Size 340 × 440 px.", briefs: one(px(340, 440)) },
  {
    text: "Photographs in black and white, 13 × 18 cm.",
    briefs: one({ colour: { space: "gray" }, paper: { width: "13cm", height: "18cm" } }),
  },
  {
    text: "Pixel size (W×H): 390×510. Weight (KB): 20–60. Density: 250 dpi.",
    briefs: one({ ...px(390, 510), fileSize: { min: "20KB", max: "60KB" }, resolution: { exact: "250ppi" } }),
  },
  { text: "up to 1 MB (1,048,576 bytes)", briefs: one({ fileSize: { max: "1MB" } }) },
  {
    text: "Size 35 mm x 44 mm (413 x 520 px at 300 dpi)",
    briefs: one({
      paper: { width: "35mm", height: "44mm" },
      ...px(413, 520),
      resolution: { exact: "300ppi" },
    }),
  },
  {
    text: "Dimensions must be 600 px × 600 px or larger.",
    briefs: one({ width: { min: 600 }, height: { min: 600 } }),
  },
  {
    text: "For print we need at least 2400 pixels along the longest edge; for the web 900 pixels wide is plenty.",
    briefs: one({ longSide: { min: 2400 } }),
  },
  {
    text: "The total of all attachments may not be above 12 MB, and no single attachment above 3 MB.",
    briefs: one({ total: { max: "12MB" }, fileSize: { max: "3MB" } }),
  },
  {
    text: "We accept emails of up to 15 MB including attachments.",
    briefs: one({ total: { max: "15MB", counted: "mail" } }),
  },
  { text: "photo size 20kb-50kb signature size 10kb-20kb", briefs: [] },
  { text: "Kindly keep each one beneath 220 KB.", briefs: one({ fileSize: { max: "220KB" } }) },
  {
    text: "270 by 360 px (preferred), JPG, between 25 and 70 KB, sRGB",
    briefs: one(
      {
        ...px(270, 360),
        format: ["jpeg"],
        fileSize: { min: "25KB", max: "70KB" },
        colour: { space: "srgb" },
      },
      ["width", "height"],
    ),
  },
  {
    text: "Ideally square, no metadata; we used, for example, JPEG, last time.",
    briefs: one({ shape: "1:1", metadata: "none" }, ["shape"]),
  },
  {
    text: "The uploaded photo must have a minimum of 450 pixels in both height and width.",
    briefs: one({ shortSide: { min: 450 } }),
  },
  {
    text: "The frame shows 820 x 490. Photos are scaled to fit.",
    briefs: one({ box: { width: 820, height: 490 } }),
  },
  {
    text: "TIFF files at 300 ppi, 180 mm wide; greyscale for line drawings.",
    briefs: one({ format: ["tiff"], resolution: { exact: "300ppi" }, paper: { width: "180mm" } }),
  },
  { text: "Do not send Word or PDF files; JPEG at highest quality.", briefs: one({ format: ["jpeg"] }) },
  {
    text: "Accepted file types are JPG, PNG and GIF. Files must be smaller than 8 MB. Allowed dimensions are between 200x200 and 4000x4000 pixels.",
    briefs: one({
      format: ["jpeg", "png", "gif"],
      fileSize: { max: "8MB" },
      width: { min: 200, max: 4000 },
      height: { min: 200, max: 4000 },
    }),
  },
  {
    text: "Keep it under a megabyte. Any height, 910px wide; two months old at most.",
    briefs: one({ width: { exact: 910 } }),
    unread: ["Keep it under a megabyte"],
    onlyYou: ["two months old"],
  },
  {
    text: "What we need from you\n- a portrait (JPEG, 600 x 800 px)\n- your logo (PNG, at least 400 px wide)\n\nPlease e-mail both; our limit is 8 MB per message.",
    briefs: [
      {
        name: "Portrait",
        clauses: { format: ["jpeg"], ...px(600, 800), total: { max: "8MB", counted: "mail" } },
      },
      {
        name: "Logo",
        clauses: { format: ["png"], width: { min: 400 }, total: { max: "8MB", counted: "mail" } },
      },
    ],
  },
  {
    text: "Photo Specifications\nFormat: JPEG\nSize: 50KB to 100KB\nDimensions: 310 x 380 px\n\nSignature Specifications\nFormat: JPEG\nSize: 10KB to 40KB\nDimensions: 280 x 80 px",
    briefs: [
      {
        name: "Photo",
        clauses: { format: ["jpeg"], fileSize: { min: "50KB", max: "100KB" }, ...px(310, 380) },
      },
      {
        name: "Signature",
        clauses: { format: ["jpeg"], fileSize: { min: "10KB", max: "40KB" }, ...px(280, 80) },
      },
    ],
  },
  { text: "Your badge photo needs to be 330x420, your slip 200x90.", briefs: [] },
  {
    text: "Web pictures: WebP (or AVIF), 960 px wide, light as a feather.",
    briefs: [{ name: "Web pictures", clauses: { format: ["webp", "avif"], width: { exact: 960 } } }],
  },
];
