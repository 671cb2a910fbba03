// Stroke coverage onto one tile of a layer. `before` is the tile as it was when the stroke began (step 0 repeats
// eight texels: a uniform or empty tile), `cov` its coverage, `out` the layer's tile now.

// @ts-ignore: decorator
@inline function channel(x: v128): v128 {
  return f32x4.convert_i32x4_s(x);
}

/** Four texels of colour laid with weight s (0..1): straight alpha over, rounded RGBA8. */
// @ts-ignore: decorator
@inline function lay4(p: v128, s: v128, r: v128, g: v128, b: v128, lock: bool): v128 {
  const byte = i32x4.splat(255);
  const br = channel(v128.and(p, byte));
  const bg = channel(v128.and(i32x4.shr_u(p, 8), byte));
  const bb = channel(v128.and(i32x4.shr_u(p, 16), byte));
  const ba = channel(i32x4.shr_u(p, 24));
  // weight of the new colour in the result: s / (s + ba(1 - s)); alpha in 0..255
  const after = f32x4.add(f32x4.mul(s, f32x4.sub(f32x4.splat(255), ba)), ba);
  const share = lock ? s : v128.and(f32x4.div(f32x4.mul(s, f32x4.splat(255)), after), f32x4.gt(after, f32x4.splat(0)));
  const half = f32x4.splat(0.5);
  const R = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.add(br, f32x4.mul(f32x4.sub(r, br), share)), half));
  const G = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.add(bg, f32x4.mul(f32x4.sub(g, bg), share)), half));
  const B = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.add(bb, f32x4.mul(f32x4.sub(b, bb), share)), half));
  const A = i32x4.trunc_sat_f32x4_s(f32x4.add(lock ? ba : after, half));
  return v128.or(v128.or(R, i32x4.shl(G, 8)), v128.or(i32x4.shl(B, 16), i32x4.shl(A, 24)));
}

// @ts-ignore: decorator
@inline function weightLow(c: v128, k: v128): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(c)), k);
}

// @ts-ignore: decorator
@inline function weightHigh(c: v128, k: v128): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_u(c)), k);
}

/** Two opaque texels of 8-bit lanes moved towards `color` (7 fraction bits) by 15-bit weights w: exact to 1/128. */
// @ts-ignore: decorator
@inline function lay2(p: v128, w: v128, color: v128): v128 {
  const from = i16x8.shl(p, 7);
  const moved = i16x8.add(from, i16x8.q15mulr_sat_s(i16x8.sub(color, from), w));
  return i16x8.shr_u(i16x8.add(moved, i16x8.splat(64)), 7);
}

/** Eight opaque texels at once; lane 3 of each keeps its 255. c: coverage 0..65535. */
// @ts-ignore: decorator
@inline function lay8(out: usize, p: v128, q: v128, c: v128, color: v128): void {
  const w = i16x8.shr_u(c, 1);
  const zero = i16x8.splat(0);
  v128.store(out, i8x16.narrow_i16x8_u(
    lay2(i16x8.extend_low_i8x16_u(p), v128.shuffle<u16>(w, zero, 0, 0, 0, 8, 1, 1, 1, 8), color),
    lay2(i16x8.extend_high_i8x16_u(p), v128.shuffle<u16>(w, zero, 2, 2, 2, 8, 3, 3, 3, 8), color),
  ));
  v128.store(out, i8x16.narrow_i16x8_u(
    lay2(i16x8.extend_low_i8x16_u(q), v128.shuffle<u16>(w, zero, 4, 4, 4, 8, 5, 5, 5, 8), color),
    lay2(i16x8.extend_high_i8x16_u(q), v128.shuffle<u16>(w, zero, 6, 6, 6, 8, 7, 7, 7, 8), color),
  ), 16);
}

