// Round dabs into 16-bit stroke coverage. Coverage is one buffer in tile order: tile after tile of 64x64 u16,
// row by row; `touched` has a byte a tile that a dab sets.

/** Coverage 0..65535 of four texels at squared distance d2 from the centre: smoothstep over the soft rim. */
// @ts-ignore: decorator
@inline function rim(d2: v128, radius: v128, slope: v128, full: v128): v128 {
  let f = f32x4.mul(f32x4.sub(radius, f32x4.sqrt(d2)), slope);
  f = f32x4.pmin(f32x4.splat(1), f32x4.pmax(f32x4.splat(0), f));
  f = f32x4.mul(f32x4.mul(f, f), f32x4.sub(f32x4.splat(3), f32x4.add(f, f)));
  return i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(f, full), f32x4.splat(0.5)));
}

/** c + (1 - c)·v on 16-bit fractions, rounded. */
// @ts-ignore: decorator
@inline function pile(c: v128, v: v128): v128 {
  const rest = v128.xor(c, i16x8.splat(-1));
  const low = i32x4.extmul_low_i16x8_u(rest, v);
  const high = i32x4.extmul_high_i16x8_u(rest, v);
  const half = i32x4.splat(32767);
  // x·y/65535 rounded: (t + (t >> 16)) >> 16 with t = xy + 32767.
  const tl = i32x4.add(low, half);
  const th = i32x4.add(high, half);
  const ql = i32x4.shr_u(i32x4.add(tl, i32x4.shr_u(tl, 16)), 16);
  const qh = i32x4.shr_u(i32x4.add(th, i32x4.shr_u(th, 16)), 16);
  return i16x8.add_sat_u(c, i16x8.narrow_i32x4_u(ql, qh));
}

/** Squared distance along a tip's own axes of four places in a row: su, sv are what the row's y gives. */
// @ts-ignore: decorator
@inline function far(dx: v128, su: v128, sv: v128, ux: f32, vx: f32): v128 {
  const u = f32x4.add(f32x4.mul(dx, f32x4.splat(ux)), su);
  const v = f32x4.add(f32x4.mul(dx, f32x4.splat(vx)), sv);
  return f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v));
}

/** Texels of empty border on both sides of a tip picture's rows, so that eights may start before it. */
const BORDER: i32 = 8;

/**
 * A round or oval dab as a picture of u16: `side` rows of side + 16 texels (8 empty on both sides), its centre at
 * cx, cy (texel centres at .5, from the inner corner). slope = 1/(soft width in texels). (ux, uy) and (vx, vy) are the
 * axes along which distance is taken: 1 0, 0 1 for a disc.
 */
export function roundTip(tip: usize, side: i32, cx: f32, cy: f32, radius: f32, slope: f32, ux: f32, uy: f32, vx: f32, vy: f32): void {
  const stride = side + 2 * BORDER;
  const vr = f32x4.splat(radius), vs = f32x4.splat(slope), vf = f32x4.splat(65535);
  const steps = f32x4(0, 1, 2, 3);
  const end = i32x4.splat(side);
  for (let y = 0; y < side; y++) {
    const dy = <f32>y + 0.5 - cy;
    const su = f32x4.splat(dy * uy), sv = f32x4.splat(dy * vy);
    const row = tip + (y * stride << 1);
    v128.store(row, i16x8.splat(0));
    for (let x = 0; x < side + BORDER; x += 8) {
      const dx = f32x4.add(f32x4.splat(<f32>x + 0.5 - cx), steps);
      const ex = f32x4.add(dx, f32x4.splat(4));
      const v = i16x8.narrow_i32x4_u(rim(far(dx, su, sv, ux, vx), vr, vs, vf), rim(far(ex, su, sv, ux, vx), vr, vs, vf));
      const lanes = i32x4.add(i32x4.splat(x), i32x4(0, 1, 2, 3));
      const inside = i16x8.narrow_i32x4_s(i32x4.lt_s(lanes, end), i32x4.lt_s(i32x4.add(lanes, i32x4.splat(4)), end));
      v128.store(row + (BORDER + x << 1), v128.and(v, inside));
    }
  }
}

