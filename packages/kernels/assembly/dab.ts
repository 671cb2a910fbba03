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

/**
 * One dab on a flat sheet. Centre and radius in texels (texel centres at .5), slope = 1/(soft width in texels),
 * full = strength 0..65535; buildUp adds to what lies there, else the stronger of the two stays.
 */
export function dabFlat(cov: usize, touched: usize, cols: i32, width: i32, height: i32, cx: f32, cy: f32, radius: f32, slope: f32, full: f32, buildUp: i32): void {
  const y0 = max<i32>(0, <i32>Mathf.ceil(cy - radius - 0.5));
  const y1 = min<i32>(height - 1, <i32>Mathf.floor(cy + radius - 0.5));
  const r2 = radius * radius;
  const vr = f32x4.splat(radius), vs = f32x4.splat(slope), vf = f32x4.splat(full);
  const solid = max<f32>(0, radius - 1 / slope);
  const core2 = solid * solid;
  const vfull = i16x8.splat(<i16>(<i32>full));
  const steps = f32x4(0, 1, 2, 3);
  for (let y = y0; y <= y1; y++) {
    const dy = <f32>y + 0.5 - cy;
    const dy2 = dy * dy;
    const half = Mathf.sqrt(max<f32>(0, r2 - dy2));
    const x0 = max<i32>(0, <i32>Mathf.ceil(cx - half - 0.5));
    const x1 = min<i32>(width - 1, <i32>Mathf.floor(cx + half - 0.5));
    if (x1 < x0) continue;
    // The run of texels that the solid middle covers whole eights of.
    let s0: i32 = 0x7fffffff, s1: i32 = -1;
    if (core2 > dy2) {
      const core = Mathf.sqrt(core2 - dy2);
      s0 = <i32>Mathf.ceil(cx - core - 0.5);
      s1 = <i32>Mathf.floor(cx + core - 0.5);
    }
    const vdy2 = f32x4.splat(dy2);
    const row = ((y >> 6) * cols << 12) + ((y & 63) << 6);
    const mark = touched + (y >> 6) * cols;
    for (let x = x0 & ~7; x <= x1; x += 8) {
      const at = cov + ((row + (x >> 6 << 12) + (x & 63)) << 1);
      store<u8>(mark + (x >> 6), 1);
      let v: v128;
      if (x >= s0 && x + 7 <= s1) v = vfull;
      else {
        const dx = f32x4.add(f32x4.splat(<f32>x + 0.5 - cx), steps);
        const ex = f32x4.add(dx, f32x4.splat(4));
        v = i16x8.narrow_i32x4_u(
          rim(f32x4.add(f32x4.mul(dx, dx), vdy2), vr, vs, vf),
          rim(f32x4.add(f32x4.mul(ex, ex), vdy2), vr, vs, vf),
        );
      }
      const c = v128.load(at);
      v128.store(at, buildUp ? pile(c, v) : i16x8.max_u(c, v));
    }
  }
}

// @ts-ignore: decorator
@inline function put(cov: usize, touched: usize, index: u32, v: u32, buildUp: i32): void {
  if (v == 0) return;
  const at = cov + (<usize>index << 1);
  const c = <u32>load<u16>(at);
  if (buildUp) {
    const t = (65535 - c) * v + 32767;
    store<u16>(at, <u16>(c + ((t + (t >> 16)) >> 16)));
  } else if (v > c) store<u16>(at, <u16>v);
  else return;
  store<u8>(touched + (index >> 12), 1);
}

/**
 * One dab through a view: `count` texel records, coverage indexes at `texels` (u32) and screen places at `places`
 * (two u16 of 1/2047 px from the bin's corner). ox, oy: the bin's corner from the dab's centre, px.
 * Both arrays may be read up to 12 bytes past their end.
 */
export function dabRecords(texels: usize, places: usize, count: i32, cov: usize, touched: usize, ox: f32, oy: f32, radius: f32, slope: f32, full: f32, buildUp: i32): void {
  const step = f32x4.splat(1.0 / 2047.0);
  const vx = f32x4.splat(ox), vy = f32x4.splat(oy);
  const vr2 = f32x4.splat(radius * radius);
  const vr = f32x4.splat(radius), vs = f32x4.splat(slope), vf = f32x4.splat(full);
  for (let i = 0; i < count; i += 4, texels += 16, places += 16) {
    const p = v128.load(places);
    const dx = f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(v128.and(p, i32x4.splat(0xffff))), step), vx);
    const dy = f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(i32x4.shr_u(p, 16)), step), vy);
    const d2 = f32x4.add(f32x4.mul(dx, dx), f32x4.mul(dy, dy));
    const inside = f32x4.lt(d2, vr2);
    if (!v128.any_true(inside)) continue;
    const v = v128.and(rim(d2, vr, vs, vf), inside);
    put(cov, touched, load<u32>(texels), i32x4.extract_lane(v, 0), buildUp);
    if (i + 1 < count) put(cov, touched, load<u32>(texels, 4), i32x4.extract_lane(v, 1), buildUp);
    if (i + 2 < count) put(cov, touched, load<u32>(texels, 8), i32x4.extract_lane(v, 2), buildUp);
    if (i + 3 < count) put(cov, touched, load<u32>(texels, 12), i32x4.extract_lane(v, 3), buildUp);
  }
}
