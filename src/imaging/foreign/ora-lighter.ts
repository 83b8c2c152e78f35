/**
 * Layered artwork made lighter and left layered: each measure is really carried out, and what it saves is
 * measured.
 */
import { deflateRawSync } from "node:zlib";
import sharp from "sharp";
import { ZipFile } from "yazl";
import { readPng, rebuildPng } from "@/core/containers";
import type { Lighter, Size } from "@/core/photo";
import { SPACES } from "@/core/pixels/colour";
import { develop } from "@/core/pixels/develop";
import {
  type Artwork,
  type Layer,
  mapLayers,
  type Part,
  partsOf,
  placed,
  type Savings,
  withoutHidden,
  writeStack,
} from "@/core/pixels/layers";
import { encode } from "../encode";
import { type OraPackage, openOra } from "./ora";

export interface Lightened {
  parts: Part[];
  savings: Savings;
  width: number;
  height: number;
  /** What of the measures departs from what the format asks, in sentences. */
  told: string[];
}

/** New pixels for an old one, across and down. */
interface Scale {
  x: number;
  y: number;
}

/** Where a layer lies afterwards, and which picture it shows. */
interface Moved {
  x: number;
  y: number;
  source?: string;
}

interface Picture {
  data: Uint8Array | Uint16Array;
  width: number;
  height: number;
}

const MOST_LAYER_PIXELS = 120_000_000;
/** Longest side of a stored picture that is made smaller. */
const SMALL_PREVIEW = 1024;
/** The most that the format gives a thumbnail. */
const THUMB = 256;

/** Throws with a plain reason where the package cannot be read or written. */
export async function lightenOra(
  bytes: Buffer,
  lighter: Lighter,
  size?: Size,
): Promise<{ file: Buffer; report: Lightened }> {
  const opened = await openOra(bytes);
  try {
    return await new Lightening(opened, lighter, size ?? opened.artwork).run();
  } finally {
    opened.close();
  }
}

/** What weighs how much, without doing anything. */
export async function weighOra(bytes: Buffer): Promise<{ parts: Part[]; artwork: Artwork }> {
  const { artwork, sizes, close } = await openOra(bytes);
  close();
  return { parts: partsOf(artwork, sizes), artwork };
}

class Lightening {
  private readonly savings: Savings = {
    repack: 0,
    crop: 0,
    hidden: 0,
    previewSmaller: 0,
    previewDrop: 0,
    thumbnailSmaller: 0,
    thumbnailDrop: 0,
    extras: 0,
  };
  private readonly told: string[] = [];
  private readonly out = new Map<string, Buffer>();

  constructor(
    private readonly from: OraPackage,
    private readonly lighter: Lighter,
    private readonly wanted: Size,
  ) {}

  async run(): Promise<{ file: Buffer; report: Lightened }> {
    const { artwork, sizes } = this.from;
    const { lighter } = this;
    if (artwork.unknown.length)
      throw new Error(
        "it holds parts of other kinds than layers and groups " +
          `(${artwork.unknown.slice(0, 3).join(", ")}), which cannot be written`,
      );
    const parts = partsOf(artwork, sizes);
    const size = { width: this.wanted.width, height: this.wanted.height };
    // The canvas keeps whole pixels, so that layers that fill it still do.
    const scale = { x: size.width / artwork.width, y: size.height / artwork.height };
    const kept = lighter.hidden ? { ...artwork, root: withoutHidden(artwork.root) } : artwork;
    const used = new Set(
      [...placed(kept.root)].flatMap(({ node }) => (node.kind === "layer" ? [node.source] : [])),
    );
    const moved = new Map<string, Moved>();
    for (const part of parts) {
      if (part.kind === "layer") await this.layer({ part, kept, used: used.has(part.path), scale, moved });
      else if (part.kind === "preview") await this.preview(part, size, scale.x < 1);
      else if (part.kind === "thumbnail") await this.thumbnail(part);
      else if (part.kind === "extra") {
        const bytes = await this.from.read(part.path);
        const packed = deflateRawSync(bytes).length;
        this.savings.repack += Math.max(0, part.bytes - packed);
        this.savings.extras += packed;
        if (!lighter.extras) this.out.set(part.path, bytes);
      }
    }
    const root = mapLayers(kept.root, (layer) => ({ ...layer, ...moved.get(keyOf(layer)) }));
    const file = await this.packed({ ...kept, ...size, root });
    return { file, report: { parts, savings: this.savings, ...size, told: this.told } };
  }

