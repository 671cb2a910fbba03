// Blend terms of W3C Compositing and Blending Level 1 on premultiplied values. A term is as·ab·B(Cb, Cs);
// what the formula adds outside the overlap is added by the caller.
import { fixed, floatHigh, floatLow, least, most, Q } from "./lanes";

// Numbers shared with packages/core/src/composite/modes.ts.
export const NORMAL = 0;
export const MULTIPLY = 1;
export const SCREEN = 2;
export const OVERLAY = 3;
export const DARKEN = 4;
export const LIGHTEN = 5;
export const COLOR_DODGE = 6;
export const COLOR_BURN = 7;
export const HARD_LIGHT = 8;
export const SOFT_LIGHT = 9;
export const DIFFERENCE = 10;
export const EXCLUSION = 11;
export const HUE = 12;
export const SATURATION = 13;
export const COLOR = 14;
export const LUMINOSITY = 15;
export const PLUS_LIGHTER = 16;
export const SUBTRACT = 17;
export const DIVIDE = 18;

// @ts-ignore: decorator
@inline const TINY: f32 = 1e-9;

/** Hard light of source cs over backdrop cb (overlay with the two changed round). */
// @ts-ignore: decorator
@inline function hardLight(cs: v128, a: v128, cb: v128, ab: v128): v128 {
  const low = Q(cs, cb);
  const high = Q(i16x8.sub(ab, cb), i16x8.sub(a, cs));
  const light = i16x8.sub(Q(a, ab), i16x8.add(high, high));
  return v128.bitselect(i16x8.add(low, low), light, i16x8.le_u(i16x8.add(cs, cs), a));
}

// @ts-ignore: decorator
@inline function dodge4(cs: v128, a: v128, cb: v128, ab: v128): v128 {
  const rest = most(f32x4.sub(a, cs), f32x4.splat(TINY));
  const term = f32x4.div(f32x4.mul(f32x4.mul(cb, a), a), rest);
  return least(f32x4.mul(a, ab), term);
}

// @ts-ignore: decorator
@inline function burn4(cs: v128, a: v128, cb: v128, ab: v128): v128 {
  const both = f32x4.mul(a, ab);
  const gap = f32x4.mul(f32x4.mul(most(f32x4.sub(ab, cb), f32x4.splat(0)), a), a);
  return most(f32x4.splat(0), f32x4.sub(both, f32x4.div(gap, most(cs, f32x4.splat(TINY)))));
}

// @ts-ignore: decorator
@inline function divide4(cs: v128, a: v128, cb: v128, ab: v128): v128 {
  const term = f32x4.div(f32x4.mul(f32x4.mul(cb, a), a), most(cs, f32x4.splat(TINY)));
  return least(f32x4.mul(a, ab), term);
}

/**
 * Soft light of four texels, values 0..32767; share is a/32767, over 1/ab (or 0), weight ab/32767, all shared by the
 * channels.
 */
// @ts-ignore: decorator
@inline function soft4(cs: v128, a: v128, share: v128, cb: v128, over: v128, weight: v128): v128 {
  const Cb = f32x4.mul(cb, over);
  const tilt = f32x4.mul(f32x4.sub(f32x4.add(cs, cs), a), weight);
  const dark = f32x4.sub(Cb, f32x4.mul(Cb, Cb));
  const cubic = f32x4.mul(
    f32x4.add(f32x4.mul(f32x4.sub(f32x4.mul(f32x4.splat(16), Cb), f32x4.splat(12)), Cb), f32x4.splat(3)),
    Cb,
  );
  const root = f32x4.sub(f32x4.sqrt(Cb), Cb);
  const bright = v128.bitselect(cubic, root, f32x4.le(Cb, f32x4.splat(0.25)));
  const pull = v128.bitselect(dark, bright, f32x4.le(tilt, f32x4.splat(0)));
  return f32x4.add(f32x4.mul(share, cb), f32x4.mul(tilt, pull));
}

// @ts-ignore: decorator
@inline function wideLow(x: v128): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(x));
}

// @ts-ignore: decorator
@inline function wideHigh(x: v128): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(x));
}

/** 1/x where x > 0, else 0. */
// @ts-ignore: decorator
@inline function inverse4(x: v128): v128 {
  return v128.and(f32x4.div(f32x4.splat(1), x), f32x4.gt(x, f32x4.splat(0)));
}

