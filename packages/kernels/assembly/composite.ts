// One 64x64 tile of a layer stack. The stack arrives as a program: records of 32 bytes,
//   u32 code, u32 mode, u32 source, u32 source step, u32 mask, u32 mask step, u32 opacity (15 bit), u32 flags
// A source step is 32 (bytes for eight RGBA8 texels) or 0, which repeats the first eight: a uniform tile.
// A mask step is 8 or 0 alike. An accumulator holds, for each eight texels, red, green, blue, alpha as
// premultiplied 15-bit vectors: 64 bytes. ADJUST names its map as the source, and a tile of RGBA8 to write as the mask.
import {
  COLOR, COLOR_BURN, COLOR_DODGE, DARKEN, DIFFERENCE, DIVIDE, EXCLUSION, HARD_LIGHT, HUE, LIGHTEN, LUMINOSITY,
  MULTIPLY, NORMAL, OVERLAY, PLUS_LIGHTER, plainSoft, SATURATION, SCREEN, SOFT_LIGHT, SUBTRACT, softTerms, term,
  terms, useScratch, wholeTerms,
} from "./blend";
import { mapColors, mapTable } from "./filter";
import { alpha, anyAlpha, blue, from8, green, inverse4, ONE, put8, Q, red, straight, wideHigh, wideLow } from "./lanes";

const END: u32 = 0;
const LAYER: u32 = 1;
const PUSH: u32 = 2;
const POP: u32 = 3;
const LOAD: u32 = 4;
const STORE: u32 = 5;
const FIRST: u32 = 6;
const GROUND: u32 = 7;
const ADJUST: u32 = 8;
const PUSH_COPY: u32 = 9;
const POP_MIX: u32 = 10;

const ATOP: u32 = 1;
/** The accumulator's alpha is whole everywhere. */
const OPAQUE_BELOW: u32 = 2;
/** The accumulator stands on the ground. */
const ON_GROUND: u32 = 4;

// A tile is run in four bands of 16 rows, so that the accumulators of a band stay in the fastest cache.
const BANDS: usize = 4;
const GROUPS: usize = 128; // eights of a band
const BAND_TEXELS: i32 = 1024;
const ACC: usize = 8192; // bytes of a band's accumulator

// Above this an alpha rounds to 255: the texel counts as opaque.
const OPAQUE: i16 = 32700;
// Above this an alpha is whole but for the rounding of a few products.
const FULL: i16 = 32758;

// An opaque layer at the bottom of all is not unpacked at once: it is the ground, and a byte an eight says whether
// the accumulator holds that eight already. What nothing is laid on is copied from the ground at the end.
let ground: usize = 0;
let groundStep: usize = 0;
let taken: usize = 0;

/** Unpacks the ground's eight of number i to `at`. */
// @ts-ignore: decorator
@inline function takeGround(at: usize, i: usize): void {
  const src = ground + i * groundStep;
  const p = v128.load(src), q = v128.load(src, 16);
  v128.store(at, red(p, q));
  v128.store(at, green(p, q), 16);
  v128.store(at, blue(p, q), 32);
  v128.store(at, i16x8.splat(ONE), 48);
  store<u8>(taken + i, 1);
}

/** The first layer of an accumulator: over nothing, every mode is the source itself. */
function firstTile(acc: usize, src: usize, srcStep: usize, mask: usize, maskStep: usize, opacity: u32): void {
  const op = i16x8.splat(<i16>opacity);
  const whole = opacity == 32767 && mask == 0;
  const one = i16x8.splat(ONE);
  const end = acc + ACC;
  for (; acc < end; acc += 64, src += srcStep, mask += maskStep) {
    const p = v128.load(src);
    const q = v128.load(src, 16);
    if (!anyAlpha(p, q)) {
      const nothing = i32x4.splat(0);
      v128.store(acc, nothing);
      v128.store(acc, nothing, 16);
      v128.store(acc, nothing, 32);
      v128.store(acc, nothing, 48);
      continue;
    }
    let a = alpha(p, q);
    let r = red(p, q), g = green(p, q), b = blue(p, q);
    if (!whole) a = Q(a, mask ? Q(op, from8(v128.load8x8_u(mask))) : op);
    if (!whole || !i16x8.all_true(i16x8.eq(a, one))) {
      r = Q(r, a);
      g = Q(g, a);
      b = Q(b, a);
    }
    v128.store(acc, r);
    v128.store(acc, g, 16);
    v128.store(acc, b, 32);
    v128.store(acc, a, 48);
  }
}

