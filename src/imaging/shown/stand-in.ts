/** A small blurred picture that stands in a page until the real one is there, as a data URI (RFC 2397). */
import sharp from "sharp";

/** A page carries one for each picture: more bytes would cost what they save. */
const MOST_CHARACTERS = 400;
/** Sides in px, tried from the largest: blurred to the size of a screen they all look alike. */
const SIDES = [20, 16, 12, 8];
const QUALITY = 30;

/** `bytes`: a file that the pixel library reads. */
export async function standIn(bytes: Uint8Array): Promise<string> {
  let uri = "";
  for (const side of SIDES) {
    const small = await sharp(bytes)
      .resize(side, side, { fit: "inside" })
      .removeAlpha()
      .webp({ quality: QUALITY, effort: 6, smartSubsample: true })
      .toBuffer();
    uri = `data:image/webp;base64,${small.toString("base64")}`;
    if (uri.length < MOST_CHARACTERS) break;
  }
  return uri;
}