/** The separable term of one channel for every mode but soft light. */
// @ts-ignore: decorator
@inline export function term(mode: i32, cs: v128, a: v128, cb: v128, ab: v128): v128 {
  if (mode == NORMAL) return Q(cs, ab);
  if (mode == MULTIPLY) return Q(cs, cb);
  if (mode == SCREEN) return i16x8.add(Q(cs, ab), i16x8.sub(Q(cb, a), Q(cs, cb)));
  if (mode == OVERLAY) return hardLight(cb, ab, cs, a);
  if (mode == DARKEN) return i16x8.min_s(Q(cs, ab), Q(cb, a));
  if (mode == LIGHTEN) return i16x8.max_s(Q(cs, ab), Q(cb, a));
  if (mode == COLOR_DODGE)
    return fixed(
      dodge4(floatLow(cs), floatLow(a), floatLow(cb), floatLow(ab)),
      dodge4(floatHigh(cs), floatHigh(a), floatHigh(cb), floatHigh(ab)),
    );
  if (mode == COLOR_BURN)
    return fixed(
      burn4(floatLow(cs), floatLow(a), floatLow(cb), floatLow(ab)),
      burn4(floatHigh(cs), floatHigh(a), floatHigh(cb), floatHigh(ab)),
    );
  if (mode == HARD_LIGHT) return hardLight(cs, a, cb, ab);
  if (mode == DIFFERENCE) return i16x8.abs(i16x8.sub(Q(cs, ab), Q(cb, a)));
  if (mode == EXCLUSION) {
    const both = Q(cs, cb);
    return i16x8.add(i16x8.sub(Q(cs, ab), both), i16x8.sub(Q(cb, a), both));
  }
  if (mode == PLUS_LIGHTER) return i16x8.min_s(Q(a, ab), i16x8.add_sat_s(Q(cs, ab), Q(cb, a)));
  if (mode == SUBTRACT) return i16x8.max_s(i16x8.splat(0), i16x8.sub(Q(cb, a), Q(cs, ab)));
  return fixed(
    divide4(floatLow(cs), floatLow(a), floatLow(cb), floatLow(ab)),
    divide4(floatHigh(cs), floatHigh(a), floatHigh(cb), floatHigh(ab)),
  );
}

// Where the modes that look at all channels at once leave their terms (48 bytes: red, green, blue) and, behind
// them, 96 bytes of their own. A global is per instance, so threads on one memory each have their place.
let scratch: usize = 0;

/** Gives this instance 144 bytes of its own to work in. */
export function useScratch(at: usize): void {
  scratch = at;
}

/** Where the last softTerms or wholeTerms stand. */
// @ts-ignore: decorator
@inline export function terms(): usize {
  return scratch;
}

// @ts-ignore: decorator
@inline function keep(r: v128, g: v128, b: v128): void {
  const at = scratch;
  v128.store(at, r);
  v128.store(at, g, 16);
  v128.store(at, b, 32);
}

/** Soft-light terms of one channel, eight texels. */
// @ts-ignore: decorator
@inline function soft8(c: v128, C: v128, al: v128, ah: v128, sl: v128, sh: v128, ol: v128, oh: v128, wl: v128, wh: v128): v128 {
  const half = f32x4.splat(0.5);
  return i16x8.narrow_i32x4_s(
    i32x4.trunc_sat_f32x4_s(f32x4.add(soft4(wideLow(c), al, sl, wideLow(C), ol, wl), half)),
    i32x4.trunc_sat_f32x4_s(f32x4.add(soft4(wideHigh(c), ah, sh, wideHigh(C), oh, wh), half)),
  );
}

/** Soft-light terms of all three channels to terms(): one reciprocal of the backdrop's alpha for the three. */
// @ts-ignore: decorator
@inline export function softTerms(r: v128, g: v128, b: v128, a: v128, R: v128, G: v128, B: v128, ab: v128): void {
  const unit = f32x4.splat(1.0 / 32767.0);
  const al = wideLow(a), ah = wideHigh(a);
  const sl = f32x4.mul(al, unit), sh = f32x4.mul(ah, unit);
  const bl = wideLow(ab), bh = wideHigh(ab);
  const ol = inverse4(bl), oh = inverse4(bh);
  const wl = f32x4.mul(bl, unit), wh = f32x4.mul(bh, unit);
  keep(
    soft8(r, R, al, ah, sl, sh, ol, oh, wl, wh),
    soft8(g, G, al, ah, sl, sh, ol, oh, wl, wh),
    soft8(b, B, al, ah, sl, sh, ol, oh, wl, wh),
  );
}