/** A layer over paint that is opaque everywhere: C + α·(B(C, Cs) − C), nothing premultiplied, alpha untouched. */
// @ts-ignore: decorator
@inline function opaqueTile(mode: i32, acc: usize, src: usize, srcStep: usize, mask: usize, maskStep: usize, opacity: u32, flags: u32): void {
  const op = i16x8.splat(<i16>opacity);
  const full = opacity == 32767;
  const onGround = (flags & ON_GROUND) != 0;
  const one = i16x8.splat(ONE);
  const end = acc + ACC;
  const start = acc;
  for (; acc < end; acc += 64, src += srcStep, mask += maskStep) {
    const p = v128.load(src);
    const q = v128.load(src, 16);
    if (!anyAlpha(p, q)) continue;
    let a = alpha(p, q);
    if (mask) {
      const m = load<u64>(mask);
      if (m == 0) continue;
      if (m != 0xffffffffffffffff) a = Q(a, from8(v128.load8x8_u(mask)));
    }
    if (!full) a = Q(a, op);
    const r = red(p, q), g = green(p, q), b = blue(p, q);
    const i = acc - start >> 6;
    if (onGround && !load<u8>(taken + i)) takeGround(acc, i);
    if (mode == NORMAL && full && i16x8.all_true(i16x8.eq(a, one))) {
      v128.store(acc, r);
      v128.store(acc, g, 16);
      v128.store(acc, b, 32);
      continue;
    }
    const R = v128.load(acc);
    const G = v128.load(acc, 16);
    const B = v128.load(acc, 32);
    if (mode == PLUS_LIGHTER && !(flags & ATOP)) {
      v128.store(acc, i16x8.add_sat_s(R, Q(r, a)));
      v128.store(acc, i16x8.add_sat_s(G, Q(g, a)), 16);
      v128.store(acc, i16x8.add_sat_s(B, Q(b, a)), 32);
      continue;
    }
    let tr: v128, tg: v128, tb: v128;
    if (mode == SOFT_LIGHT) {
      tr = plainSoft(r, R);
      tg = plainSoft(g, G);
      tb = plainSoft(b, B);
    } else if (mode >= HUE && mode <= LUMINOSITY) {
      wholeTerms(mode, r, g, b, one, R, G, B, one);
      const at = terms();
      tr = v128.load(at);
      tg = v128.load(at, 16);
      tb = v128.load(at, 32);
    } else {
      tr = term(mode, r, one, R, one, true);
      tg = term(mode, g, one, G, one, true);
      tb = term(mode, b, one, B, one, true);
    }
    v128.store(acc, i16x8.add(R, Q(i16x8.sub(tr, R), a)));
    v128.store(acc, i16x8.add(G, Q(i16x8.sub(tg, G), a)), 16);
    v128.store(acc, i16x8.add(B, Q(i16x8.sub(tb, B), a)), 32);
  }
}

// @ts-ignore: decorator
@inline function blendTile(mode: i32, acc: usize, src: usize, srcStep: usize, mask: usize, maskStep: usize, opacity: u32, flags: u32, pop: bool): void {
  const op = i16x8.splat(<i16>opacity);
  const whole = opacity == 32767 && mask == 0;
  const atop = (flags & ATOP) != 0;
  const onGround = pop && (flags & ON_GROUND) != 0;
  const end = acc + ACC;
  const start = acc;
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
      if (!anyAlpha(p, q)) continue;
      a = alpha(p, q);
      if (!whole) a = Q(a, k);
      r = Q(red(p, q), a);
      g = Q(green(p, q), a);
      b = Q(blue(p, q), a);
    }
    if (onGround && !load<u8>(taken + (acc - start >> 6))) takeGround(acc, acc - start >> 6);
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
      tr = term(mode, r, a, R, A, false);
      tg = term(mode, g, a, G, A, false);
      tb = term(mode, b, a, B, A, false);
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

