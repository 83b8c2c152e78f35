// Rows of colour: to Y, Cb and Cr, chroma halved and brought back, and Y corrected for what that takes.

/** Bytes of four floats. */
const FOUR: usize = 16;
/** Chroma that is off by less needs no correction, in code values. */
const HARDLY: f32 = 1;

/** Where in sixteen bytes the numbers of four pixels of `step` bytes lie, each the lowest of four: for a swizzle. */
function places(step: u32, offset: u32): v128 {
  const lanes = i32x4.add(i32x4.mul(i32x4(0, 1, 2, 3), i32x4.splat(step)), i32x4.splat(offset));
  return v128.or(lanes, i32x4.splat(0x80808000));
}

function floats(pixels: v128, at: v128): v128 {
  return f32x4.convert_i32x4_s(i8x16.swizzle(pixels, at));
}

function sum(a: f32, x: v128, b: f32, y: v128, c: f32, z: v128): v128 {
  return f32x4.add(
    f32x4.mul(f32x4.splat(a), x),
    f32x4.add(f32x4.mul(f32x4.splat(b), y), f32x4.mul(f32x4.splat(c), z)),
  );
}

/**
 * `count` pixels of `step` bytes at `source`, green and blue `g` and `v` bytes after red, to Y, Cb and Cr, each less
 * 128, four at a time. Up to sixteen bytes beyond the last are read. Source: ITU-T T.871 (JFIF), 7.
 */
export function ycc8(
  source: usize,
  step: u32,
  g: u32,
  v: u32,
  y: usize,
  cb: usize,
  cr: usize,
  count: usize,
): void {
  const end = count << 2;
  const red = places(step, 0);
  const green = places(step, g);
  const blue = places(step, v);
  for (let i: usize = 0; i < end; i += FOUR, source += (<usize>step) << 2) {
    const pixels = v128.load(source);
    const r = floats(pixels, red);
    const gr = floats(pixels, green);
    const b = floats(pixels, blue);
    v128.store(y + i, f32x4.sub(sum(0.299, r, 0.587, gr, 0.114, b), f32x4.splat(128)));
    v128.store(cb + i, sum(-0.168735892, r, -0.331264108, gr, 0.5, b));
    v128.store(cr + i, sum(0.5, r, -0.418687589, gr, -0.081312411, b));
  }
}

/** Means of two by two samples of the rows at `a` and `b`: `count` floats out; of two samples where they are one. */
export function halve(a: usize, b: usize, out: usize, count: usize): void {
  const end = out + (count << 2);
  const quarter = f32x4.splat(0.25);
  for (; out < end; out += FOUR, a += 2 * FOUR, b += 2 * FOUR) {
    const x = f32x4.add(v128.load(a), v128.load(b));
    const y = f32x4.add(v128.load(a, FOUR), v128.load(b, FOUR));
    const even = v128.shuffle<f32>(x, y, 0, 2, 4, 6);
    const odd = v128.shuffle<f32>(x, y, 1, 3, 5, 7);
    v128.store(out, f32x4.mul(quarter, f32x4.add(even, odd)));
  }
}

/**
 * A row of `count` samples between two halved rows as decoders draw it: three quarters of the near row and a
 * quarter of the far one, and the same across. Rows have a sample more on either side, and `count` is
 * a multiple of eight.
 */
export function between(near: usize, far: usize, out: usize, count: usize): void {
  const most = f32x4.splat(0.75);
  const least = f32x4.splat(0.25);
  for (let i: usize = 0; i < count; i += 8, near += FOUR, far += FOUR, out += 2 * FOUR) {
    const here = f32x4.mul(most, mixed(near, far));
    const even = f32x4.add(here, f32x4.mul(least, mixed(near - 4, far - 4)));
    const odd = f32x4.add(here, f32x4.mul(least, mixed(near + 4, far + 4)));
    v128.store(out, v128.shuffle<f32>(even, odd, 0, 4, 1, 5));
    v128.store(out, v128.shuffle<f32>(even, odd, 2, 6, 3, 7), FOUR);
  }
}

function mixed(near: usize, far: usize): v128 {
  return f32x4.add(
    f32x4.mul(f32x4.splat(0.75), v128.load(near)),
    f32x4.mul(f32x4.splat(0.25), v128.load(far)),
  );
}

/** Cube roots: a guess from the bits (within 3.5 %), then one step of Halley's method (within 0.003 %). */
function cubeRoot(x: v128): v128 {
  const guess = i32x4.trunc_sat_f32x4_s(
    f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(x), f32x4.splat(0.33333333)), f32x4.splat(709921077)),
  );
  const cube = f32x4.mul(guess, f32x4.mul(guess, guess));
  return f32x4.mul(guess, f32x4.div(f32x4.add(cube, f32x4.add(x, x)), f32x4.add(x, f32x4.add(cube, cube))));
}

