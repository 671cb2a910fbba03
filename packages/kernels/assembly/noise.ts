// Values of chance on a lattice, four places at a time.

const AX: i32 = 0x9e3779b1;
const AY: i32 = 0x85ebca6b;
const AZ: i32 = 0xc2b2ae35;
const AS: i32 = 0x27d4eb2f;

/** What a seed brings into the mixing. */
// @ts-ignore: decorator
@inline export function seeded(seed: i32): i32 {
  return (seed + 1) * AS;
}

/** The last stirring. Source: C. Wellons, lowbias32 (2018). Gives 0..1. */
// @ts-ignore: decorator
@inline function stirred(mixed: v128): v128 {
  let h = i32x4.mul(v128.xor(mixed, i32x4.shr_u(mixed, 16)), i32x4.splat(0x7feb352d));
  h = i32x4.mul(v128.xor(h, i32x4.shr_u(h, 15)), i32x4.splat(0x846ca68b));
  h = v128.xor(h, i32x4.shr_u(h, 16));
  return f32x4.mul(f32x4.convert_i32x4_u(h), f32x4.splat(1.0 / 4294967296.0));
}

/** Values 0..1 of four lattice places; `s` is a seed as `seeded` gives it. */
// @ts-ignore: decorator
@inline export function lattice4(x: v128, y: v128, z: v128, s: i32): v128 {
  const mixed = v128.xor(
    v128.xor(i32x4.mul(x, i32x4.splat(AX)), i32x4.mul(y, i32x4.splat(AY))),
    v128.xor(i32x4.mul(z, i32x4.splat(AZ)), i32x4.splat(s)),
  );
  return stirred(mixed);
}

/** The value 0..1 of one lattice place. */
export function lattice(x: i32, y: i32, z: i32, s: i32): f32 {
  let h: u32 = x * AX ^ y * AY ^ z * AZ ^ s;
  h = (h ^ h >> 16) * 0x7feb352d;
  h = (h ^ h >> 15) * 0x846ca68b;
  return <f32>(h ^ h >> 16) * <f32>(1.0 / 4294967296.0);
}

/** Perlin's fade ("Improving Noise", 2002). */
// @ts-ignore: decorator
@inline function ease(t: v128): v128 {
  const inner = f32x4.add(f32x4.mul(t, f32x4.sub(f32x4.mul(t, f32x4.splat(6)), f32x4.splat(15))), f32x4.splat(10));
  return f32x4.mul(f32x4.mul(f32x4.mul(t, t), t), inner);
}

// @ts-ignore: decorator
@inline export function whole(v: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(v);
}

/** Whether four whole numbers are alike. */
// @ts-ignore: decorator
@inline export function alike(v: v128): bool {
  return i32x4.all_true(i32x4.eq(v, v128.shuffle<u32>(v, v, 0, 0, 0, 0)));
}

// What the corners of the lattice cells that four places lie in make of noise there, each a vector of four: the factors
// of 1, x, y, xy, z, xz, yz and xyz, the coordinates being their eased shares of the cell.
let c0: v128 = i32x4.splat(0), c1: v128 = i32x4.splat(0), c2: v128 = i32x4.splat(0), c3: v128 = i32x4.splat(0);
let c4: v128 = i32x4.splat(0), c5: v128 = i32x4.splat(0), c6: v128 = i32x4.splat(0), c7: v128 = i32x4.splat(0);

// @ts-ignore: decorator
@inline function factors(a: v128, b: v128, c: v128, d: v128, e: v128, f: v128, g: v128, h: v128): void {
  const ab = f32x4.sub(b, a), cd = f32x4.sub(d, c), ef = f32x4.sub(f, e), gh = f32x4.sub(h, g);
  const ac = f32x4.sub(c, a), eg = f32x4.sub(g, e), abcd = f32x4.sub(cd, ab), efgh = f32x4.sub(gh, ef);
  c0 = a;
  c1 = ab;
  c2 = ac;
  c3 = abcd;
  c4 = f32x4.sub(e, a);
  c5 = f32x4.sub(ef, ab);
  c6 = f32x4.sub(eg, ac);
  c7 = f32x4.sub(efgh, abcd);
}