// @ts-ignore: decorator
@inline function eachWay(mode: i32, acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void {
  if (pop) blendTile(mode, acc, src, ss, mask, ms, o, f, true);
  else if (f & OPAQUE_BELOW) opaqueTile(mode, acc, src, ss, mask, ms, o, f);
  else blendTile(mode, acc, src, ss, mask, ms, o, f, false);
}

// One function a mode, so that the mode is a constant inside the loops.
function normalTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(NORMAL, acc, src, ss, mask, ms, o, f, pop); }
function multiplyTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(MULTIPLY, acc, src, ss, mask, ms, o, f, pop); }
function screenTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(SCREEN, acc, src, ss, mask, ms, o, f, pop); }
function overlayTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(OVERLAY, acc, src, ss, mask, ms, o, f, pop); }
function darkenTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(DARKEN, acc, src, ss, mask, ms, o, f, pop); }
function lightenTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(LIGHTEN, acc, src, ss, mask, ms, o, f, pop); }
function colorDodgeTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(COLOR_DODGE, acc, src, ss, mask, ms, o, f, pop); }
function colorBurnTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(COLOR_BURN, acc, src, ss, mask, ms, o, f, pop); }
function hardLightTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(HARD_LIGHT, acc, src, ss, mask, ms, o, f, pop); }
function softLightTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(SOFT_LIGHT, acc, src, ss, mask, ms, o, f, pop); }
function differenceTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(DIFFERENCE, acc, src, ss, mask, ms, o, f, pop); }
function exclusionTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(EXCLUSION, acc, src, ss, mask, ms, o, f, pop); }
function hueTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(HUE, acc, src, ss, mask, ms, o, f, pop); }
function saturationTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(SATURATION, acc, src, ss, mask, ms, o, f, pop); }
function colorTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(COLOR, acc, src, ss, mask, ms, o, f, pop); }
function luminosityTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(LUMINOSITY, acc, src, ss, mask, ms, o, f, pop); }
function plusLighterTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(PLUS_LIGHTER, acc, src, ss, mask, ms, o, f, pop); }
function subtractTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(SUBTRACT, acc, src, ss, mask, ms, o, f, pop); }
function divideTile(acc: usize, src: usize, ss: usize, mask: usize, ms: usize, o: u32, f: u32, pop: bool): void { eachWay(DIVIDE, acc, src, ss, mask, ms, o, f, pop); }

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

/** Premultiplied accumulator to straight RGBA8. */
function resolve(acc: usize, out: usize): void {
  for (let i: usize = 0; i < GROUPS; i++, acc += 64, out += 32) {
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
      const scale = f32x4.splat(32767);
      const low = f32x4.mul(scale, inverse4(wideLow(a))), high = f32x4.mul(scale, inverse4(wideHigh(a)));
      r = straight(r, low, high);
      g = straight(g, low, high);
      b = straight(b, low, high);
    }
    put8(out, r, g, b, a);
  }
}

/** The same where a ground lies under all. */
function resolveGround(acc: usize, out: usize): void {
  const one = i16x8.splat(ONE);
  for (let i: usize = 0; i < GROUPS; i++, acc += 64, out += 32) {
    if (load<u8>(taken + i)) put8(out, v128.load(acc), v128.load(acc, 16), v128.load(acc, 32), one);
    else {
      const src = ground + i * groundStep;
      v128.store(out, v128.load(src));
      v128.store(out, v128.load(src, 16), 16);
    }
  }
}

/** Unpacks all that was left to the ground. */
function takeAll(acc: usize): void {
  if (ground) for (let i: usize = 0; i < GROUPS; i++) if (!load<u8>(taken + i)) takeGround(acc + i * 64, i);
}

