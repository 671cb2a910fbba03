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

/** 15-bit fractions to rounded 0..255. */
// @ts-ignore: decorator
@inline export function to8(x: v128): v128 {
  return i16x8.shr_u(i16x8.sub(i16x8.add(x, i16x8.splat(64)), i16x8.shr_u(x, 8)), 7);
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
