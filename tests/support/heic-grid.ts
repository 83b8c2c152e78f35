/** A HEIC whose main picture is put together of two others side by side, as phones store theirs. Sources: ISO/IEC 23008-12, 6.6.2.3 (grid); ISO/IEC 14496-12 (iloc, iinf, iref, ipma). */

import { readAvif } from "@/core/containers";
import { boxes } from "@/core/containers/boxes";

const u16 = (...values: number[]) => Buffer.from(values.flatMap((v) => [v >> 8, v & 255]));
const u32 = (...values: number[]) =>
  Buffer.from(values.flatMap((v) => [(v >>> 24) & 255, (v >>> 16) & 255, (v >>> 8) & 255, v & 255]));
const box = (type: string, ...parts: Uint8Array[]) => {
  const body = Buffer.concat(parts);
  return Buffer.concat([u32(body.length + 8), Buffer.from(type, "latin1"), body]);
};

/** `two`: a file with exactly two pictures of the same size, as Debian's heif-enc writes them. */
export function gridOf(two: Buffer, tile: { width: number; height: number }): Buffer {
  const file = readAvif(two);
  const child = (type: string) => file.children.find((b) => b.type === type)!;
  const whole = (type: string) => two.subarray(child(type).start, child(type).end);
  const tiles = file.items.filter((item) => file.types.get(item.id) === "hvc1");
  const id = Math.max(...file.items.map((item) => item.id)) + 1;
  const iinf = child("iinf");
  const infos = boxes(two, iinf.body + 6, iinf.end).map((b) => two.subarray(b.start, b.end));
  const [ipco, ipma] = boxes(two, child("iprp").body, child("iprp").end);
  const properties = boxes(two, ipco.body, ipco.end).length;
  const size = box("ispe", u32(0, tile.width * 2, tile.height));
  const entries = two.readUInt32BE(ipma.body + 4);
  const associations = box(
    "ipma",
    two.subarray(ipma.body, ipma.body + 4),
    u32(entries + 1),
    two.subarray(ipma.body + 8, ipma.end),
    u16(id),
    Buffer.from([1, properties + 1]),
  );
  const grid = Buffer.concat([Buffer.from([0, 0, 0, tiles.length - 1]), u16(tile.width * 2, tile.height)]);
  const meta = (shift: number) => {
    const rows = tiles.map((item) =>
      Buffer.concat([u16(item.id, 0, 0, 1), u32(item.extents[0].offset + shift, item.extents[0].length)]),
    );
    return box(
      "meta",
      u32(0),
      whole("hdlr"),
      box("pitm", u32(0), u16(id)),
      box(
        "iloc",
        Buffer.from([1, 0, 0, 0]),
        u16(0x4400, tiles.length + 1),
        ...rows,
        u16(id, 1, 0, 1),
        u32(0, grid.length),
      ),
      box(
        "iinf",
        u32(0),
        u16(infos.length + 1),
        ...infos,
        box("infe", u32(0x02000000), u16(id, 0), Buffer.from("grid\0", "latin1")),
      ),
      box("iref", u32(0), box("dimg", u16(id, tiles.length, ...tiles.map((item) => item.id)))),
      box("iprp", box("ipco", two.subarray(ipco.body, ipco.end), size), associations),
      box("idat", grid),
    );
  };
  const shift = meta(0).length - (file.meta.end - file.meta.start);
  return Buffer.concat([two.subarray(0, file.meta.start), meta(shift), two.subarray(file.meta.end)]);
}