/** Moves a band from what it was (acc) to what was made of it (top) by mask and opacity, premultiplied. */
function mixBand(acc: usize, top: usize, mask: usize, maskStep: usize, opacity: u32): void {
  const op = i16x8.splat(<i16>opacity);
  for (let i: usize = 0; i < GROUPS; i++, acc += 64, top += 64, mask += maskStep) {
    let k = op;
    if (mask) {
      const m = load<u64>(mask);
      if (m == 0) continue;
      if (m != 0xffffffffffffffff) k = Q(op, from8(v128.load8x8_u(mask)));
    }
    for (let c: usize = 0; c < 64; c += 16) {
      const from = v128.load(acc + c);
      v128.store(acc + c, i16x8.add(from, Q(i16x8.sub(v128.load(top + c), from), k)));
    }
  }
}

/** What lies in a band as straight RGBA8, its colours through a map (see filter.ts); alpha is full everywhere. */
function adjustBand(acc: usize, onGround: bool, kind: u32, map: usize, out: usize): void {
  if (onGround) takeAll(acc);
  if (onGround) resolveGround(acc, out);
  else resolve(acc, out);
  if (kind == 2) mapColors(out, map, out, BAND_TEXELS);
  else mapTable(out, map, out, BAND_TEXELS, kind == 1);
  for (let at = out; at < out + BAND_TEXELS * 4; at += 16) v128.store(at, v128.or(v128.load(at), i32x4.splat(0xff000000)));
}

/** A clear accumulator, unless the program goes on by filling it. */
// @ts-ignore: decorator
@inline function clearFor(next: usize, acc: usize): void {
  const code = load<u32>(next);
  if (code != FIRST && code != LOAD && code != GROUND) memory.fill(acc, 0, ACC);
}

function runBand(program: usize, band: usize, acc: usize, out: usize): void {
  let at = acc;
  ground = 0;
  clearFor(program, at);
  for (; ; program += 32) {
    const code = load<u32>(program);
    if (code == END) break;
    const mode = load<u32>(program, 4);
    const srcStep = <usize>load<u32>(program, 12);
    const src = <usize>load<u32>(program, 8);
    const maskStep = <usize>load<u32>(program, 20);
    let mask = <usize>load<u32>(program, 16);
    if (mask) mask += band * GROUPS * (code == ADJUST ? 32 : maskStep);
    const opacity = load<u32>(program, 24);
    const flags = load<u32>(program, 28);
    if (code == LAYER) blendMode(mode, at, src + band * GROUPS * srcStep, srcStep, mask, maskStep, opacity, flags, false);
    else if (code == FIRST) firstTile(at, src + band * GROUPS * srcStep, srcStep, mask, maskStep, opacity);
    else if (code == PUSH) {
      at += ACC;
      clearFor(program + 32, at);
    } else if (code == POP) {
      at -= ACC;
      blendMode(mode, at, at + ACC, 64, mask, maskStep, opacity, flags, true);
    } else if (code == GROUND) {
      ground = src + band * GROUPS * srcStep;
      groundStep = srcStep;
      memory.fill(taken, 0, GROUPS);
    } else if (code == LOAD) memory.copy(at, src + band * ACC, ACC);
    else if (code == STORE) {
      takeAll(at);
      memory.copy(src + band * ACC, at, ACC);
    } else if (code == ADJUST)
      adjustBand(at, ground != 0 && at == acc, mode, src, mask);
    else if (code == PUSH_COPY) {
      if (at == acc) takeAll(at);
      memory.copy(at + ACC, at, ACC);
      at += ACC;
    } else if (code == POP_MIX) {
      at -= ACC;
      mixBand(at, at + ACC, mask, maskStep, opacity);
    }
  }
  if (ground) resolveGround(acc, out + band * GROUPS * 32);
  else resolve(acc, out + band * GROUPS * 32);
}

/**
 * Runs a program on the accumulators from `acc` upwards (8 KiB each; 512 bytes before it are this call's scratch)
 * and writes the straight RGBA8 tile to `out`. What a program stores and loads is 32 KiB.
 */
export function runTile(program: usize, acc: usize, out: usize): void {
  useScratch(acc - 512);
  taken = acc - 256;
  for (let band: usize = 0; band < BANDS; band++) runBand(program, band, acc, out);
}
