// Patterns of chance on runs of places: dots, scratches, drips and single strokes. Tones are 0..1.
import { lattice, lattice4, noise4, seeded, whole } from "./noise";

// @ts-ignore: decorator
@inline function unit(v: v128): v128 {
  return f32x4.pmin(f32x4.pmax(v, f32x4.splat(0)), f32x4.splat(1));
}

/** Hermite from 0 where t is 0 to 1 where it is 1, held beside. */
// @ts-ignore: decorator
@inline function hermite(t: v128): v128 {
  const u = unit(t);
  return f32x4.mul(f32x4.mul(u, u), f32x4.sub(f32x4.splat(3), f32x4.add(u, u)));
}

/** From 1 at `a` down to 0 at `b`. */
// @ts-ignore: decorator
@inline function falling(a: v128, b: v128, v: v128): v128 {
  return f32x4.sub(f32x4.splat(1), hermite(f32x4.div(f32x4.sub(v, a), f32x4.sub(b, a))));
}

// @ts-ignore: decorator
@inline function scaled(v: v128, k: f32): v128 {
  return f32x4.mul(v, f32x4.splat(k));
}

// @ts-ignore: decorator
@inline function moved(v: v128, by: f32): v128 {
  return f32x4.add(v, f32x4.splat(by));
}

/** e to the power of four numbers of at most 0, within 1e-6. Source: Cephes' expf, shortened. */
function exp4(v: v128): v128 {
  const t = f32x4.max(scaled(v, 1.4426950408889634), f32x4.splat(-126));
  const n = f32x4.floor(moved(t, 0.5));
  const f = scaled(f32x4.sub(t, n), 0.6931471805599453);
  let p = f32x4.splat(1.0 / 720.0);
  p = moved(f32x4.mul(p, f), 1.0 / 120.0);
  p = moved(f32x4.mul(p, f), 1.0 / 24.0);
  p = moved(f32x4.mul(p, f), 1.0 / 6.0);
  p = moved(f32x4.mul(p, f), 0.5);
  p = moved(f32x4.mul(p, f), 1);
  p = moved(f32x4.mul(p, f), 1);
  return f32x4.mul(p, i32x4.shl(i32x4.add(whole(n), i32x4.splat(127)), 23));
}

/** Bytes of scratch that `speckle` and `brushed` need. */
const DOT: usize = 20;

/** The dots that chance has in and around one cell of space: places, and radii where they begin and end. Returns their number. */
function dotsOf(ix: i32, iy: i32, iz: i32, seed: i32, dense: f32, soft: f32, flat: bool, to: usize): i32 {
  let count = 0;
  const far = flat ? 0 : 1;
  for (let z = iz - far; z <= iz + far; z++)
    for (let y = iy - 1; y <= iy + 1; y++)
      for (let x = ix - 1; x <= ix + 1; x++) {
        if (lattice(x, y, z, seeded(seed + 3)) > dense) continue;
        const r: f32 = 0.12 + 0.33 * lattice(x, y, z, seeded(seed + 4));
        store<f32>(to, <f32>x + lattice(x, y, z, seeded(seed)));
        store<f32>(to, <f32>y + lattice(x, y, z, seeded(seed + 1)), 4);
        store<f32>(to, <f32>z + lattice(x, y, z, seeded(seed + 2)), 8);
        store<f32>(to, r * (1 - soft), 12);
        store<f32>(to, r * (<f32>1.001 + <f32>0.3 * soft), 16);
        to += DOT;
        count++;
      }
  return count;
}

/** The strongest dot at four places. */
function dotted(x: v128, y: v128, z: v128, dots: usize, count: i32, flat: bool): v128 {
  let best = f32x4.splat(0);
  for (let i = 0; i < count; i++, dots += DOT) {
    const dx = f32x4.sub(x, v128.load32_splat(dots)), dy = f32x4.sub(y, v128.load32_splat(dots, 4));
    const dz = flat ? f32x4.splat(0) : f32x4.sub(z, v128.load32_splat(dots, 8));
    const square = f32x4.add(f32x4.add(f32x4.mul(dx, dx), f32x4.mul(dy, dy)), f32x4.mul(dz, dz));
    const end = v128.load32_splat(dots, 16);
    if (!v128.any_true(f32x4.lt(square, f32x4.mul(end, end)))) continue;
    best = f32x4.pmax(best, falling(v128.load32_splat(dots, 12), end, f32x4.sqrt(square)));
  }
  return best;
}