/**
 * The tone 0..65535 of a square A8 picture at u, v texels from its middle, between texels; nothing lies outside.
 */
// @ts-ignore: decorator
@inline function tone(picture: usize, side: i32, u: f32, v: f32): f32 {
  const half = <f32>side * 0.5 - 0.5;
  const x = u + half, y = v + half;
  const fx = Mathf.floor(x), fy = Mathf.floor(y);
  const x0 = <i32>fx, y0 = <i32>fy;
  if (x0 < -1 || y0 < -1 || x0 >= side || y0 >= side) return 0;
  const s = x - fx, t = y - fy;
  const row = picture + y0 * side + x0;
  const left = x0 >= 0, right = x0 + 1 < side;
  let top: f32 = 0, low: f32 = 0;
  if (y0 >= 0) {
    const a: f32 = left ? <f32>load<u8>(row) : 0;
    const b: f32 = right ? <f32>load<u8>(row, 1) : 0;
    top = a + (b - a) * s;
  }
  if (y0 + 1 < side) {
    const a: f32 = left ? <f32>load<u8>(row + side) : 0;
    const b: f32 = right ? <f32>load<u8>(row + side, 1) : 0;
    low = a + (b - a) * s;
  }
  return (top + (low - top) * t) * 257;
}

/** One place's rim 0..1 as `rim` has it for four. */
// @ts-ignore: decorator
@inline function rim1(d2: f32, radius: f32, slope: f32): f32 {
  const f = min<f32>(1, max<f32>(0, (radius - Mathf.sqrt(d2)) * slope));
  return f * f * (3 - 2 * f);
}

/**
 * A dab of a picture, in the form of roundTip. (ux, uy), (vx, vy) lead from the dab's texels to the picture's;
 * `radius` is half of the picture's side and slope 1/(soft width), both in the picture's texels; slope 0 leaves the rim.
 */
export function pictureTip(tip: usize, side: i32, cx: f32, cy: f32, picture: usize, pictureSide: i32, radius: f32, slope: f32, ux: f32, uy: f32, vx: f32, vy: f32): void {
  const stride = side + 2 * BORDER;
  for (let y = 0; y < side; y++) {
    const row = tip + (y * stride << 1);
    memory.fill(row, 0, stride << 1);
    const dy = <f32>y + 0.5 - cy;
    let at = row + (BORDER << 1);
    for (let x = 0; x < side; x++, at += 2) {
      const dx = <f32>x + 0.5 - cx;
      const u = ux * dx + uy * dy, v = vx * dx + vy * dy;
      let t = tone(picture, pictureSide, u, v);
      if (t == 0) continue;
      if (slope != 0) t *= rim1(u * u + v * v, radius, slope);
      store<u16>(at, <u16>(t + 0.5));
    }
  }
}

/** v·k on 16-bit fractions. */
// @ts-ignore: decorator
@inline function part(v: v128, k: v128, whole: bool): v128 {
  if (whole) return v;
  return i16x8.narrow_i32x4_u(i32x4.shr_u(i32x4.extmul_low_i16x8_u(v, k), 16), i32x4.shr_u(i32x4.extmul_high_i16x8_u(v, k), 16));
}

/**
 * Sets a tip picture, as roundTip makes it, with its inner corner at texel ox, oy. strength 0..65536; buildUp adds
 * to what lies there, else the stronger of the two stays. Rows and eights of texels outside the sheet are left out.
 * What lies behind the line a·x + b·y = c (texel corners) by more than a texel is left out too: a dab before this one
 * covers it; a = b = 0 leaves nothing out.
 */