/** Lays a colour (0..255 each) by coverage on a tile; `lock` keeps the layer's alpha as it is. */
export function layColor(before: usize, step: usize, cov: usize, out: usize, red: i32, green: i32, blue: i32, lock: i32): void {
  const k = f32x4.splat(1.0 / 65535.0);
  const r = f32x4.splat(<f32>red), g = f32x4.splat(<f32>green), b = f32x4.splat(<f32>blue);
  const color = i16x8.shl(i16x8(<i16>red, <i16>green, <i16>blue, 255, <i16>red, <i16>green, <i16>blue, 255), 7);
  const alpha = i32x4.splat(0xff000000);
  for (let i = 0; i < 512; i++, before += step, cov += 16, out += 32) {
    const c = v128.load(cov);
    const p = v128.load(before), q = v128.load(before, 16);
    if (!v128.any_true(c)) {
      v128.store(out, p);
      v128.store(out, q, 16);
    } else if (i32x4.all_true(i32x4.eq(v128.and(v128.and(p, q), alpha), alpha))) {
      lay8(out, p, q, c, color);
    } else if (lock) {
      v128.store(out, lay4(p, weightLow(c, k), r, g, b, true));
      v128.store(out, lay4(q, weightHigh(c, k), r, g, b, true), 16);
    } else {
      v128.store(out, lay4(p, weightLow(c, k), r, g, b, false));
      v128.store(out, lay4(q, weightHigh(c, k), r, g, b, false), 16);
    }
  }
}

// @ts-ignore: decorator
@inline function wipe4(p: v128, s: v128): v128 {
  const a = f32x4.convert_i32x4_s(i32x4.shr_u(p, 24));
  const left = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(a, f32x4.sub(f32x4.splat(1), s)), f32x4.splat(0.5)));
  return v128.or(v128.and(p, i32x4.splat(0x00ffffff)), i32x4.shl(left, 24));
}

/** Takes alpha away by coverage; the colour stays under it. */
export function wipeColor(before: usize, step: usize, cov: usize, out: usize): void {
  const k = f32x4.splat(1.0 / 65535.0);
  for (let i = 0; i < 512; i++, before += step, cov += 16, out += 32) {
    const c = v128.load(cov);
    const p = v128.load(before), q = v128.load(before, 16);
    if (!v128.any_true(c)) {
      v128.store(out, p);
      v128.store(out, q, 16);
    } else {
      v128.store(out, wipe4(p, weightLow(c, k)));
      v128.store(out, wipe4(q, weightHigh(c, k)), 16);
    }
  }
}

/** Moves an A8 tile towards `value` (0..255) by coverage. */
export function layMask(before: usize, step: usize, cov: usize, out: usize, value: f32): void {
  const k = f32x4.splat(1.0 / 65535.0);
  const v = f32x4.splat(value), half = f32x4.splat(0.5);
  for (let i = 0; i < 512; i++, before += step, cov += 16, out += 8) {
    const c = v128.load(cov);
    const m = v128.load8x8_u(before);
    const low = f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(m));
    const high = f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_u(m));
    const l = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.add(low, f32x4.mul(f32x4.sub(v, low), weightLow(c, k))), half));
    const h = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.add(high, f32x4.mul(f32x4.sub(v, high), weightHigh(c, k))), half));
    const n = i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_s(l, h), i16x8.splat(0));
    v128.store64_lane(out, n, 0);
  }
}

/** Coverage through a gate: cov·gate/255 for the 4096 texels of a tile, `gate` one byte each. */
export function gateCoverage(cov: usize, gate: usize, out: usize): void {
  for (let i = 0; i < 512; i++, cov += 16, gate += 8, out += 16) {
    // gate·257 is the gate in 16 bits; x·y/65536 rounded up a little keeps 65535·65535 at 65535.
    const g = i16x8.mul(v128.load8x8_u(gate), i16x8.splat(257));
    const c = v128.load(cov);
    const low = i32x4.add(i32x4.extmul_low_i16x8_u(c, g), i32x4.extend_low_i16x8_u(c));
    const high = i32x4.add(i32x4.extmul_high_i16x8_u(c, g), i32x4.extend_high_i16x8_u(c));
    v128.store(out, i16x8.narrow_i32x4_u(i32x4.shr_u(low, 16), i32x4.shr_u(high, 16)));
  }
}

