/**
 * A JPEG's gain map taken along through cutting and resizing, where the brief keeps what lies beside the
 * picture.
 */
import { resolveBrief } from "@/core/brief";
import { OWN_TABLES } from "@/core/coding";
import { withGainMap } from "@/core/containers";
import type { Geometry } from "@/core/geometry";
import { CENTRED, uprightSize } from "@/core/photo";
import { formatBytes } from "@/core/units";
import { encode } from "../encode";
import { destinationOf } from "../headers";
import { preparePicture } from "../planned";
import { readSource, type Source } from "../source";

/** The file with its map, and what is to be told; the file as it is where the map cannot come along. */
export async function keepGainMap(
  source: Source,
  geometry: Geometry,
  file: Uint8Array,
  max: number | null,
): Promise<{ file: Uint8Array; told: string }> {
  const left = (why: string) => ({
    file,
    told: `The gain map, which holds the light above white, is left out: ${why}.`,
  });
  if (geometry.mode === "pad" || geometry.border)
    return left("there is none for what is added around the photo");
  const map = await mapFor(source, geometry);
  const whole = withGainMap(file, { ...source.gainMap!, jpeg: map });
  if (max !== null && whole.length > max)
    return left(
      `with it the file would take ${formatBytes(whole.length)}, above the ceiling of ${formatBytes(max)}`,
    );
  return {
    file: whole,
    told:
      "The gain map, which holds the light above white, came along: " +
      `${formatBytes(whole.length - file.length)} of the file.`,
  };
}

/** The map for the part and the pixels of the output, as dense as it was. */
async function mapFor(source: Source, geometry: Geometry): Promise<Uint8Array> {
  const read = await readSource(Buffer.from(source.gainMap!.jpeg));
  const { orientation } = source.facts;
  const size = uprightSize({ width: read.jpeg!.frame.width, height: read.jpeg!.frame.height }, orientation);
  const map: Source = { ...read, facts: { ...read.facts, orientation, ...size } };
  const [rx, ry] = [size.width / source.facts.width, size.height / source.facts.height];
  const turned = (geometry.turn ?? 0) % 180 !== 0;
  const [cx, cy] = turned ? [ry, rx] : [rx, ry];
  const { crop } = geometry;
  const out = {
    width: Math.max(1, Math.round(geometry.width * Math.min(1, cx / geometry.scale))),
    height: Math.max(1, Math.round(geometry.height * Math.min(1, cy / geometry.scale))),
  };
  const own: Geometry = {
    ...geometry,
    ...out,
    crop: { x: crop.x * cx, y: crop.y * cy, width: crop.width * cx, height: crop.height * cy },
    place: { x: 0, y: 0, ...out },
    scale: out.width / (crop.width * cx),
  };
  // Its codes are no colours: they stay what they are.
  const to = destinationOf({ ...resolveBrief({ zumbrelBrief: 1, name: "map" }), space: "keep" }, map);
  const pixels = await preparePicture(map, {
    geometry: own,
    frame: CENTRED,
    to,
    bits: 8,
    background: "#000000",
    opaque: true,
    sharpen: null,
    ppi: null,
  });
  return encode(pixels, {
    format: "jpeg",
    quality: 90,
    chroma: "4:4:4",
    table: OWN_TABLES,
    effort: "careful",
  });
}