export function stampFlat(cov: usize, touched: usize, cols: i32, rows: i32, tip: usize, side: i32, ox: i32, oy: i32, strength: u32, buildUp: i32, a: f32, b: f32, c: f32): void {
  const stride = side + 2 * BORDER;
  const left = max<i32>(0, ox & ~7);
  const right = min<i32>(cols << 6, ox + side);
  const y1 = min<i32>(rows << 6, oy + side);
  const whole = strength > 65535;
  const k = i16x8.splat(<i16>strength);
  const over = <f32>1 / a;
  for (let y = max<i32>(0, oy); y < y1; y++) {
    let x0 = left;
    let x1 = right;
    const behind = c - b * <f32>y;
    if (a > 0.01) x0 = max<i32>(x0, <i32>Mathf.floor(behind * over) - 2 & ~7);
    else if (a < -0.01) x1 = min<i32>(x1, <i32>Mathf.ceil(behind * over) + 3);
    else if (behind > 1.5) continue;
    const from = tip + ((y - oy) * stride + BORDER - ox << 1);
    const row = cov + (((y >> 6) * cols << 12) + ((y & 63) << 6) << 1);
    const mark = touched + (y >> 6) * cols;
    // Tile by tile, so that both sides of the inner loop only step on.
    for (let x = x0; x < x1; ) {
      const stop = min<i32>(x1, (x | 63) + 1);
      let v = from + (x << 1);
      let at = row + ((x >> 6 << 12) + (x & 63) << 1);
      const tile = x >> 6;
      let any = i32x4.splat(0);
      if (whole && !buildUp) {
        for (; x < stop; x += 8, v += 16, at += 16) {
          const add = v128.load(v);
          any = v128.or(any, add);
          v128.store(at, i16x8.max_u(v128.load(at), add));
        }
      } else {
        for (; x < stop; x += 8, v += 16, at += 16) {
          const add = part(v128.load(v), k, whole);
          const c = v128.load(at);
          any = v128.or(any, add);
          v128.store(at, buildUp ? pile(c, add) : i16x8.max_u(c, add));
        }
      }
      if (v128.any_true(any)) store<u8>(mark + tile, 1);
    }
  }
}

/**
 * What a texel's coverage c becomes by v, kept at `at`; where `ink` is not 0 the texel's own colour, RGBA8 at ink, moves
 * to `color` by the share that v has in the coverage.
 */
// @ts-ignore: decorator
@inline function pile1(at: usize, v: u32, buildUp: i32, ink: usize, color: u32): void {
  const c = <u32>load<u16>(at);
  let now = v > c ? v : c;
  if (buildUp) {
    const t = (65535 - c) * v + 32767;
    now = c + ((t + (t >> 16)) >> 16);
  }
  store<u16>(at, <u16>now);
  if (ink) {
    const was = load<u32>(ink);
    const k = v >= now || c == 0 ? <u32>256 : (v << 8) / now;
    let out: u32 = 0xff000000;
    for (let shift: u32 = 0; shift < 24; shift += 8) {
      const a = <i32>(was >> shift & 255), b = <i32>(color >> shift & 255);
      out |= <u32>(a + ((b - a) * <i32>k + 128 >> 8)) << shift;
    }
    store<u32>(ink, out);
  }
}

/** stampFlat with a colour of the dab's own: `ink` is the sheet's RGBA8 in tile order. */
export function stampInk(cov: usize, touched: usize, cols: i32, rows: i32, tip: usize, side: i32, ox: i32, oy: i32, strength: u32, buildUp: i32, ink: usize, color: u32): void {
  const stride = side + 2 * BORDER;
  const x0 = max<i32>(0, ox), x1 = min<i32>(cols << 6, ox + side);
  const y1 = min<i32>(rows << 6, oy + side);
  for (let y = max<i32>(0, oy); y < y1; y++) {
    const from = tip + ((y - oy) * stride + BORDER - ox << 1);
    const row = ((y >> 6) * cols << 12) + ((y & 63) << 6);
    for (let x = x0; x < x1; x++) {
      const v = (<u32>load<u16>(from + (x << 1)) * strength) >> 16;
      if (v == 0) continue;
      const index = row + (x >> 6 << 12) + (x & 63);
      pile1(cov + (<usize>index << 1), v, buildUp, ink + (<usize>index << 2), color);
      store<u8>(touched + (index >> 12), 1);
    }
  }
}

