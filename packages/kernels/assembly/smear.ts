// Paint pulled along by a tip. What a tip carries is a square of cells around its middle: a premultiplied colour of
// four floats 0..255 a cell, and behind all colours one float a cell, 1 where the cell holds any.
// A record is 16 bytes: u32 address of an RGBA8 texel, f32 dx, f32 dy from the tip's middle, u32 address of its u16
// coverage.

// @ts-ignore: decorator
@inline function colorOf(texel: usize): v128 {
  const v = f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(texel))));
  const a = f32x4.extract_lane(v, 3) / 255;
  return f32x4.mul(v, f32x4(a, a, a, 1));
}

/** Picks up what lies under a tip: the mean of the texels in each cell. */
function pickUp(records: usize, count: i32, cells: i32, step: f32, under: usize): void {
  const all = cells * cells;
  const weights = under + <usize>all * 16;
  memory.fill(under, 0, <usize>all * 20);
  const half = <f32>cells * 0.5;
  const over: f32 = 1 / step;
  for (let i = 0; i < count; i++, records += 16) {
    const x = <i32>Mathf.floor(load<f32>(records, 4) * over + half);
    const y = <i32>Mathf.floor(load<f32>(records, 8) * over + half);
    if (x < 0 || y < 0 || x >= cells || y >= cells) continue;
    const cell = <usize>(y * cells + x);
    const at = under + cell * 16;
    v128.store(at, f32x4.add(v128.load(at), colorOf(load<u32>(records))));
    store<f32>(weights + cell * 4, load<f32>(weights + cell * 4) + 1);
  }
  for (let cell: usize = 0; cell < <usize>all; cell++) {
    const w = load<f32>(weights + cell * 4);
    if (w == 0) continue;
    const at = under + cell * 16;
    v128.store(at, f32x4.div(v128.load(at), f32x4.splat(w)));
    store<f32>(weights + cell * 4, 1);
  }
}

/** Lays what is carried on the texels by their coverage; alpha stays where `lock` holds. */
function layCarried(records: usize, count: i32, cells: i32, step: f32, carried: usize, lock: bool): void {
  const weights = carried + <usize>(cells * cells) * 16;
  const half = <f32>cells * 0.5 - 0.5;
  const over: f32 = 1 / step;
  for (let i = 0; i < count; i++, records += 16) {
    const c = load<u16>(load<u32>(records, 12));
    if (c == 0) continue;
    const fx = load<f32>(records, 4) * over + half, fy = load<f32>(records, 8) * over + half;
    const x0 = <i32>Mathf.floor(fx), y0 = <i32>Mathf.floor(fy);
    const s = fx - <f32>x0, t = fy - <f32>y0;
    let sum = f32x4.splat(0);
    let all: f32 = 0;
    for (let k = 0; k < 4; k++) {
      const x = x0 + (k & 1), y = y0 + (k >> 1);
      if (x < 0 || y < 0 || x >= cells || y >= cells) continue;
      const cell = <usize>(y * cells + x);
      const w = (k & 1 ? s : 1 - s) * (k >> 1 ? t : 1 - t) * load<f32>(weights + cell * 4);
      sum = f32x4.add(sum, f32x4.mul(v128.load(carried + cell * 16), f32x4.splat(w)));
      all += w;
    }
    if (all <= 0) continue;
    const w: f32 = <f32>c / 65535;
    const texel = <usize>load<u32>(records);
    const from = colorOf(texel);
    const mixed = f32x4.add(from, f32x4.mul(f32x4.sub(f32x4.div(sum, f32x4.splat(all)), from), f32x4.splat(w)));
    const alpha = f32x4.extract_lane(mixed, 3);
    const kept: f32 = lock ? <f32>load<u8>(texel, 3) : alpha;
    if (kept < 0.5 || alpha <= 0) {
      if (!lock) store<u8>(texel, 0, 3);
      continue;
    }
    const straight = f32x4.add(f32x4.mul(mixed, f32x4.splat(255 / alpha)), f32x4.splat(0.5));
    const v = i32x4.trunc_sat_f32x4_s(f32x4.replace_lane(straight, 3, kept + 0.5));
    const n = i16x8.narrow_i32x4_s(v, v);
    store<u32>(texel, i32x4.extract_lane(i8x16.narrow_i16x8_u(n, n), 0));
  }
}

/**
 * One dab of a smear over `count` records. `carried` is what the dab before left (0 at the first), `under` room for
 * what this one leaves: cells² · 20 bytes each; `step` is a cell's side, `keep` 0..1 what stays on the tip.
 */
export function smearDab(records: usize, count: i32, cells: i32, step: f32, carried: usize, under: usize, keep: f32, lock: i32): void {
  pickUp(records, count, cells, step, under);
  if (!carried) return;
  layCarried(records, count, cells, step, carried, lock != 0);
  const all = <usize>(cells * cells);
  const had = carried + all * 16, has = under + all * 16;
  for (let cell: usize = 0; cell < all; cell++) {
    if (load<f32>(had + cell * 4) == 0) continue;
    const at = under + cell * 16;
    const k: f32 = load<f32>(has + cell * 4) == 0 ? 1 : keep;
    const now = v128.load(at);
    v128.store(at, f32x4.add(now, f32x4.mul(f32x4.sub(v128.load(carried + cell * 16), now), f32x4.splat(k))));
    store<f32>(has + cell * 4, 1);
  }
}