/**
 * Dots at `count` places (rounded up to four), taken times `k`: one a cube of space at the most, where chance has them
 * by `dense`. `scratch` is room for 27 · 20 bytes.
 */
export function speckle(
  x: usize,
  y: usize,
  z: usize,
  count: i32,
  k: f32,
  seed: i32,
  dense: f32,
  soft: f32,
  flat: bool,
  scratch: usize,
  out: usize,
): void {
  const bytes = <usize>(count + 3 & ~3) * 4;
  let dots = 0, hx = i32.MAX_VALUE, hy = 0, hz = 0;
  for (let at: usize = 0; at < bytes; at += 16) {
    const px = scaled(v128.load(x + at), k), py = scaled(v128.load(y + at), k), pz = scaled(v128.load(z + at), k);
    const ix = whole(f32x4.floor(px)), iy = whole(f32x4.floor(py)), iz = whole(f32x4.floor(pz));
    let left = i32x4.splat(-1), tone = f32x4.splat(0);
    // Once for each cell that any of the four lies in: mostly one.
    while (v128.any_true(left)) {
      const lane = ctz(i32x4.bitmask(left));
      const cx = laneOf(ix, lane), cy = laneOf(iy, lane), cz = laneOf(iz, lane);
      if (cx != hx || cy != hy || cz != hz) {
        dots = dotsOf(cx, cy, cz, seed, dense, soft, flat, scratch);
        hx = cx;
        hy = cy;
        hz = cz;
      }
      const here = v128.and(
        v128.and(i32x4.eq(ix, i32x4.splat(cx)), i32x4.eq(iy, i32x4.splat(cy))),
        i32x4.eq(iz, i32x4.splat(cz)),
      );
      tone = v128.bitselect(dotted(px, py, pz, scratch, dots, flat), tone, here);
      left = v128.andnot(left, here);
    }
    v128.store(out + at, tone);
  }
}

// @ts-ignore: decorator
@inline function laneOf(v: v128, lane: i32): i32 {
  if (lane == 0) return i32x4.extract_lane(v, 0);
  if (lane == 1) return i32x4.extract_lane(v, 1);
  if (lane == 2) return i32x4.extract_lane(v, 2);
  return i32x4.extract_lane(v, 3);
}

/** The nine strokes that may lie over one cell: order, middle across and down, tone, and the cell's own number across. */
function strokesOf(a: i32, b: i32, seed: i32, to: usize): void {
  const s = seeded(seed);
  for (let y = b - 1; y <= b + 1; y++)
    for (let x = a - 1; x <= a + 1; x++, to += DOT) {
      store<f32>(to, lattice(x, y, 0, s));
      store<f32>(to, <f32>x + 0.5 + 0.8 * (lattice(x, y, 1, s) - 0.5), 4);
      store<f32>(to, <f32>y + 0.5 + 0.8 * (lattice(x, y, 2, s) - 0.5), 8);
      store<f32>(to, 0.15 + 0.85 * lattice(x, y, 3, s), 12);
      store<f32>(to, <f32>x, 16);
    }
}