// @ts-ignore: decorator
@inline function lum(r: v128, g: v128, b: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(r, f32x4.splat(0.3)), f32x4.mul(g, f32x4.splat(0.59))),
    f32x4.mul(b, f32x4.splat(0.11)),
  );
}

// Four texels of a mode on hue, saturation or luminosity; the result, weighted by as·ab, goes behind the terms.
// @ts-ignore: decorator
@inline function whole4(mode: i32, half: usize, r: v128, g: v128, b: v128, a: v128, R: v128, G: v128, B: v128, ab: v128): void {
  const os = inverse4(a);
  const ob = inverse4(ab);
  const sr = f32x4.mul(r, os), sg = f32x4.mul(g, os), sb = f32x4.mul(b, os);
  const br = f32x4.mul(R, ob), bg = f32x4.mul(G, ob), bb = f32x4.mul(B, ob);
  let cr: v128, cg: v128, cb: v128, light: v128;
  if (mode == COLOR) {
    cr = sr; cg = sg; cb = sb;
    light = lum(br, bg, bb);
  } else if (mode == LUMINOSITY) {
    cr = br; cg = bg; cb = bb;
    light = lum(sr, sg, sb);
  } else {
    // SetSat: the channels stretched from 0 to the wanted saturation.
    const hr = mode == HUE ? sr : br, hg = mode == HUE ? sg : bg, hb = mode == HUE ? sb : bb;
    const wr = mode == HUE ? br : sr, wg = mode == HUE ? bg : sg, wb = mode == HUE ? bb : sb;
    const sat = f32x4.sub(most(most(wr, wg), wb), least(least(wr, wg), wb));
    const low = least(least(hr, hg), hb);
    const scale = f32x4.mul(sat, inverse4(f32x4.sub(most(most(hr, hg), hb), low)));
    cr = f32x4.mul(f32x4.sub(hr, low), scale);
    cg = f32x4.mul(f32x4.sub(hg, low), scale);
    cb = f32x4.mul(f32x4.sub(hb, low), scale);
    light = lum(br, bg, bb);
  }
  // SetLum, then ClipColor towards the luminosity where a channel leaves 0..1.
  const shift = f32x4.sub(light, lum(cr, cg, cb));
  cr = f32x4.add(cr, shift);
  cg = f32x4.add(cg, shift);
  cb = f32x4.add(cb, shift);
  const L = light;
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  const n = least(least(cr, cg), cb);
  const x = most(most(cr, cg), cb);
  const down = v128.bitselect(f32x4.mul(L, inverse4(f32x4.sub(L, n))), one, f32x4.lt(n, zero));
  const up = v128.bitselect(f32x4.mul(f32x4.sub(one, L), inverse4(f32x4.sub(x, L))), one, f32x4.gt(x, one));
  const pull = f32x4.mul(down, up);
  const both = f32x4.mul(a, ab);
  const at = scratch + 48 + half;
  v128.store(at, f32x4.mul(both, most(zero, f32x4.add(L, f32x4.mul(f32x4.sub(cr, L), pull)))));
  v128.store(at, f32x4.mul(both, most(zero, f32x4.add(L, f32x4.mul(f32x4.sub(cg, L), pull)))), 16);
  v128.store(at, f32x4.mul(both, most(zero, f32x4.add(L, f32x4.mul(f32x4.sub(cb, L), pull)))), 32);
}

/** Terms of hue, saturation, color and luminosity to terms(). */
// @ts-ignore: decorator
@inline export function wholeTerms(mode: i32, r: v128, g: v128, b: v128, a: v128, R: v128, G: v128, B: v128, ab: v128): void {
  whole4(mode, 0, floatLow(r), floatLow(g), floatLow(b), floatLow(a), floatLow(R), floatLow(G), floatLow(B), floatLow(ab));
  whole4(mode, 48, floatHigh(r), floatHigh(g), floatHigh(b), floatHigh(a), floatHigh(R), floatHigh(G), floatHigh(B), floatHigh(ab));
  const at = scratch + 48;
  keep(
    fixed(v128.load(at), v128.load(at, 48)),
    fixed(v128.load(at, 16), v128.load(at, 64)),
    fixed(v128.load(at, 32), v128.load(at, 80)),
  );
}