/** Coverage through a curve of 1025 u16 knots, straight between them. */
export function curveCoverage(cov: usize, curve: usize, out: usize): void {
  for (let i = 0; i < 4096; i++, cov += 2, out += 2) {
    const c = <u32>load<u16>(cov);
    if (c == 0) {
      store<u16>(out, 0);
      continue;
    }
    const at = curve + <usize>(c >> 6 << 1);
    const a = <i32>load<u16>(at), b = <i32>load<u16>(at, 2);
    store<u16>(out, <u16>(a + ((b - a) * <i32>(c & 63) >> 6)));
  }
}

// @ts-ignore: decorator
@inline function inkOf4(p: v128, shift: i32): v128 {
  return channel(v128.and(i32x4.shr_u(p, shift), i32x4.splat(255)));
}

/** layColor with a colour for each texel, RGBA8 at `ink`; its alpha weighs the coverage. */
export function layInk(before: usize, step: usize, cov: usize, ink: usize, out: usize, lock: i32): void {
  const k = f32x4.splat(1.0 / (65535.0 * 255.0));
  for (let i = 0; i < 512; i++, before += step, cov += 16, ink += 32, out += 32) {
    const c = v128.load(cov);
    const p = v128.load(before), q = v128.load(before, 16);
    if (!v128.any_true(c)) {
      v128.store(out, p);
      v128.store(out, q, 16);
      continue;
    }
    const m = v128.load(ink), n = v128.load(ink, 16);
    const s = f32x4.mul(weightLow(c, k), inkOf4(m, 24)), t = f32x4.mul(weightHigh(c, k), inkOf4(n, 24));
    v128.store(out, lay4(p, s, inkOf4(m, 0), inkOf4(m, 8), inkOf4(m, 16), lock != 0));
    v128.store(out, lay4(q, t, inkOf4(n, 0), inkOf4(n, 8), inkOf4(n, 16), lock != 0), 16);
  }
}

/** Four texels moved from p towards t by w (0..1), premultiplied by alpha on the way. */
// @ts-ignore: decorator
@inline function mix4(p: v128, t: v128, w: v128, lock: bool): v128 {
  const pa = inkOf4(p, 24), ta = inkOf4(t, 24);
  const from = f32x4.mul(pa, f32x4.sub(f32x4.splat(1), w)), to = f32x4.mul(ta, w);
  const a = f32x4.add(from, to);
  const share = v128.and(f32x4.div(to, a), f32x4.gt(a, f32x4.splat(0)));
  const half = f32x4.splat(0.5);
  let out = i32x4.shl(i32x4.trunc_sat_f32x4_s(f32x4.add(lock ? pa : a, half)), 24);
  for (let shift = 0; shift < 24; shift += 8) {
    const x = inkOf4(p, shift);
    const v = f32x4.add(f32x4.add(x, f32x4.mul(f32x4.sub(inkOf4(t, shift), x), share)), half);
    out = v128.or(out, i32x4.shl(i32x4.trunc_sat_f32x4_s(v), shift));
  }
  return out;
}

/** Moves a tile towards another, RGBA8 at `target`, by coverage; `lock` keeps the alpha. */
export function mixColor(before: usize, step: usize, cov: usize, target: usize, out: usize, lock: i32): void {
  const k = f32x4.splat(1.0 / 65535.0);
  for (let i = 0; i < 512; i++, before += step, cov += 16, target += 32, out += 32) {
    const c = v128.load(cov);
    const p = v128.load(before), q = v128.load(before, 16);
    if (!v128.any_true(c)) {
      v128.store(out, p);
      v128.store(out, q, 16);
    } else {
      v128.store(out, mix4(p, v128.load(target), weightLow(c, k), lock != 0));
      v128.store(out, mix4(q, v128.load(target, 16), weightHigh(c, k), lock != 0), 16);
    }
  }
}