/** The tone of the uppermost of nine strokes at four places; below 0 where none lies. */
function uppermost(p: v128, q: v128, w: v128, seed: i32, strokes: usize): v128 {
  let top = f32x4.splat(-1), tone = f32x4.splat(-1);
  for (let i = 0; i < 9; i++, strokes += DOT) {
    const x = f32x4.abs(f32x4.sub(p, v128.load32_splat(strokes, 4)));
    const y = f32x4.abs(f32x4.sub(q, v128.load32_splat(strokes, 8)));
    const order = v128.load32_splat(strokes);
    let here = v128.and(
      v128.and(f32x4.le(x, f32x4.splat(0.78)), f32x4.le(y, f32x4.splat(0.62))),
      f32x4.ge(order, top),
    );
    if (!v128.any_true(here)) continue;
    // Bristles fray the ends.
    if (v128.any_true(v128.and(here, f32x4.gt(x, f32x4.splat(0.48))))) {
      const fray = scaled(noise4(scaled(q, 7), f32x4.splat(load<f32>(strokes, 16) * <f32>3.7), w, seeded(seed + 5)), 0.3);
      here = v128.and(here, f32x4.le(x, f32x4.sub(f32x4.splat(0.78), fray)));
    }
    top = v128.bitselect(order, top, here);
    tone = v128.bitselect(v128.load32_splat(strokes, 12), tone, here);
  }
  return tone;
}

/**
 * Single strokes of a brush over each other at `count` places along a surface (rounded up to four): `turnCos` and
 * `turnSin` turn them, `k` is strokes a unit, `long` their length in widths. `scratch` is room for 9 · 20 bytes.
 */
export function brushed(
  u: usize,
  v: usize,
  w: usize,
  count: i32,
  k: f32,
  turnCos: f32,
  turnSin: f32,
  long: f32,
  seed: i32,
  scratch: usize,
  out: usize,
): void {
  const bytes = <usize>(count + 3 & ~3) * 4;
  let ha = i32.MAX_VALUE, hb = 0;
  for (let at: usize = 0; at < bytes; at += 16) {
    const pu = v128.load(u + at), pv = v128.load(v + at), pw = scaled(v128.load(w + at), 0.02);
    const p = scaled(f32x4.add(scaled(pu, turnCos), scaled(pv, turnSin)), k / long);
    const q = scaled(f32x4.sub(scaled(pv, turnCos), scaled(pu, turnSin)), k);
    const ip = whole(f32x4.floor(p)), iq = whole(f32x4.floor(q));
    let left = i32x4.splat(-1), tone = f32x4.splat(-1);
    while (v128.any_true(left)) {
      const lane = ctz(i32x4.bitmask(left));
      const a = laneOf(ip, lane), b = laneOf(iq, lane);
      if (a != ha || b != hb) {
        strokesOf(a, b, seed, scratch);
        ha = a;
        hb = b;
      }
      const here = v128.and(i32x4.eq(ip, i32x4.splat(a)), i32x4.eq(iq, i32x4.splat(b)));
      tone = v128.bitselect(uppermost(p, q, pw, seed, scratch), tone, here);
      left = v128.andnot(left, here);
    }
    const laid = f32x4.ge(tone, f32x4.splat(0));
    if (v128.any_true(laid)) tone = f32x4.sub(tone, scaled(noise4(scaled(p, 1.5), scaled(q, 9), pw, seeded(seed + 9)), 0.25));
    v128.store(out + at, v128.and(unit(tone), laid));
  }
}

/**
 * Scratches at `count` places along a surface (rounded up to four): three families of lines in cells that chance fills;
 * `turns` holds the cosine and sine of each.
 */
