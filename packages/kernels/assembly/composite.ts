// One 64x64 tile of a layer stack. The stack arrives as a program: records of 32 bytes,
//   u32 code, u32 mode, u32 source, u32 source step, u32 mask, u32 mask step, u32 opacity (15 bit), u32 flags
// A source step is 32 (bytes for eight RGBA8 texels) or 0, which repeats the first eight: a uniform tile.
// A mask step is 8 or 0 alike. An accumulator holds, for each eight texels, red, green, blue, alpha as
// premultiplied 15-bit vectors: 64 bytes.
import {
  COLOR, COLOR_BURN, COLOR_DODGE, DARKEN, DIFFERENCE, DIVIDE, EXCLUSION, HARD_LIGHT, HUE, LIGHTEN, LUMINOSITY,
  MULTIPLY, NORMAL, OVERLAY, PLUS_LIGHTER, SATURATION, SCREEN, SOFT_LIGHT, SUBTRACT, softTerms, term, terms,
  useScratch, wholeTerms,
} from "./blend";
import { from8, Q, to8 } from "./lanes";

const END: u32 = 0;
const LAYER: u32 = 1;
const PUSH: u32 = 2;
const POP: u32 = 3;
const LOAD: u32 = 4;
const STORE: u32 = 5;

const ATOP: u32 = 1;

// A tile is run in four bands of 16 rows, so that the accumulators of a band stay in the fastest cache.
const BANDS: usize = 4;
const GROUPS: i32 = 128; // eights of a band
const ACC: usize = 8192; // bytes of a band's accumulator

// Above this an alpha rounds to 255: the texel counts as opaque.
const OPAQUE: i16 = 32700;
// Above this an alpha is whole but for the rounding of a few products.
const FULL: i16 = 32758;

// @ts-ignore: decorator
@inline function blendTile(mode: i32, acc: usize, src: usize, srcStep: usize, mask: usize, maskStep: usize, opacity: u32, flags: u32, pop: bool): void {
  const op = i16x8.splat(<i16>opacity);
  const whole = opacity == 32767 && mask == 0;
  const atop = (flags & ATOP) != 0;
  const end = acc + ACC;
  for (; acc < end; acc += 64, src += srcStep, mask += maskStep) {
    let r: v128, g: v128, b: v128, a: v128;
    let k = op;
    if (mask) {
      const m = load<u64>(mask);
      if (m == 0) continue;
      if (m != 0xffffffffffffffff) k = Q(op, from8(v128.load8x8_u(mask)));
    }
    if (pop) {
      a = v128.load(src, 48);
      if (!v128.any_true(a)) continue;
      r = v128.load(src);
      g = v128.load(src, 16);
      b = v128.load(src, 32);
      if (!whole) {
        r = Q(r, k);
        g = Q(g, k);
        b = Q(b, k);
        a = Q(a, k);
      }
    } else {
      const p = v128.load(src);
      const q = v128.load(src, 16);
      const rg = v128.shuffle<u8>(p, q, 0, 4, 8, 12, 16, 20, 24, 28, 1, 5, 9, 13, 17, 21, 25, 29);
      const ba = v128.shuffle<u8>(p, q, 2, 6, 10, 14, 18, 22, 26, 30, 3, 7, 11, 15, 19, 23, 27, 31);
      a = from8(i16x8.extend_high_i8x16_u(ba));
      if (!v128.any_true(a)) continue;
      if (!whole) a = Q(a, k);
      r = Q(from8(i16x8.extend_low_i8x16_u(rg)), a);
      g = Q(from8(i16x8.extend_high_i8x16_u(rg)), a);
      b = Q(from8(i16x8.extend_low_i8x16_u(ba)), a);
    }
    const R = v128.load(acc);
    const G = v128.load(acc, 16);
    const B = v128.load(acc, 32);
    const A = v128.load(acc, 48);
    if (mode == NORMAL && !atop) {
      v128.store(acc, i16x8.add_sat_s(r, i16x8.sub(R, Q(R, a))));
      v128.store(acc, i16x8.add_sat_s(g, i16x8.sub(G, Q(G, a))), 16);
      v128.store(acc, i16x8.add_sat_s(b, i16x8.sub(B, Q(B, a))), 32);
      v128.store(acc, i16x8.add_sat_s(a, i16x8.sub(A, Q(A, a))), 48);
      continue;
    }
    if (mode == PLUS_LIGHTER && !atop) {
      v128.store(acc, i16x8.add_sat_s(r, R));
      v128.store(acc, i16x8.add_sat_s(g, G), 16);
      v128.store(acc, i16x8.add_sat_s(b, B), 32);
      v128.store(acc, i16x8.add_sat_s(a, A), 48);
      continue;
    }
    let tr: v128, tg: v128, tb: v128;
    if (mode == SOFT_LIGHT || (mode >= HUE && mode <= LUMINOSITY)) {
      if (mode == SOFT_LIGHT) softTerms(r, g, b, a, R, G, B, A);
      else wholeTerms(mode, r, g, b, a, R, G, B, A);
      const at = terms();
      tr = v128.load(at);
      tg = v128.load(at, 16);
      tb = v128.load(at, 32);
    } else {
      tr = term(mode, r, a, R, A);
      tg = term(mode, g, a, G, A);
      tb = term(mode, b, a, B, A);
    }
    tr = i16x8.add_sat_s(tr, i16x8.sub(R, Q(R, a)));
    tg = i16x8.add_sat_s(tg, i16x8.sub(G, Q(G, a)));
    tb = i16x8.add_sat_s(tb, i16x8.sub(B, Q(B, a)));
    // Over opaque paint nothing of the source lies outside the backdrop, and alpha stays as it is.
    if (!atop && !i16x8.all_true(i16x8.gt_s(A, i16x8.splat(FULL)))) {
      tr = i16x8.add_sat_s(tr, i16x8.sub(r, Q(r, A)));
      tg = i16x8.add_sat_s(tg, i16x8.sub(g, Q(g, A)));
      tb = i16x8.add_sat_s(tb, i16x8.sub(b, Q(b, A)));
      v128.store(acc, i16x8.add_sat_s(a, i16x8.sub(A, Q(A, a))), 48);
    }
    const floor = i16x8.splat(0);
    v128.store(acc, i16x8.max_s(tr, floor));
    v128.store(acc, i16x8.max_s(tg, floor), 16);
    v128.store(acc, i16x8.max_s(tb, floor), 32);
  }
}

