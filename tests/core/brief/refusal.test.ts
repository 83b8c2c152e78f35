/** Refusals are told apart from rules; what was found and what is asked are kept apart. */
import { describe, expect, it } from "vitest";
import { readRefusal } from "@/core/brief/refusal";

const read = (text: string) => {
  const refusal = readRefusal(text);
  return refusal && { asked: refusal.asked, found: refusal.found.map((one) => one.words) };
};

describe("a refusal", () => {
  it.each([
    [
      "Error: 8 KB. Signature must be between 10 KB and 20 KB",
      { fileSize: { min: "10KB", max: "20KB" } },
      ["8 KB"],
    ],
    // RFC 5321 (552) and RFC 3463 (5.3.4: message too big for system).
    [
      "552 5.3.4 Your message is 31 MB and may not be larger than 23 MB",
      { total: { max: "23MB", counted: "mail" } },
      ["31 MB"],
    ],
    [
      "552-5.2.3 Your message exceeded our message size limits.\n552 5.3.4 Message size exceeds fixed maximum message size of 23068672 bytes",
      { total: { max: "23068672B", counted: "mail" } },
      [],
    ],
    [
      "message too large: 7.20 MB, and at most 6.80 MB are taken",
      { total: { max: "6.8MB", counted: "mail" } },
      ["7.2 MB"],
    ],
    ["552 … 31 MB … may not be larger than 23 MB", { total: { max: "23MB", counted: "mail" } }, ["31 MB"]],
    [
      "Upload failed: image dimensions must be 200 × 230",
      { width: { exact: 200 }, height: { exact: 230 } },
      [],
    ],
    [
      "refused: the file has 58.2 KB, more than the 50 KB that are allowed",
      { fileSize: { max: "50KB" } },
      ["58.2 KB"],
    ],
    [
      "refused: the file has 8.1 KB, less than the 10 KB that are asked; the picture has 180 × 200 pixels, and 240 × 300 are asked",
      { fileSize: { min: "10KB" }, width: { exact: 240 }, height: { exact: 300 } },
      ["8.1 KB", "180 × 200 px"],
    ],
    ["refused: the file is a PNG, and JPEG is asked", { format: ["jpeg"] }, ["PNG"]],
    ["Your file (612 KB) exceeds the maximum of 500 KB.", { fileSize: { max: "500KB" } }, ["612 KB"]],
    ["File too large (max 100KB)", { fileSize: { max: "100KB" } }, []],
    [
      "Sorry, your photo is too small: 12 KB. Minimum file size is 20 KB.",
      { fileSize: { min: "20KB" } },
      ["12 KB"],
    ],
    ["Minimum file size is 20 KB, yours is 12 KB", { fileSize: { min: "20KB" } }, ["12 KB"]],
    ["Maximum upload size 500 KB exceeded.", { fileSize: { max: "500KB" } }, []],
    ["File type .png is not allowed. Only JPG and JPEG files are accepted.", { format: ["jpeg"] }, ["PNG"]],
    [
      "Invalid image: expected 200 x 230 px, got 413 x 531 px",
      { width: { exact: 200 }, height: { exact: 230 } },
      ["413 × 531 px"],
    ],
    [
      "The photo could not be uploaded. Its size has to be less than 100 KB and its width must be 300 px.",
      { fileSize: { max: "100KB" }, width: { exact: 300 } },
      [],
    ],
    [
      "Rejected. Resolution is 72 dpi, at least 300 dpi is required.",
      { resolution: { min: "300ppi" } },
      ["72 ppi"],
    ],
    ["Validation error: file must not be smaller than 30 KB", { fileSize: { min: "30KB" } }, []],
    [
      "Your signature was rejected: 4 KB is below the minimum of 10 KB, and it cannot exceed 20 KB",
      { fileSize: { min: "10KB", max: "20KB" } },
      ["4 KB"],
    ],
  ])("%s", (text, asked, found) => expect(read(text)).toEqual({ asked, found }));

  it.each([
    "Photograph: 35 × 45 mm, 12 KB to 48 KB, JPG. Signature: 10 to 20 KB.",
    "Pictures over 5 MB will be rejected. Please send JPEG.",
    "Files that are too large are returned. The resolution is 300 dpi.",
    "The whole message must not be over 6.8 MB; larger ones are returned to their sender.",
    "Thank you, your files were accepted.",
    "Sorry, something went wrong.",
    "",
    "x".repeat(5000),
  ])("is not: %s", (text) => expect(read(text)).toBeNull());
});