export function scratched(
  u: usize,
  v: usize,
  w: usize,
  count: i32,
  k: f32,
  turns: usize,
  seed: i32,
  dense: f32,
  thick: f32,
  out: usize,
): void {
  const bytes = <usize>(count + 3 & ~3) * 4;
  const s = seeded(seed);
  const perDense: f32 = 1 / max<f32>(0.01, dense);
  for (let at: usize = 0; at < bytes; at += 16) {
    const pu = v128.load(u + at), pv = v128.load(v + at), pw = scaled(v128.load(w + at), 0.02);
    let best = f32x4.splat(0);
    for (let n = 0; n < 3; n++) {
      const c = load<f32>(turns + (n << 3)), d = load<f32>(turns + (n << 3), 4);
      const p = scaled(f32x4.add(scaled(pu, c), scaled(pv, d)), k);
      const bent = scaled(noise4(scaled(p, 0.7), f32x4.splat(<f32>n * <f32>9.1), pw, seeded(seed + 31)), 0.6);
      const q = f32x4.add(scaled(f32x4.sub(scaled(pv, c), scaled(pu, d)), k * 4), bent);
      const fq = f32x4.floor(q), row = whole(fq), family = i32x4.splat(n);
      const along = f32x4.add(p, scaled(lattice4(row, family, i32x4.splat(1), s), 7));
      const start = f32x4.floor(along);
      const cell = lattice4(whole(start), row, family, seeded(seed + 7));
      const here = f32x4.le(cell, f32x4.splat(dense));
      if (!v128.any_true(here)) continue;
      const inCell = f32x4.sub(along, start);
      const ends = f32x4.mul(hermite(scaled(inCell, 4)), hermite(scaled(f32x4.sub(f32x4.splat(1), inCell), 2.5)));
      const wide = f32x4.mul(scaled(moved(scaled(cell, perDense), 0.4), <f32>0.16 * thick), ends);
      const off = f32x4.abs(moved(f32x4.sub(q, fq), -0.5));
      const tone = f32x4.mul(ends, falling(scaled(wide, 0.5), moved(wide, 0.02), off));
      best = f32x4.pmax(best, v128.and(tone, here));
    }
    v128.store(out + at, best);
  }
}

/** Drips down a surface at `count` places (rounded up to four), in columns of `k` a unit; `fall` is one over their length. */
export function dripped(
  u: usize,
  v: usize,
  w: usize,
  count: i32,
  k: f32,
  fall: f32,
  seed: i32,
  dense: f32,
  out: usize,
): void {
  const bytes = <usize>(count + 3 & ~3) * 4;
  const s = seeded(seed);
  for (let at: usize = 0; at < bytes; at += 16) {
    const pu = scaled(v128.load(u + at), k), pv = scaled(v128.load(v + at), k), pw = scaled(v128.load(w + at), 0.02);
    const sway = noise4(scaled(pv, 0.35), scaled(pu, 0.5), pw, seeded(seed + 17));
    const p = f32x4.add(pu, scaled(moved(sway, -0.5), 0.35));
    const column = whole(f32x4.floor(p)), down = scaled(pv, fall * 0.25);
    let best = f32x4.splat(0);
    for (let n = -1; n <= 1; n++) {
      const c = i32x4.add(column, i32x4.splat(n));
      const depth = f32x4.add(down, scaled(lattice4(c, i32x4.splat(5), i32x4.splat(0), s), 9));
      const fd = f32x4.floor(depth), run = whole(fd), t = f32x4.sub(depth, fd);
      const long = moved(scaled(lattice4(c, run, i32x4.splat(2), s), 0.6), 0.35);
      const here = v128.and(
        f32x4.le(lattice4(c, run, i32x4.splat(1), s), f32x4.splat(dense)),
        f32x4.le(t, long),
      );
      if (!v128.any_true(here)) continue;
      const middle = f32x4.add(f32x4.convert_i32x4_s(c), moved(scaled(lattice4(c, run, i32x4.splat(3), s), 0.4), 0.3));
      const share = f32x4.div(t, long);
      // Thin as it runs, with a drop at its end.
      const e = scaled(moved(share, -0.9), 10);
      const drop = exp4(f32x4.neg(f32x4.mul(e, e)));
      const thick = f32x4.add(f32x4.sub(f32x4.splat(0.2), scaled(share, 0.1)), scaled(drop, 0.14));
      const side = falling(scaled(thick, 0.6), thick, f32x4.abs(f32x4.sub(p, middle)));
      const tone = f32x4.mul(f32x4.mul(side, hermite(scaled(t, 1.0 / 0.06))), moved(scaled(share, 0.45), 0.55));
      best = f32x4.pmax(best, v128.and(tone, here));
    }
    v128.store(out + at, best);
  }
}
