// What a finished tile holds: nothing, one value, or texels (all opaque or not).
const EMPTY: i32 = 0;
const UNIFORM: i32 = 1;
const MIXED: i32 = 2;
const SOLID: i32 = 3;

/** Kind of an RGBA8 tile of 64x64: 0 no alpha anywhere, 1 one value, 2 mixed, 3 mixed but opaque. */
export function classifyColor(tile: usize): i32 {
  const first = i32x4.splat(load<i32>(tile));
  let same = i32x4.splat(-1);
  let any = i32x4.splat(0);
  let all = i32x4.splat(-1);
  for (let p = tile, end = tile + 16384; p < end; p += 16) {
    const v = v128.load(p);
    same = v128.and(same, i32x4.eq(v, first));
    any = v128.or(any, v);
    all = v128.and(all, v);
  }
  const alpha = i32x4.splat(0xff000000);
  if (!v128.any_true(v128.and(any, alpha))) return EMPTY;
  if (i32x4.all_true(same)) return UNIFORM;
  return i32x4.all_true(i32x4.eq(v128.and(all, alpha), alpha)) ? SOLID : MIXED;
}

/** Kind of an A8 tile of 64x64: 0 all zero, 1 one value, 2 mixed. */
export function classifyMask(tile: usize): i32 {
  const first = i8x16.splat(load<i8>(tile));
  for (let p = tile, end = tile + 4096; p < end; p += 16)
    if (!i8x16.all_true(i8x16.eq(v128.load(p), first))) return MIXED;
  return load<u8>(tile) == 0 ? EMPTY : UNIFORM;
}

/** Kind of a tile of 64x64 texels of 16 bits: 0 all zero, 1 one value, 2 mixed. */
export function classifyDeep(tile: usize): i32 {
  const first = i16x8.splat(load<i16>(tile));
  for (let p = tile, end = tile + 8192; p < end; p += 16)
    if (!i16x8.all_true(i16x8.eq(v128.load(p), first))) return MIXED;
  return load<u16>(tile) == 0 ? EMPTY : UNIFORM;
}

/** Zeroes bytes. */
export function clear(at: usize, bytes: usize): void {
  memory.fill(at, 0, bytes);
}

/** Copies bytes. */
export function copy(to: usize, from: usize, bytes: usize): void {
  memory.copy(to, from, bytes);
}
