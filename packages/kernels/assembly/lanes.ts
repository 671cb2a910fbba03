// 15-bit fixed point in 16-bit lanes: 0..32767 stands for 0..1. Eight texels a vector, one vector a channel.
export const ONE: i16 = 32767;

/** Rounded product of two 15-bit fractions. */
// @ts-ignore: decorator
@inline export function Q(a: v128, b: v128): v128 {
  return i16x8.q15mulr_sat_s(a, b);
}

/** Eight bytes, already widened to 16 bits, to 15-bit fractions: 255 becomes exactly 32767. */
// @ts-ignore: decorator
@inline export function from8(x: v128): v128 {
  return v128.or(i16x8.shl(x, 7), i16x8.shr_u(x, 1));
}

// Eight RGBA8 texels in p and q: one channel of all as 15-bit fractions. Each byte stands twice in its 16 bits, which
// is times 257; halved, 255 becomes exactly 32767.
// @ts-ignore: decorator
@inline export function red(p: v128, q: v128): v128 {
  return i16x8.shr_u(v128.shuffle<u8>(p, q, 0, 0, 4, 4, 8, 8, 12, 12, 16, 16, 20, 20, 24, 24, 28, 28), 1);
}
// @ts-ignore: decorator
@inline export function green(p: v128, q: v128): v128 {
  return i16x8.shr_u(v128.shuffle<u8>(p, q, 1, 1, 5, 5, 9, 9, 13, 13, 17, 17, 21, 21, 25, 25, 29, 29), 1);
}
// @ts-ignore: decorator
@inline export function blue(p: v128, q: v128): v128 {
  return i16x8.shr_u(v128.shuffle<u8>(p, q, 2, 2, 6, 6, 10, 10, 14, 14, 18, 18, 22, 22, 26, 26, 30, 30), 1);
}
// @ts-ignore: decorator
@inline export function alpha(p: v128, q: v128): v128 {
  return i16x8.shr_u(v128.shuffle<u8>(p, q, 3, 3, 7, 7, 11, 11, 15, 15, 19, 19, 23, 23, 27, 27, 31, 31), 1);
}

/** Whether any of eight texels has alpha. */
// @ts-ignore: decorator
@inline export function anyAlpha(p: v128, q: v128): bool {
  return v128.any_true(v128.and(v128.or(p, q), i32x4.splat(0xff000000)));
}

/** 15-bit fractions to rounded 0..255: x·255/32768 rounds alike for every x that a byte became. */
// @ts-ignore: decorator
@inline function to8(x: v128): v128 {
  return Q(x, i16x8.splat(255));
}

/** Writes eight texels, straight 15-bit channels, as RGBA8. */
// @ts-ignore: decorator
@inline export function put8(out: usize, r: v128, g: v128, b: v128, a: v128): void {
  const rg = v128.or(to8(r), i16x8.shl(to8(g), 8));
  const ba = v128.or(to8(b), i16x8.shl(to8(a), 8));
  v128.store(out, v128.shuffle<u16>(rg, ba, 0, 8, 1, 9, 2, 10, 3, 11));
  v128.store(out, v128.shuffle<u16>(rg, ba, 4, 12, 5, 13, 6, 14, 7, 15), 16);
}

/** Low four lanes as floats 0..1. */
// @ts-ignore: decorator
@inline export function floatLow(x: v128): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(x)), f32x4.splat(1.0 / 32767.0));
}

/** High four lanes as floats 0..1. */
// @ts-ignore: decorator
@inline export function floatHigh(x: v128): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(x)), f32x4.splat(1.0 / 32767.0));
}

/** Two vectors of four floats 0..1 back to eight rounded 15-bit fractions. */
// @ts-ignore: decorator
@inline export function fixed(low: v128, high: v128): v128 {
  const scale = f32x4.splat(32767);
  const half = f32x4.splat(0.5);
  return i16x8.narrow_i32x4_s(
    i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(low, scale), half)),
    i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(high, scale), half)),
  );
}

/** Smallest of two float vectors, lanes never NaN here. */
// @ts-ignore: decorator
@inline export function least(a: v128, b: v128): v128 {
  return f32x4.pmin(a, b);
}

/** Largest of two float vectors, lanes never NaN here. */
// @ts-ignore: decorator
@inline export function most(a: v128, b: v128): v128 {
  return f32x4.pmax(a, b);
}

/** Low four lanes as floats of the same value. */
// @ts-ignore: decorator
@inline export function wideLow(x: v128): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(x));
}

/** High four lanes as floats of the same value. */
// @ts-ignore: decorator
@inline export function wideHigh(x: v128): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(x));
}

/** 1/x where x > 0, else 0. */
// @ts-ignore: decorator
@inline export function inverse4(x: v128): v128 {
  return v128.and(f32x4.div(f32x4.splat(1), x), f32x4.gt(x, f32x4.splat(0)));
}

/** Eight straight values c/a, 15 bit, from premultiplied ones and 32767/a of the low and the high four. */
// @ts-ignore: decorator
@inline export function straight(c: v128, overLow: v128, overHigh: v128): v128 {
  const half = f32x4.splat(0.5);
  return i16x8.narrow_i32x4_s(
    i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(wideLow(c), overLow), half)),
    i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(wideHigh(c), overHigh), half)),
  );
}