/** Finds the factors; where all four lie in one cell, by two stirrings instead of eight. */
function corners(ix: v128, iy: v128, iz: v128, s: i32): void {
  if (alike(ix) && alike(iy) && alike(iz)) {
    const x0 = i32x4.extract_lane(ix, 0) * AX, x1 = x0 + AX;
    const y0 = i32x4.extract_lane(iy, 0) * AY, y1 = y0 + AY;
    const z0 = i32x4.extract_lane(iz, 0) * AZ, z1 = z0 + AZ;
    const plane = i32x4(x0 ^ y0, x1 ^ y0, x0 ^ y1, x1 ^ y1);
    const near = stirred(v128.xor(plane, i32x4.splat(z0 ^ s)));
    const far = stirred(v128.xor(plane, i32x4.splat(z1 ^ s)));
    factors(
      v128.shuffle<u32>(near, near, 0, 0, 0, 0),
      v128.shuffle<u32>(near, near, 1, 1, 1, 1),
      v128.shuffle<u32>(near, near, 2, 2, 2, 2),
      v128.shuffle<u32>(near, near, 3, 3, 3, 3),
      v128.shuffle<u32>(far, far, 0, 0, 0, 0),
      v128.shuffle<u32>(far, far, 1, 1, 1, 1),
      v128.shuffle<u32>(far, far, 2, 2, 2, 2),
      v128.shuffle<u32>(far, far, 3, 3, 3, 3),
    );
    return;
  }
  const x0 = i32x4.mul(ix, i32x4.splat(AX)), x1 = i32x4.add(x0, i32x4.splat(AX));
  const y0 = i32x4.mul(iy, i32x4.splat(AY)), y1 = i32x4.add(y0, i32x4.splat(AY));
  const z0 = i32x4.mul(iz, i32x4.splat(AZ)), z1 = i32x4.add(z0, i32x4.splat(AZ));
  const zs0 = v128.xor(z0, i32x4.splat(s)), zs1 = v128.xor(z1, i32x4.splat(s));
  const a = v128.xor(x0, y0), b = v128.xor(x1, y0), c = v128.xor(x0, y1), d = v128.xor(x1, y1);
  factors(
    stirred(v128.xor(a, zs0)),
    stirred(v128.xor(b, zs0)),
    stirred(v128.xor(c, zs0)),
    stirred(v128.xor(d, zs0)),
    stirred(v128.xor(a, zs1)),
    stirred(v128.xor(b, zs1)),
    stirred(v128.xor(c, zs1)),
    stirred(v128.xor(d, zs1)),
  );
}

/** a + b·t */
// @ts-ignore: decorator
@inline function line(a: v128, b: v128, t: v128): v128 {
  return f32x4.add(a, f32x4.mul(b, t));
}

/** Noise between the corners. */
// @ts-ignore: decorator
@inline function between(tx: v128, ty: v128, tz: v128): v128 {
  return line(line(line(c0, c1, tx), line(c2, c3, tx), ty), line(line(c4, c5, tx), line(c6, c7, tx), ty), tz);
}

/** Smooth value noise at four places, 0..1, one value a unit. */
export function noise4(x: v128, y: v128, z: v128, s: i32): v128 {
  const fx = f32x4.floor(x), fy = f32x4.floor(y), fz = f32x4.floor(z);
  corners(whole(fx), whole(fy), whole(fz), s);
  return between(ease(f32x4.sub(x, fx)), ease(f32x4.sub(y, fy)), ease(f32x4.sub(z, fz)));
}

/**
 * Octaves of noise at `count` places (rounded up to four), each twice as fine and `rough` as strong, the seed 101 on:
 * `x`, `y`, `z` hold their coordinates, which are taken times `kx`, `ky`, `kz`. Writes 0.5 + (v - 0.5)·slope within 0..1.
 */
export function clouds(
  x: usize,
  y: usize,
  z: usize,
  count: i32,
  kx: f32,
  ky: f32,
  kz: f32,
  seed: i32,
  octaves: i32,
  rough: f32,
  slope: f32,
  out: usize,
): void {
  const bytes = <usize>(count + 3 & ~3) * 4;
  let weight: f32 = 1, all: f32 = 0, fine: f32 = 1;
  for (let k = 0; k < octaves; k++) {
    const s = seeded(seed + k * 101);
    const mx = f32x4.splat(kx * fine), my = f32x4.splat(ky * fine), mz = f32x4.splat(kz * fine);
    const w = f32x4.splat(weight);
    let hx = f32x4.splat(NaN), hy = hx, hz = hx;
    for (let at: usize = 0; at < bytes; at += 16) {
      const px = f32x4.mul(v128.load(x + at), mx), py = f32x4.mul(v128.load(y + at), my), pz = f32x4.mul(v128.load(z + at), mz);
      const fx = f32x4.floor(px), fy = f32x4.floor(py), fz = f32x4.floor(pz);
      // Neighbours mostly lie in the cell of those before them.
      if (v128.any_true(v128.or(v128.or(f32x4.ne(fx, hx), f32x4.ne(fy, hy)), f32x4.ne(fz, hz)))) {
        corners(whole(fx), whole(fy), whole(fz), s);
        hx = fx;
        hy = fy;
        hz = fz;
      }
      const v = f32x4.mul(w, between(ease(f32x4.sub(px, fx)), ease(f32x4.sub(py, fy)), ease(f32x4.sub(pz, fz))));
      v128.store(out + at, k ? f32x4.add(v128.load(out + at), v) : v);
    }
    all += weight;
    weight *= rough;
    fine *= 2;
  }
  const over = f32x4.splat(slope / all), rest = f32x4.splat(0.5 - 0.5 * slope);
  for (let at: usize = 0; at < bytes; at += 16) {
    const v = f32x4.add(f32x4.mul(v128.load(out + at), over), rest);
    v128.store(out + at, f32x4.min(f32x4.max(v, f32x4.splat(0)), f32x4.splat(1)));
  }
}
