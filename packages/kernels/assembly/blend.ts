// Blend terms of W3C Compositing and Blending Level 1 on premultiplied values. A term is as·ab·B(Cb, Cs);
// what the formula adds outside the overlap is added by the caller.
import { fixed, floatHigh, floatLow, inverse4, least, most, ONE, Q, straight, wideHigh, wideLow } from "./lanes";

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

/** x·alpha, where `opaque` says that alpha is whole. */
// @ts-ignore: decorator
@inline function weigh(x: v128, alpha: v128, opaque: bool): v128 {
  return opaque ? x : Q(x, alpha);
}

/** Hard light of source cs over backdrop cb (overlay with the two changed round). */
// @ts-ignore: decorator
@inline function hardLight(cs: v128, a: v128, cb: v128, ab: v128, opaque: bool): v128 {
  const low = Q(cs, cb);
  const high = Q(i16x8.sub(ab, cb), i16x8.sub(a, cs));
  const light = i16x8.sub(weigh(a, ab, opaque), i16x8.add(high, high));
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
 * The separable term of one channel for every mode but soft light. `opaque` says that a and ab are whole (ONE in all
 * lanes): the term is then B(cb, cs) itself.
 */
// @ts-ignore: decorator
@inline export function term(mode: i32, cs: v128, a: v128, cb: v128, ab: v128, opaque: bool): v128 {
  if (mode == NORMAL) return weigh(cs, ab, opaque);
  if (mode == MULTIPLY) return Q(cs, cb);
  if (mode == SCREEN) return i16x8.add_sat_s(weigh(cs, ab, opaque), i16x8.sub(weigh(cb, a, opaque), Q(cs, cb)));
  if (mode == OVERLAY) return hardLight(cb, ab, cs, a, opaque);
  if (mode == DARKEN) return i16x8.min_s(weigh(cs, ab, opaque), weigh(cb, a, opaque));
  if (mode == LIGHTEN) return i16x8.max_s(weigh(cs, ab, opaque), weigh(cb, a, opaque));
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
  if (mode == HARD_LIGHT) return hardLight(cs, a, cb, ab, opaque);
  if (mode == DIFFERENCE) return i16x8.abs(i16x8.sub(weigh(cs, ab, opaque), weigh(cb, a, opaque)));
  if (mode == EXCLUSION) {
    const both = Q(cs, cb);
    return i16x8.add(i16x8.sub(weigh(cs, ab, opaque), both), i16x8.sub(weigh(cb, a, opaque), both));
  }
  if (mode == PLUS_LIGHTER)
    return i16x8.min_s(weigh(a, ab, opaque), i16x8.add_sat_s(weigh(cs, ab, opaque), weigh(cb, a, opaque)));
  if (mode == SUBTRACT)
    return i16x8.max_s(i16x8.splat(0), i16x8.sub(weigh(cb, a, opaque), weigh(cs, ab, opaque)));
  return fixed(
    divide4(floatLow(cs), floatLow(a), floatLow(cb), floatLow(ab)),
    divide4(floatHigh(cs), floatHigh(a), floatHigh(cb), floatHigh(ab)),
  );
}

/**
 * What soft light pulls a backdrop by at full tilt: Cb − Cb² towards the dark (tilt <= 0), D(Cb) − Cb towards the
 * light. Up to a quarter D − Cb is (1 − (1 − 4Cb)³)/4; above it is √Cb − Cb, here its Chebyshev polynomial of degree 4
 * in u = (Cb − 0.625)/0.375, off by 0.0003 at the most.
 */
// @ts-ignore: decorator
@inline function softPull(cb: v128, tilt: v128): v128 {
  const one = i16x8.splat(ONE);
  const z = i16x8.sub(one, i16x8.shl(cb, 2));
  const cubic = i16x8.shr_s(i16x8.sub(one, Q(Q(z, z), z)), 2);
  const d = i16x8.sub(cb, i16x8.splat(20479));
  const u = i16x8.add_sat_s(i16x8.add_sat_s(d, d), Q(d, i16x8.splat(21845)));
  let root = i16x8.add(Q(u, i16x8.splat(-172)), i16x8.splat(438));
  root = i16x8.sub(Q(u, root), i16x8.splat(1155));
  root = i16x8.sub(Q(u, root), i16x8.splat(4540));
  root = i16x8.add(Q(u, root), i16x8.splat(5425));
  const bright = v128.bitselect(cubic, root, i16x8.lt_s(cb, i16x8.splat(8192)));
  return v128.bitselect(i16x8.sub(cb, Q(cb, cb)), bright, i16x8.le_s(tilt, i16x8.splat(0)));
}

/** Soft light of one channel on opaque paint: B(cb, cs). */
// @ts-ignore: decorator
@inline export function plainSoft(cs: v128, cb: v128): v128 {
  const tilt = i16x8.sub(i16x8.add(cs, cs), i16x8.splat(ONE));
  return i16x8.add(cb, Q(tilt, softPull(cb, tilt)));
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

/** Soft-light term of one channel: as·ab·B from premultiplied values; C is the backdrop's straight channel. */
// @ts-ignore: decorator
@inline function softTerm(c: v128, a: v128, cb: v128, C: v128, ab: v128): v128 {
  const tilt = i16x8.sub(i16x8.add(c, c), a);
  return i16x8.add(Q(cb, a), Q(Q(tilt, ab), softPull(C, tilt)));
}

/** Soft-light terms of all three channels to terms(): one reciprocal of the backdrop's alpha for the three. */
// @ts-ignore: decorator
@inline export function softTerms(r: v128, g: v128, b: v128, a: v128, R: v128, G: v128, B: v128, ab: v128): void {
  const scale = f32x4.splat(32767);
  const low = f32x4.mul(scale, inverse4(wideLow(ab))), high = f32x4.mul(scale, inverse4(wideHigh(ab)));
  keep(
    softTerm(r, a, R, straight(R, low, high), ab),
    softTerm(g, a, G, straight(G, low, high), ab),
    softTerm(b, a, B, straight(B, low, high), ab),
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
