/** Light above white beside an ordinary JPEG: ordinary programs show the picture, others add what the map says. */
import { CAN, type ResolvedBrief } from "@/core/brief";
import { familiesOf, Line, payloadOf, type Picture as Searched, shareLight } from "@/core/coding";
import { type GainMap, withGainMap } from "@/core/containers";
import { CLEAN } from "@/core/difference";
import { gainBetween } from "@/core/pixels/light";
import { encodeAside } from "../encode";
import type { PlannedPhoto, PlannedPicture, PlannedPictures } from "../planned";
import { describedMap, LightSample, mapSetting } from "./light-sample";

/** Whether a picture is to carry its light as a map. */
export const carriesMap = ({ resolved }: PlannedPhoto, { format }: PlannedPicture): boolean =>
  resolved.light === "hdr" && CAN[format].lightMap;

/** `sample`: of the picture, or a small one itself. `beside`: bytes of its file beside picture and map. */
export async function lightMap(
  pictures: PlannedPictures,
  picture: PlannedPicture,
  { sample, beside }: { sample: Searched; beside: number },
): Promise<GainMap> {
  const { resolved } = pictures.photo;
  const bright = pictures.at(picture.geometry, "avif");
  const [base, light] = [await pictures.pixels(picture), await pictures.pixels(bright)];
  const parts = new LightSample(
    bright.key,
    { ...base, space: picture.space! },
    { ...light, space: bright.space! },
  );
  const ceiling = resolved.fileSize.max;
  const pixels = base.width * base.height;
  const { shrink, quality } = await shareLight({
    pixels,
    look: (kind) => parts.look(kind),
    ordinary:
      ceiling === null
        ? null
        : await ordinaryScreen(sample, {
            resolved,
            pixels,
            room: ceiling - beside,
          }),
  });
  const gain = gainBetween(base, light, picture.space!, shrink);
  return describedMap(await encodeAside({ ...gain, channels: 1 }, mapSetting(quality), false), gain);
}

/** What is foretold of the picture in the bytes that a map leaves of the room for both. */
async function ordinaryScreen(
  sample: Searched,
  { resolved, pixels, room }: { resolved: ResolvedBrief; pixels: number; room: number },
) {
  const [family] = familiesOf("jpeg", resolved, pixels, sample.flat);
  const line = new Line(family, sample);
  const payload = (map: number) => (payloadOf(room - map, 0, "jpeg") * sample.pixels) / pixels;
  await line.around(payload(0), CLEAN);
  return (map: number) => line.differenceFor(payload(map));
}

/** Bytes that a file has more with a map, whatever its picture. */
export const bytesOfMap = (bare: Uint8Array, map: GainMap): number =>
  withGainMap(bare, map).length - bare.length;