  /**
   * One picture, which several layers may show at several places: cut only where all of them can move with
   * it.
   */
  private async layer({
    part,
    kept,
    used,
    scale,
    moved,
  }: {
    part: Part;
    kept: Artwork;
    used: boolean;
    scale: Scale;
    moved: Map<string, Moved>;
  }): Promise<void> {
    const { lighter } = this;
    const original = await this.from.read(part.path);
    if (!used) {
      this.savings.hidden += part.bytes;
      return;
    }
    const showing = [...placed(kept.root)].flatMap(({ node }) =>
      node.kind === "layer" && node.source === part.path ? [node] : [],
    );
    const whole = await pictureOf(original);
    const packed = await repacked(original, whole);
    const best = packed.length < part.bytes ? packed : original;
    this.savings.repack += Math.max(0, part.bytes - best.length);
    const box = contentOf(whole);
    let cut: { picture: Picture; png: Buffer; x: number; y: number } | null = null;
    if (box.width < whole.width || box.height < whole.height) {
      const picture = partOf(whole, box);
      const png = await repacked(original, picture);
      if (png.length < best.length) {
        cut = { picture, png, x: box.x, y: box.y };
        this.savings.crop += best.length - png.length;
      }
    }
    const taken =
      lighter.crop && cut ? cut : { picture: whole, png: lighter.repack ? best : original, x: 0, y: 0 };
    if (part.hidden) this.savings.hidden += taken.png.length;
    if (scale.x === 1 && scale.y === 1) {
      this.out.set(part.path, taken.png);
      for (const layer of showing) moved.set(keyOf(layer), { x: layer.x + taken.x, y: layer.y + taken.y });
      return;
    }
    // Layers at other places fall differently between the new pixels, so each gets a picture of its own.
    const places = new Map<string, string>();
    for (const layer of showing) {
      const at = { x: layer.x + taken.x, y: layer.y + taken.y };
      const place = `${at.x} ${at.y}`;
      const path =
        places.get(place) ??
        (places.size ? part.path.replace(/(\.\w+)?$/, `-${places.size + 1}$1`) : part.path);
      const reduced = reducedTo(taken.picture, at, scale);
      if (!places.has(place)) this.out.set(path, await repacked(original, reduced.picture));
      places.set(place, path);
      moved.set(keyOf(layer), { x: reduced.x, y: reduced.y, source: path });
    }
  }

  private async preview(
    part: Part,
    size: { width: number; height: number },
    reduces: boolean,
  ): Promise<void> {
    const original = await this.from.read(part.path);
    const same = await repacked(original, await pictureOf(original));
    const full = same.length < part.bytes ? same : original;
    this.savings.repack += Math.max(0, part.bytes - full.length);
    const small = await sharp(original, { limitInputPixels: MOST_LAYER_PIXELS })
      .resize(SMALL_PREVIEW, SMALL_PREVIEW, { fit: "inside", withoutEnlargement: true })
      .png({ compressionLevel: 9 })
      .toBuffer();
    this.savings.previewSmaller = Math.max(0, full.length - small.length);
    this.savings.previewDrop = full.length;
    const { preview, repack } = this.lighter;
    if (preview === "drop")
      this.told.push(
        "The stored picture of the whole is left out, which the format asks for: programs that show " +
          "nothing else will show nothing.",
      );
    else if (preview === "smaller" && small.length < full.length) {
      this.out.set(part.path, small);
      this.told.push(
        "The stored picture of the whole has fewer pixels than the layers, where the format asks for " +
          "as many.",
      );
    } else if (reduces)
      this.out.set(
        part.path,
        await sharp(original, { limitInputPixels: MOST_LAYER_PIXELS })
          .resize(size.width, size.height, { fit: "fill" })
          .png({ compressionLevel: 9 })
          .toBuffer(),
      );
    else this.out.set(part.path, repack ? full : original);
  }

  private async thumbnail(part: Part): Promise<void> {
    const original = await this.from.read(part.path);
    const small = await sharp(original)
      .resize(THUMB, THUMB, { fit: "inside", withoutEnlargement: true })
      .png({ palette: true, compressionLevel: 9 })
      .toBuffer();
    this.savings.thumbnailSmaller = Math.max(0, part.bytes - small.length);
    this.savings.thumbnailDrop = part.bytes;
    const { thumbnail } = this.lighter;
    if (thumbnail === "drop")
      this.told.push(
        "The thumbnail is left out, which the format asks for: folders will show no small picture.",
      );
    else this.out.set(part.path, thumbnail === "smaller" && small.length < part.bytes ? small : original);
  }

  /** Type first and not packed, as the format asks; pictures are packed already. */
  private async packed(artwork: Artwork): Promise<Buffer> {
    const zip = new ZipFile();
    const mtime = new Date(2026, 0, 1);
    const entries: [string, Buffer, boolean][] = [
      ["mimetype", Buffer.from("image/openraster"), false],
      ["stack.xml", Buffer.from(writeStack(artwork)), true],
    ];
    for (const [name, bytes] of this.out) entries.push([name, bytes, !name.endsWith(".png")]);
    for (const [name, bytes, compress] of entries) zip.addBuffer(bytes, name, { compress, mtime });
    zip.end();
    const pieces: Buffer[] = [];
    for await (const piece of zip.outputStream as AsyncIterable<Buffer>) pieces.push(piece);
    return Buffer.concat(pieces);
  }
}

const keyOf = (layer: Layer): string => `${layer.source} ${layer.x} ${layer.y}`;