// One function a mode, so that the mode is a constant inside the loop.
function normalTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(NORMAL, acc, src, ss, mask, ms, o, f, pop); }
function multiplyTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(MULTIPLY, acc, src, ss, mask, ms, o, f, pop); }
function screenTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(SCREEN, acc, src, ss, mask, ms, o, f, pop); }
function overlayTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(OVERLAY, acc, src, ss, mask, ms, o, f, pop); }
function darkenTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(DARKEN, acc, src, ss, mask, ms, o, f, pop); }
function lightenTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(LIGHTEN, acc, src, ss, mask, ms, o, f, pop); }
function colorDodgeTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(COLOR_DODGE, acc, src, ss, mask, ms, o, f, pop); }
function colorBurnTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(COLOR_BURN, acc, src, ss, mask, ms, o, f, pop); }
function hardLightTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(HARD_LIGHT, acc, src, ss, mask, ms, o, f, pop); }
function softLightTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(SOFT_LIGHT, acc, src, ss, mask, ms, o, f, pop); }
function differenceTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(DIFFERENCE, acc, src, ss, mask, ms, o, f, pop); }
function exclusionTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(EXCLUSION, acc, src, ss, mask, ms, o, f, pop); }
function hueTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(HUE, acc, src, ss, mask, ms, o, f, pop); }
function saturationTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(SATURATION, acc, src, ss, mask, ms, o, f, pop); }
function colorTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(COLOR, acc, src, ss, mask, ms, o, f, pop); }
function luminosityTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(LUMINOSITY, acc, src, ss, mask, ms, o, f, pop); }
function plusLighterTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(PLUS_LIGHTER, acc, src, ss, mask, ms, o, f, pop); }
function subtractTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(SUBTRACT, acc, src, ss, mask, ms, o, f, pop); }
function divideTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { blendTile(DIVIDE, acc, src, ss, mask, ms, o, f, pop); }