function weighted(m: usize, n: usize, x: v128, y: v128, z: v128): v128 {
  const a = v128.load_splat<u32>(m + (n << 2));
  const b = v128.load_splat<u32>(m + (n << 2), 4);
  const c = v128.load_splat<u32>(m + (n << 2), 8);
  return f32x4.add(f32x4.mul(a, x), f32x4.add(f32x4.mul(b, y), f32x4.mul(c, z)));
}

/** Lightness from linear light; at `m` stand nine factors to cones, then three to lightness. */
function lightness(m: usize, r: v128, g: v128, b: v128): v128 {
  const least = f32x4.splat(1e-6);
  const p = cubeRoot(f32x4.pmax(least, weighted(m, 0, r, g, b)));
  const q = cubeRoot(f32x4.pmax(least, weighted(m, 3, r, g, b)));
  const s = cubeRoot(f32x4.pmax(least, weighted(m, 6, r, g, b)));
  return weighted(m, 9, p, q, s);
}

/** Linear light of four code values (−128 to 127), by a table of four entries a code. */
function light(table: usize, code: v128): v128 {
  const clamped = f32x4.pmin(
    f32x4.splat(1020),
    f32x4.pmax(f32x4.splat(0), f32x4.mul(f32x4.add(code, f32x4.splat(128)), f32x4.splat(4))),
  );
  const at = i32x4.shl(i32x4.trunc_sat_f32x4_s(f32x4.add(clamped, f32x4.splat(0.5))), 2);
  let out = v128.load_splat<u32>(table + i32x4.extract_lane(at, 0));
  out = f32x4.replace_lane(out, 1, load<f32>(table + i32x4.extract_lane(at, 1)));
  out = f32x4.replace_lane(out, 2, load<f32>(table + i32x4.extract_lane(at, 2)));
  return f32x4.replace_lane(out, 3, load<f32>(table + i32x4.extract_lane(at, 3)));
}

/** Lightness of Y with these chromas. */
function lightnessOf(m: usize, table: usize, y: v128, cb: v128, cr: v128): v128 {
  const r = f32x4.add(y, f32x4.mul(f32x4.splat(1.402), cr));
  const g = f32x4.sub(
    y,
    f32x4.add(f32x4.mul(f32x4.splat(0.344136286), cb), f32x4.mul(f32x4.splat(0.714136286), cr)),
  );
  const b = f32x4.add(y, f32x4.mul(f32x4.splat(1.772), cb));
  return lightness(m, light(table, r), light(table, g), light(table, b));
}

/**
 * Moves `count` samples of Y so that they look as light with the chromas that decoders will draw (`u`, `v`) as with
 * their own (`cb`, `cr`); at most by `most`. One step along the slope of lightness over Y.
 */
export function compensate(
  y: usize,
  cb: usize,
  cr: usize,
  u: usize,
  v: usize,
  m: usize,
  table: usize,
  most: f32,
  count: usize,
): void {
  const end = count << 2;
  const limit = f32x4.splat(most);
  const low = f32x4.splat(-most);
  for (let i: usize = 0; i < end; i += FOUR) {
    const ownB = v128.load(cb + i);
    const ownR = v128.load(cr + i);
    const drawnB = v128.load(u + i);
    const drawnR = v128.load(v + i);
    // Most of a photograph loses next to nothing.
    const lost = f32x4.pmax(f32x4.abs(f32x4.sub(ownB, drawnB)), f32x4.abs(f32x4.sub(ownR, drawnR)));
    if (!v128.any_true(f32x4.gt(lost, f32x4.splat(HARDLY)))) continue;
    const own = v128.load(y + i);
    const meant = lightnessOf(m, table, own, ownB, ownR);
    const seen = lightnessOf(m, table, own, drawnB, drawnR);
    const missing = f32x4.sub(meant, seen);
    // The slope towards where Y has to go: a channel at its end stays there.
    const step = v128.bitselect(f32x4.splat(8), f32x4.splat(-8), f32x4.gt(missing, f32x4.splat(0)));
    const slope = f32x4.div(
      f32x4.sub(lightnessOf(m, table, f32x4.add(own, step), drawnB, drawnR), seen),
      step,
    );
    const shift = f32x4.div(missing, f32x4.pmax(f32x4.splat(0.0005), slope));
    const moved = f32x4.add(own, f32x4.pmax(low, f32x4.pmin(limit, shift)));
    v128.store(y + i, f32x4.pmax(f32x4.splat(-128), f32x4.pmin(f32x4.splat(127), moved)));
  }
}