/** RGBA, as deep as the file. */
async function pictureOf(png: Buffer): Promise<Picture> {
  const image = sharp(png, { limitInputPixels: MOST_LAYER_PIXELS, ignoreIcc: true });
  const deep = (await image.metadata()).depth === "ushort";
  const { data, info } = await image
    .toColourspace(deep ? "rgb16" : "srgb")
    .ensureAlpha()
    .raw({ depth: deep ? "ushort" : "uchar" })
    .toBuffer({ resolveWithObject: true });
  return {
    data: deep ? new Uint16Array(data.buffer, data.byteOffset, data.length / 2) : data,
    width: info.width,
    height: info.height,
  };
}

const PICTURE_CHUNKS = new Set(["IHDR", "PLTE", "tRNS", "IDAT", "IEND"]);

/** The same pixels packed as tightly as we can, with what the file says of its colours. */
async function repacked(original: Buffer, { data, width, height }: Picture): Promise<Buffer> {
  const top = data instanceof Uint16Array ? 65_535 : 255;
  let opaque = true;
  for (let p = 3; opaque && p < data.length; p += 4) opaque = data[p] === top;
  const pixels = { data: opaque ? threeOf(data) : data, width, height, channels: opaque ? 3 : 4 };
  const made = await Promise.all([
    encode(pixels, { format: "png", colours: null, level: 9 }),
    encode(pixels, { format: "png", colours: null, level: 6 }),
  ]);
  const best = made.sort((a, b) => a.length - b.length)[0];
  const file = readPng(original);
  const kept = file.chunks
    .filter((chunk) => !PICTURE_CHUNKS.has(chunk.type))
    .map((chunk) => file.bytes.subarray(chunk.start, chunk.end));
  return Buffer.from(rebuildPng(readPng(best), kept, (type) => PICTURE_CHUNKS.has(type)));
}

function threeOf(data: Uint8Array | Uint16Array): Uint8Array | Uint16Array {
  const out =
    data instanceof Uint16Array
      ? new Uint16Array((data.length / 4) * 3)
      : new Uint8Array((data.length / 4) * 3);
  for (let p = 0, o = 0; p < data.length; p += 4, o += 3)
    for (let c = 0; c < 3; c += 1) out[o + c] = data[p + c];
  return out;
}

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** The part that is not empty; one pixel of an empty picture. */
function contentOf({ data, width, height }: Picture): Box {
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let y = 0, p = 3; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, p += 4) {
      if (data[p] === 0) continue;
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < top) top = y;
      bottom = y;
    }
  }
  return right < 0
    ? { x: 0, y: 0, width: 1, height: 1 }
    : { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}

/** A part of a picture; what lies beside it is empty. */
function partOf({ data, width, height }: Picture, box: Box): Picture {
  const out =
    data instanceof Uint16Array
      ? new Uint16Array(box.width * box.height * 4)
      : new Uint8Array(box.width * box.height * 4);
  const [left, right] = [Math.max(0, box.x), Math.min(width, box.x + box.width)];
  for (let y = Math.max(0, box.y); y < Math.min(height, box.y + box.height); y += 1) {
    out.set(
      data.subarray((y * width + left) * 4, (y * width + right) * 4),
      ((y - box.y) * box.width + left - box.x) * 4,
    );
  }
  return { data: out, width: box.width, height: box.height };
}

/**
 * The layer with fewer pixels, its own falling where those of all layers fall. At its edge it covers as much
 * of a pixel as it did before.
 */
function reducedTo(
  { data, width, height }: Picture,
  at: { x: number; y: number },
  { x: sx, y: sy }: Scale,
): { picture: Picture; x: number; y: number } {
  const edges = { left: at.x * sx, top: at.y * sy, right: (at.x + width) * sx, bottom: (at.y + height) * sy };
  const [left, top] = [Math.floor(edges.left + 1e-6), Math.floor(edges.top + 1e-6)];
  const size = {
    width: Math.max(1, Math.ceil(edges.right - 1e-6) - left),
    height: Math.max(1, Math.ceil(edges.bottom - 1e-6) - top),
  };
  const crop = { x: left / sx - at.x, y: top / sy - at.y, width: size.width / sx, height: size.height / sy };
  const whole = { width, height };
  const made = develop(
    { data, ...whole, channels: 4 },
    {
      from: SPACES.srgb,
      to: SPACES.srgb,
      orientation: 1,
      photo: whole,
      shown: { x: 0, y: 0, ...whole },
      density: [1, 1],
      crop,
      angle: 0,
      size,
      kernel: null,
      sharpen: null,
      ppi: null,
      bits: data instanceof Uint16Array ? 16 : 8,
      under: null,
      plain: false,
    },
  );
  const covered = (i: number, from: number, to: number) =>
    Math.max(0, Math.min(i + 1, to) - Math.max(i, from));
  const across = Array.from({ length: size.width }, (_, i) => covered(left + i, edges.left, edges.right));
  for (let y = 0, p = 3; y < size.height; y += 1) {
    const down = covered(top + y, edges.top, edges.bottom);
    for (let x = 0; x < size.width; x += 1, p += 4)
      made.data[p] = Math.round(made.data[p] * down * across[x]);
  }
  return { picture: { data: made.data, width: made.width, height: made.height }, x: left, y: top };
}
