/** Written without running the reader, after the corrections that the twelfth set led to. All invented. */
import { at, jpeg, kb, max, one, paper, pdf, png, px, tiff, type Wording } from "./corpus";

export const THIRTEENTH: Wording[] = [
  {
    text: "Scan and upload:\n(A) Photograph – jpg/jpeg – 30 to 60 KB\n(B) Signature – jpg/jpeg – 10 to 30 KB\n(C) Category certificate – pdf – up to 400 KB",
    briefs: [
      { name: "Photograph", clauses: { ...jpeg, fileSize: kb(30, 60) } },
      { name: "Signature", clauses: { ...jpeg, fileSize: kb(10, 30) } },
      { name: "Category certificate", clauses: { ...pdf, ...max("400KB") } },
    ],
  },
  {
    text: "We need the picture as a JPEG with at least 2000 pixels on the longest side; it must be smaller than 4 MB and in sRGB.",
    briefs: one({ ...jpeg, longSide: { min: 2000 }, ...max("4MB"), colour: { space: "srgb" } }),
  },
  {
    text: "Portrait of the author: 300 dpi, 10 × 15 cm, JPEG.\nCover artwork: 300 dpi, 16 × 24 cm, TIFF, CMYK.\nSample page: 150 dpi, 16 × 24 cm, PDF.",
    briefs: [
      { name: "Portrait of the author", clauses: { ...at(300), paper: paper("10cm", "15cm"), ...jpeg } },
      {
        name: "Cover artwork",
        clauses: { ...at(300), paper: paper("16cm", "24cm"), ...tiff, colour: { space: "cmyk" } },
      },
      { name: "Sample page", clauses: { ...at(150), paper: paper("16cm", "24cm"), ...pdf } },
    ],
  },
  {
    text: "Every photo: between 1 MB and 4 MB. Not wider than 4000 px. Not a PNG. JPEG, please.",
    briefs: one({ fileSize: { min: "1MB", max: "4MB" }, width: { max: 4000 }, ...jpeg }),
  },
  {
    text: "Image | Width | Height | Max. weight\nHero | 1600 | 700 | 300 KB\nCard | 600 | 400 | 90 KB\nAvatar | 200 | 200 | 20 KB\nAll images as JPEG.",
    briefs: [
      { name: "Hero", clauses: { ...max("300KB"), ...jpeg } },
      { name: "Card", clauses: { ...max("90KB"), ...jpeg } },
      { name: "Avatar", clauses: { ...max("20KB"), ...jpeg } },
    ],
  },
  {
    text: "Your photo will be printed on the badge at 28 × 35 mm. Supply at least 330 × 413 pixels, JPEG or PNG. Do not upload files above 1 MB.",
    briefs: one({
      paper: paper("28mm", "35mm"),
      width: { min: 330 },
      height: { min: 413 },
      format: ["jpeg", "png"],
      ...max("1MB"),
    }),
  },
  {
    text: "Part 1: identity photo, 600 × 800, JPG, 100–300 KB. Part 2: signature, 600 × 200, PNG, 20–80 KB.",
    briefs: [
      { name: "Identity photo", clauses: { ...px(600, 800), ...jpeg, fileSize: kb(100, 300) } },
      { name: "Signature", clauses: { ...px(600, 200), ...png, fileSize: kb(20, 80) } },
    ],
  },
  {
    text: "The council's mailbox refuses mails of more than 11 MB. Please do not zip. Photos should stay JPEG.",
    briefs: one({ total: { max: "11MB", counted: "mail" }, ...jpeg }),
  },
  {
    text: "Documents in PDF format, max. size 2 MB each. Photos in JPEG format, max. size 500 KB each.",
    briefs: [
      { name: "Documents", clauses: { ...pdf, ...max("2MB") } },
      { name: "Photos", clauses: { ...jpeg, ...max("500KB") } },
    ],
  },
  {
    text: "Bird of the year: one picture per person, JPEG, long side exactly 2560 px, file name as your camera gave it (please do not rename).",
    briefs: one({ ...jpeg, longSide: { exact: 2560 }, names: "{name}" }),
  },
  {
    text: "Photo upload rules. Type: JPG. Dimension: 150 W x 200 H px. Size: not more than 50 KB & not less than 10 KB.",
    briefs: one({ ...jpeg, ...px(150, 200), fileSize: kb(10, 50) }),
  },
  {
    text: "We archive at 600 ppi, 48-bit colour, TIFF. You will get viewing copies at 150 ppi as JPEG.",
    briefs: one({ resolution: { exact: "600ppi" }, ...tiff }),
  },
  {
    text: "School portrait: 13 × 18 cm at 300 dpi, JPEG, sRGB. Class picture: 20 × 30 cm at 300 dpi, JPEG, sRGB. No file larger than 12 MB.",
    briefs: [
      {
        name: "School portrait",
        clauses: {
          paper: paper("13cm", "18cm"),
          ...at(300),
          ...jpeg,
          colour: { space: "srgb" },
          ...max("12MB"),
        },
      },
      {
        name: "Class picture",
        clauses: {
          paper: paper("20cm", "30cm"),
          ...at(300),
          ...jpeg,
          colour: { space: "srgb" },
          ...max("12MB"),
        },
      },
    ],
  },
  {
    text: "The bank needs a scan of your ID (PDF or JPEG, up to 3 MB). It also needs a photo of your signature (JPEG, up to 500 KB).",
    briefs: [
      { name: "Scan of your ID", clauses: { format: ["pdf", "jpeg"], ...max("3MB") } },
      { name: "Photo of your signature", clauses: { ...jpeg, ...max("500KB") } },
    ],
  },
  {
    text: "Maximum 1.2 megapixels, maximum 300 KB, JPEG.",
    briefs: one({ ...max("300KB"), ...jpeg }),
  },
  {
    text: "Passport photo, 35x45 mm, head 70-80% of the picture height, eyes at least 23 mm above the bottom, white background, 600 dpi.",
    briefs: one({
      paper: paper("35mm", "45mm"),
      head: { height: { min: "70%", max: "80%" }, eyes: { min: "23mm" } },
      background: "#ffffff",
      ...at(600),
    }),
  },
  {
    text: "Tickets are 9.00 for adults and 4.50 for children under 12. The tour lasts 75 minutes and covers 3 km.",
    briefs: [],
  },
  {
    text: "Please resize all images to a maximum width of 1000 pixels and a maximum height of 1000 pixels, and compress them to less than 200 KB each.",
    briefs: one({ width: { max: 1000 }, height: { max: 1000 }, ...max("200KB") }),
  },
  {
    text: "Photo 1 (outside): JPEG, 4:3, ≥ 1600 px wide\nPhoto 2 (inside): JPEG, 4:3, ≥ 1600 px wide\nPlan: PDF, A4",
    briefs: [
      { name: "Photo 1 (outside)", clauses: { ...jpeg, shape: "4:3", width: { min: 1600 } } },
      { name: "Photo 2 (inside)", clauses: { ...jpeg, shape: "4:3", width: { min: 1600 } } },
      { name: "Plan", clauses: { ...pdf, paper: paper("210mm", "297mm") } },
    ],
  },
  {
    text: "Signature specimen: black ink, 4 x 2 cm, 300 dpi, PNG or JPEG, file no larger than 40 KB and no smaller than 8 KB.",
    briefs: one({
      ink: "black",
      paper: paper("4cm", "2cm"),
      ...at(300),
      format: ["png", "jpeg"],
      fileSize: kb(8, 40),
    }),
  },
  {
    text: "Attach your CV (PDF, 2 MB max), a cover letter (PDF, 1 MB max) and a recent picture (JPG, 500 KB max).",
    briefs: [
      { name: "CV", clauses: { ...pdf, ...max("2MB") } },
      { name: "Cover letter", clauses: { ...pdf, ...max("1MB") } },
      { name: "Recent picture", clauses: { ...jpeg, ...max("500KB") } },
    ],
  },
];