function blendMode(mode: u32, acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void {
  switch (mode) {
    case MULTIPLY: multiplyTile(acc, src, ss, mask, ms, o, f, pop); break;
    case SCREEN: screenTile(acc, src, ss, mask, ms, o, f, pop); break;
    case OVERLAY: overlayTile(acc, src, ss, mask, ms, o, f, pop); break;
    case DARKEN: darkenTile(acc, src, ss, mask, ms, o, f, pop); break;
    case LIGHTEN: lightenTile(acc, src, ss, mask, ms, o, f, pop); break;
    case COLOR_DODGE: colorDodgeTile(acc, src, ss, mask, ms, o, f, pop); break;
    case COLOR_BURN: colorBurnTile(acc, src, ss, mask, ms, o, f, pop); break;
    case HARD_LIGHT: hardLightTile(acc, src, ss, mask, ms, o, f, pop); break;
    case SOFT_LIGHT: softLightTile(acc, src, ss, mask, ms, o, f, pop); break;
    case DIFFERENCE: differenceTile(acc, src, ss, mask, ms, o, f, pop); break;
    case EXCLUSION: exclusionTile(acc, src, ss, mask, ms, o, f, pop); break;
    case HUE: hueTile(acc, src, ss, mask, ms, o, f, pop); break;
    case SATURATION: saturationTile(acc, src, ss, mask, ms, o, f, pop); break;
    case COLOR: colorTile(acc, src, ss, mask, ms, o, f, pop); break;
    case LUMINOSITY: luminosityTile(acc, src, ss, mask, ms, o, f, pop); break;
    case PLUS_LIGHTER: plusLighterTile(acc, src, ss, mask, ms, o, f, pop); break;
    case SUBTRACT: subtractTile(acc, src, ss, mask, ms, o, f, pop); break;
    case DIVIDE: divideTile(acc, src, ss, mask, ms, o, f, pop); break;
    default: normalTile(acc, src, ss, mask, ms, o, f, pop);
  }
}

/** Four straight values from premultiplied ones: c/a, 15 bit. */
// @ts-ignore: decorator
@inline function straight(c: v128, overLow: v128, overHigh: v128): v128 {
  const half = f32x4.splat(0.5);
  return i16x8.narrow_i32x4_s(
    i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(c)), overLow), half)),
    i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(c)), overHigh), half)),
  );
}

/** Premultiplied accumulator to straight RGBA8. */
function resolve(acc: usize, out: usize): void {
  for (let i = 0; i < GROUPS; i++, acc += 64, out += 32) {
    const a = v128.load(acc, 48);
    if (!v128.any_true(a)) {
      v128.store(out, i32x4.splat(0));
      v128.store(out, i32x4.splat(0), 16);
      continue;
    }
    let r = v128.load(acc);
    let g = v128.load(acc, 16);
    let b = v128.load(acc, 32);
    if (!i16x8.all_true(i16x8.gt_s(a, i16x8.splat(OPAQUE)))) {
      const al = f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(a));
      const ah = f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(a));
      const scale = f32x4.splat(32767);
      const low = v128.and(f32x4.div(scale, al), f32x4.gt(al, f32x4.splat(0)));
      const high = v128.and(f32x4.div(scale, ah), f32x4.gt(ah, f32x4.splat(0)));
      r = straight(r, low, high);
      g = straight(g, low, high);
      b = straight(b, low, high);
    }
    const rg = i8x16.narrow_i16x8_u(to8(r), to8(g));
    const ba = i8x16.narrow_i16x8_u(to8(b), to8(a));
    v128.store(out, v128.shuffle<u8>(rg, ba, 0, 8, 16, 24, 1, 9, 17, 25, 2, 10, 18, 26, 3, 11, 19, 27));
    v128.store(out, v128.shuffle<u8>(rg, ba, 4, 12, 20, 28, 5, 13, 21, 29, 6, 14, 22, 30, 7, 15, 23, 31), 16);
  }
}

function runBand(program: usize, band: usize, acc: usize, out: usize): void {
  let at = acc;
  memory.fill(at, 0, ACC);
  for (; ; program += 32) {
    const code = load<u32>(program);
    if (code == END) break;
    const mode = load<u32>(program, 4);
    const srcStep = <usize>load<u32>(program, 12);
    const src = <usize>load<u32>(program, 8);
    const maskStep = <usize>load<u32>(program, 20);
    let mask = <usize>load<u32>(program, 16);
    if (mask) mask += band * GROUPS * maskStep;
    const opacity = load<u32>(program, 24);
    const flags = load<u32>(program, 28);
    if (code == LAYER) blendMode(mode, at, src + band * GROUPS * srcStep, srcStep, mask, maskStep, opacity, flags, false);
    else if (code == PUSH) {
      at += ACC;
      memory.fill(at, 0, ACC);
    } else if (code == POP) {
      at -= ACC;
      blendMode(mode, at, at + ACC, 64, mask, maskStep, opacity, flags, true);
    } else if (code == LOAD) memory.copy(at, src + band * ACC, ACC);
    else if (code == STORE) memory.copy(src + band * ACC, at, ACC);
  }
  resolve(acc, out + band * GROUPS * 32);
}

/**
 * Runs a program on the accumulators from `acc` upwards (8 KiB each; 256 bytes before it are this call's scratch)
 * and writes the straight RGBA8 tile to `out`. What a program stores and loads is 32 KiB.
 */
export function runTile(program: usize, acc: usize, out: usize): void {
  useScratch(acc - 256);
  for (let band: usize = 0; band < BANDS; band++) runBand(program, band, acc, out);
}
