/**
 * Files as browsers can show them: what they cannot, or would show in another light, as a picture; the
 * others as they are.
 */
import { sniff } from "@/core/containers";
import { needsDeveloping } from "@/imaging/planned";
import { preview } from "@/imaging/shown";
import { readPdfPicture, readSource } from "@/imaging/source";

const SIDE = 1600;

export async function forScreen(bytes: Buffer, headers: Record<string, string>): Promise<Response> {
  const kind = sniff(bytes.subarray(0, 64));
  if (kind === "pdf")
    return new Response(new Uint8Array((await readPdfPicture(bytes)).jpeg), {
      headers: { ...headers, "content-type": "image/jpeg" },
    });
  if (
    kind === "tiff" ||
    kind === "ora" ||
    kind === "svg" ||
    (kind === "avif" && needsDeveloping(await readSource(bytes)))
  )
    return new Response(new Uint8Array(await preview(bytes, SIDE)), {
      headers: { ...headers, "content-type": "image/jpeg" },
    });
  return new Response(new Uint8Array(bytes), {
    headers: { ...headers, "content-type": kind ? `image/${kind}` : "application/octet-stream" },
  });
}