/** A record's word: the coverage index in 26 bits, above it how much of a dab the texel takes, 0..63. */
// @ts-ignore: decorator
@inline function put(cov: usize, touched: usize, word: u32, value: u32, buildUp: i32, ink: usize, color: u32): void {
  if (value == 0) return;
  const weight = word >> 26;
  const index = word & 0x3ffffff;
  const v = weight == 63 ? value : value * weight / 63;
  if (v == 0) return;
  const at = cov + (<usize>index << 1);
  if (ink) pile1(at, v, buildUp, ink + (<usize>index << 2), color);
  else {
    const c = <u32>load<u16>(at);
    if (buildUp) {
      const t = (65535 - c) * v + 32767;
      store<u16>(at, <u16>(c + ((t + (t >> 16)) >> 16)));
    } else if (v > c) store<u16>(at, <u16>v);
    else return;
  }
  store<u8>(touched + (index >> 12), 1);
}

/**
 * One round or oval dab through a view: `count` texel records, coverage indexes with weights at `texels` (u32, see put) and screen places at
 * `places` (two u16 of 1/2047 px from the bin's corner). ox, oy: the bin's corner from the dab's centre, px. Axes and
 * ink as in roundTip and stampInk. Both arrays may be read up to 12 bytes past their end.
 */
export function dabRecords(texels: usize, places: usize, count: i32, cov: usize, touched: usize, ox: f32, oy: f32, radius: f32, slope: f32, full: f32, buildUp: i32, ux: f32, uy: f32, vx: f32, vy: f32, ink: usize, color: u32): void {
  const step = f32x4.splat(1.0 / 2047.0);
  const bx = f32x4.splat(ox), by = f32x4.splat(oy);
  const vr2 = f32x4.splat(radius * radius);
  const vr = f32x4.splat(radius), vs = f32x4.splat(slope), vf = f32x4.splat(full);
  for (let i = 0; i < count; i += 4, texels += 16, places += 16) {
    const p = v128.load(places);
    const dx = f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(v128.and(p, i32x4.splat(0xffff))), step), bx);
    const dy = f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(i32x4.shr_u(p, 16)), step), by);
    const d2 = far(dx, f32x4.mul(dy, f32x4.splat(uy)), f32x4.mul(dy, f32x4.splat(vy)), ux, vx);
    const inside = f32x4.lt(d2, vr2);
    if (!v128.any_true(inside)) continue;
    const v = v128.and(rim(d2, vr, vs, vf), inside);
    put(cov, touched, load<u32>(texels), i32x4.extract_lane(v, 0), buildUp, ink, color);
    if (i + 1 < count) put(cov, touched, load<u32>(texels, 4), i32x4.extract_lane(v, 1), buildUp, ink, color);
    if (i + 2 < count) put(cov, touched, load<u32>(texels, 8), i32x4.extract_lane(v, 2), buildUp, ink, color);
    if (i + 3 < count) put(cov, touched, load<u32>(texels, 12), i32x4.extract_lane(v, 3), buildUp, ink, color);
  }
}

/** A dab of a picture through a view; records as in dabRecords, the picture and its axes as in pictureTip. */
export function pictureRecords(texels: usize, places: usize, count: i32, cov: usize, touched: usize, ox: f32, oy: f32, picture: usize, side: i32, radius: f32, slope: f32, full: f32, buildUp: i32, ux: f32, uy: f32, vx: f32, vy: f32, ink: usize, color: u32): void {
  const step: f32 = 1.0 / 2047.0;
  const reach = <f32>side * 0.5 + 1;
  const share = full / 65535;
  for (let i = 0; i < count; i++, texels += 4, places += 4) {
    const dx = <f32>load<u16>(places) * step + ox, dy = <f32>load<u16>(places, 2) * step + oy;
    const u = ux * dx + uy * dy, v = vx * dx + vy * dy;
    if (Mathf.abs(u) > reach || Mathf.abs(v) > reach) continue;
    let t = tone(picture, side, u, v) * share;
    if (t == 0) continue;
    if (slope != 0) t *= rim1(u * u + v * v, radius, slope);
    put(cov, touched, load<u32>(texels), <u32>(t + 0.5), buildUp, ink, color);
  }
}
