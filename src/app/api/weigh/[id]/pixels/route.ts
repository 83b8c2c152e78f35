import * as z from "zod";
import type { Shown } from "@/app/server";
import {
  getStore,
  originalPicture,
  RequestError,
  referencePicture,
  requireWeighed,
  route,
  trialPicture,
  wayPicture,
  weighedGeometry,
} from "@/app/server";
import { partsOf } from "@/core/coding";
import { regionOf } from "@/imaging/shown";
import { keptTrial, weighedSize } from "@/store/queries";

/** Side of a square that is sent at once. */
const SIDE = 512;

const query = z.object({
  of: z.string().min(1).max(200),
  level: z.coerce.number().int().min(0).max(16),
  x: z.coerce.number().int().min(0).max(1e6),
  y: z.coerce.number().int().min(0).max(1e6),
});

/**
 * A square of one picture at a scale: RGBA, row after row, of 8 bits, or where light lies above white PQ
 * signals of 16. `of`: reference, original, or the key of a trial.
 */
export const GET = route(async (request, { id }) => {
  const { of, level, x, y } = query.parse(Object.fromEntries(new URL(request.url).searchParams));
  const row = await requireWeighed(id);
  const shown = await picture(row, of);
  const region = await regionOf(shown.levels, { level, x: x * SIDE, y: y * SIDE, side: SIDE });
  if (!region) throw new RequestError(404, "There is no such part of this picture.");
  const light = shown.light && { "x-light": shown.light.primaries, "x-reach": String(shown.light.reach) };
  return new Response(new Uint8Array(region.data.buffer as ArrayBuffer), {
    headers: {
      ...light,
      "content-type": "application/octet-stream",
      "cache-control": "private, max-age=3600",
      "x-width": String(region.width),
      "x-height": String(region.height),
      "x-space": shown.space,
    },
  });
});

const gone = () => new RequestError(404, "This trial is not there any more. Ask for it again.");

async function picture(row: Awaited<ReturnType<typeof requireWeighed>>, of: string): Promise<Shown> {
  const store = getStore();
  const geometry = weighedGeometry(row);
  if (of === "reference") return referencePicture(store, row, geometry);
  if (of === "original") return originalPicture(store, row, geometry);
  if (of === "developed" || of === "camera") return wayPicture(store, row, geometry, of);
  return trialPicture(store, row, of, async () => {
    const { setting, side } = partsOf(of);
    const size = await weighedSize(store.db, row.id, side);
    const trial = size && (await keptTrial(store.db, size, setting));
    const pictureKey = trial && size.formats[trial.setting.format]?.pictureKey;
    if (!trial?.sha256 || !pictureKey) throw gone();
    const encoded = () =>
      store.files.read(trial.sha256!).catch(() => {
        throw gone();
      });
    return { geometry: size!.geometry, pictureKey, setting: trial.setting, encoded };
  });
}
