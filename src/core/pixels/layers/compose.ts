/**
 * Layers laid on each other, exactly: opacity, visibility, groups, operators. In code values of sRGB, as the
 * formats ask.
 */
import { blend, portions, reachesBeyond } from "./blend";
import type { Artwork, Group, Layer, Operator } from "./types";

/** Premultiplied RGBA, 0 to 1. */
export interface Canvas {
  data: Float32Array;
  width: number;
  height: number;
}

/** 8-bit RGBA, not premultiplied, as a layer's picture decodes. */
export interface LayerPixels {
  data: Uint8Array;
  width: number;
  height: number;
}

const emptyCanvas = (width: number, height: number): Canvas => ({
  data: new Float32Array(width * height * 4),
  width,
  height,
});

/** The whole picture. Layers are read one at a time, when it is their turn, from the bottom. */
export async function flatten(
  artwork: Artwork,
  read: (layer: Layer) => Promise<LayerPixels>,
): Promise<Canvas> {
  const canvases = 1 + depthOf(artwork.root);
  if (canvases * artwork.width * artwork.height > MOST_CANVAS)
    throw new Error(
      `its groups lie ${canvases - 1} deep in each other, which takes more memory than there is for a photo`,
    );
  const canvas = emptyCanvas(artwork.width, artwork.height);
  await layGroup(artwork.root, canvas, read);
  return canvas;
}

/** Pixels of all canvases that are held at a time, 16 bytes each. */
const MOST_CANVAS = 80_000_000;

/** Canvases that groups in groups need beside the whole picture's. */
const depthOf = ({ children }: Group): number =>
  Math.max(
    0,
    ...children.map((node) =>
      node.kind === "layer" || !node.visible ? 0 : depthOf(node) + (node.isolated ? 1 : 0),
    ),
  );

async function layGroup(
  group: Group,
  canvas: Canvas,
  read: (layer: Layer) => Promise<LayerPixels>,
): Promise<void> {
  for (const node of [...group.children].reverse()) {
    if (!node.visible || (node.opacity === 0 && !reachesBeyond(node.operator))) continue;
    if (node.kind === "layer") lay(canvas, await read(node), node.x, node.y, node.opacity, node.operator);
    else if (!node.isolated) await layGroup(node, canvas, read);
    else {
      const own = emptyCanvas(canvas.width, canvas.height);
      await layGroup(node, own, read);
      layCanvas(canvas, own, node.opacity, node.operator);
    }
  }
}

function lay(
  canvas: Canvas,
  { data, width, height }: LayerPixels,
  x: number,
  y: number,
  opacity: number,
  operator: Operator,
): void {
  const whole = reachesBeyond(operator);
  const [left, top] = whole ? [0, 0] : [Math.max(0, x), Math.max(0, y)];
  const [right, bottom] = whole
    ? [canvas.width, canvas.height]
    : [Math.min(canvas.width, x + width), Math.min(canvas.height, y + height)];
  const source: [number, number, number] = [0, 0, 0];
  for (let row = top; row < bottom; row += 1) {
    for (let column = left; column < right; column += 1) {
      const [sx, sy] = [column - x, row - y];
      const inside = sx >= 0 && sy >= 0 && sx < width && sy < height;
      const p = (sy * width + sx) * 4;
      for (let c = 0; c < 3; c += 1) source[c] = inside ? data[p + c] / 255 : 0;
      put(
        canvas.data,
        (row * canvas.width + column) * 4,
        source,
        inside ? (data[p + 3] / 255) * opacity : 0,
        operator,
      );
    }
  }
}

function layCanvas(canvas: Canvas, own: Canvas, opacity: number, operator: Operator): void {
  const source: [number, number, number] = [0, 0, 0];
  for (let p = 0; p < own.data.length; p += 4) {
    const alpha = own.data[p + 3];
    if (alpha === 0 && !reachesBeyond(operator)) continue;
    for (let c = 0; c < 3; c += 1) source[c] = alpha > 0 ? own.data[p + c] / alpha : 0;
    put(canvas.data, p, source, alpha * opacity, operator);
  }
}

/**
 * One pixel: blended with the backdrop as far as that is there, then composited (section 5.1: Cs = (1 − αb)
 * Cs + αb B(Cb, Cs)).
 */
function put(
  to: Float32Array,
  p: number,
  source: readonly [number, number, number],
  alpha: number,
  operator: Operator,
): void {
  const under = to[p + 3];
  if (operator === "src-over") {
    const keep = 1 - alpha;
    for (let c = 0; c < 3; c += 1) to[p + c] = source[c] * alpha + to[p + c] * keep;
    to[p + 3] = alpha + under * keep;
    return;
  }
  const backdrop: [number, number, number] =
    under > 0 ? [to[p] / under, to[p + 1] / under, to[p + 2] / under] : [0, 0, 0];
  const mixed = blend(operator, backdrop, source);
  const [fa, fb] = portions(operator, alpha, under);
  for (let c = 0; c < 3; c += 1) {
    const own = (1 - under) * source[c] + under * mixed[c];
    to[p + c] = Math.min(1, alpha * fa * own + under * fb * backdrop[c]);
  }
  to[p + 3] = Math.min(1, alpha * fa + under * fb);
}

/** 8-bit RGBA, not premultiplied. */
export function eightBit({ data, width, height }: Canvas): LayerPixels {
  const out = new Uint8Array(width * height * 4);
  for (let p = 0; p < data.length; p += 4) {
    const alpha = data[p + 3];
    if (alpha > 0)
      for (let c = 0; c < 3; c += 1) out[p + c] = Math.min(255, (data[p + c] / alpha) * 255 + 0.5);
    out[p + 3] = alpha * 255 + 0.5;
  }
  return { data: out, width, height };
}
