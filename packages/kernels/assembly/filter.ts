// Filters of texels: a map of colours by a cube of samples, and a blur of a piece of a layer.

/** Nodes along a side of a colour cube, and bytes of a node: four floats, red, green, blue 0..255 and one unused. */
const NODES: i32 = 33;
const NODE: usize = 16;

// @ts-ignore: decorator
@inline function between(a: v128, b: v128, t: f32): v128 {
  return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), f32x4.splat(t)));
}

/** Sends `count` RGBA8 texels through a cube of 33³ nodes, red fastest, linearly between them; alpha stays. */
export function mapColors(src: usize, cube: usize, out: usize, count: i32): void {
  const scale: f32 = <f32>(NODES - 1) / 255.0;
  let known: u32 = 0, is: u32 = 0, first = true;
  for (let i = 0; i < count; i++, src += 4, out += 4) {
    const c = load<u32>(src);
    if (!first && c == known) {
      store<u32>(out, is);
      continue;
    }
    const r = <f32>(c & 255) * scale, g = <f32>(c >> 8 & 255) * scale, b = <f32>(c >> 16 & 255) * scale;
    const x = min<i32>(<i32>r, NODES - 2), y = min<i32>(<i32>g, NODES - 2), z = min<i32>(<i32>b, NODES - 2);
    const s = r - <f32>x, t = g - <f32>y, u = b - <f32>z;
    const at = cube + <usize>((z * NODES + y) * NODES + x) * NODE;
    const up = <usize>NODES * NODE, far = <usize>(NODES * NODES) * NODE;
    const near = between(between(v128.load(at), v128.load(at, NODE), s), between(v128.load(at + up), v128.load(at + up, NODE), s), t);
    const back = between(
      between(v128.load(at + far), v128.load(at + far, NODE), s),
      between(v128.load(at + far + up), v128.load(at + far + up, NODE), s),
      t,
    );
    const v = i32x4.trunc_sat_f32x4_s(f32x4.add(between(near, back, u), f32x4.splat(0.5)));
    known = c;
    first = false;
    is = c & 0xff000000 | i32x4.extract_lane(v, 0) | i32x4.extract_lane(v, 1) << 8 | i32x4.extract_lane(v, 2) << 16;
    store<u32>(out, is);
  }
}

/**
 * Sends `count` RGBA8 texels through a table of 256 entries of red, green and blue: each channel by itself, or all by
 * their tone (0.3 red + 0.59 green + 0.11 blue); alpha stays.
 */
export function mapTable(src: usize, table: usize, out: usize, count: i32, byTone: bool): void {
  for (let i = 0; i < count; i++, src += 4, out += 4) {
    const c = load<u32>(src);
    let r = c & 255, g = c >> 8 & 255, b = c >> 16 & 255;
    if (byTone) {
      r = (77 * r + 151 * g + 28 * b + 128) >> 8;
      g = r;
      b = r;
    }
    const red = <u32>load<u8>(table + <usize>r * 3);
    const green = <u32>load<u8>(table + <usize>g * 3, 1);
    const blue = <u32>load<u8>(table + <usize>b * 3, 2);
    store<u32>(out, c & 0xff000000 | red | green << 8 | blue << 16);
  }
}

/**
 * Blurs the middle 64x64 of a region of side 64 + 2·radius. `region` holds premultiplied floats, four a texel, 0..255;
 * `weights` 2·radius + 1 floats that add up to one; `rows` room for side·64 texels of 16 bytes. Writes straight RGBA8.
 */
export function blurRegion(region: usize, radius: i32, weights: usize, rows: usize, out: usize): void {
  const side = 64 + 2 * radius;
  const taps = 2 * radius + 1;
  for (let y = 0; y < side; y++)
    for (let x = 0; x < 64; x++) {
      let sum = f32x4.splat(0);
      let at = region + <usize>(y * side + x) * 16;
      for (let k = 0; k < taps; k++, at += 16)
        sum = f32x4.add(sum, f32x4.mul(v128.load(at), v128.load32_splat(weights + (k << 2))));
      v128.store(rows + <usize>(y * 64 + x) * 16, sum);
    }
  for (let y = 0; y < 64; y++)
    for (let x = 0; x < 64; x++) {
      let sum = f32x4.splat(0);
      let at = rows + <usize>(y * 64 + x) * 16;
      for (let k = 0; k < taps; k++, at += 1024)
        sum = f32x4.add(sum, f32x4.mul(v128.load(at), v128.load32_splat(weights + (k << 2))));
      const a = f32x4.extract_lane(sum, 3);
      const over: f32 = a > 0 ? 255 / a : 0;
      const v = f32x4.add(f32x4.mul(sum, f32x4(over, over, over, 1)), f32x4.splat(0.5));
      const n = i16x8.narrow_i32x4_s(i32x4.trunc_sat_f32x4_s(v), i32x4.splat(0));
      store<u32>(out, i32x4.extract_lane(i8x16.narrow_i16x8_u(n, n), 0));
      out += 4;
    }
}
