// Texels read between those of another picture: Catmull and Rom's cubic over 16 of them, held within the four nearest
// so that it does not ring. Source: E. Catmull, R. Rom, "A class of local interpolating splines" (1974).

// @ts-ignore: decorator
@inline function texelOf(words: v128): v128 {
  return f32x4.convert_i32x4_u(words);
}

/** Colour multiplied by alpha, which stays. */
// @ts-ignore: decorator
@inline function byAlpha(v: v128): v128 {
  const a = i8x16.shuffle(v, v, 12, 13, 14, 15, 12, 13, 14, 15, 12, 13, 14, 15, 12, 13, 14, 15);
  const m = f32x4.mul(v, f32x4.mul(a, f32x4.splat(<f32>(1.0 / 255.0))));
  return i8x16.shuffle(m, v, 0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 28, 29, 30, 31);
}

// @ts-ignore: decorator
@inline function premultiplied(texel: usize): v128 {
  return byAlpha(texelOf(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(texel)))));
}

// @ts-ignore: decorator
@inline function w0(t: f32): f32 { return ((-0.5 * t + 1) * t - 0.5) * t; }
// @ts-ignore: decorator
@inline function w1(t: f32): f32 { return (1.5 * t - 2.5) * t * t + 1; }
// @ts-ignore: decorator
@inline function w2(t: f32): f32 { return ((-1.5 * t + 2) * t + 0.5) * t; }
// @ts-ignore: decorator
@inline function w3(t: f32): f32 { return (0.5 * t - 0.5) * t * t; }

/** Four texels side by side by their weights; `opaque` says that all alpha is full. */
// @ts-ignore: decorator
@inline function row(raw: v128, a: f32, b: f32, c: f32, d: f32, opaque: bool): v128 {
  const low = i16x8.extend_low_i8x16_u(raw), high = i16x8.extend_high_i8x16_u(raw);
  let p = texelOf(i32x4.extend_low_i16x8_u(low)), q = texelOf(i32x4.extend_high_i16x8_u(low));
  let r = texelOf(i32x4.extend_low_i16x8_u(high)), z = texelOf(i32x4.extend_high_i16x8_u(high));
  if (!opaque) {
    p = byAlpha(p);
    q = byAlpha(q);
    r = byAlpha(r);
    z = byAlpha(z);
  }
  return f32x4.add(
    f32x4.add(f32x4.mul(p, f32x4.splat(a)), f32x4.mul(q, f32x4.splat(b))),
    f32x4.add(f32x4.mul(r, f32x4.splat(c)), f32x4.mul(z, f32x4.splat(d))),
  );
}

/**
 * A run of texels of RGBA8, each read at x, y of a picture `width` wide and then dx, dy farther; `samples` by `samples`
 * places of the parallelogram of (dx, dy) and (ex, ey) around it are taken together. Only where `deep` (u32 a texel) says
 * that all 16 are of the island; the numbers of the others are written to `missed`, and how many they are is returned.
 */
export function carryColor(
  from: usize, deep: usize, width: i32, height: i32, island: u32,
  x: f64, y: f64, dx: f64, dy: f64, ex: f64, ey: f64, samples: i32,
  count: i32, out: usize, missed: usize,
): i32 {
  let misses = 0;
  const line = <usize>width * 4;
  const step: f64 = 1.0 / <f64>samples;
  const all = samples * samples;
  for (let i = 0; i < count; i++, out += 4) {
    const px = x + <f64>i * dx, py = y + <f64>i * dy;
    let total = f32x4.splat(0);
    let whole = true;
    let alike = false;
    for (let n = 0, i1 = 0, i2 = 0; n < all; n++) {
      const s = (<f64>i1 + 0.5) * step - 0.5, t = (<f64>i2 + 0.5) * step - 0.5;
      if (++i1 == samples) {
        i1 = 0;
        i2++;
      }
      const fx = px + s * dx + t * ex - 0.5, fy = py + s * dy + t * ey - 0.5;
      const ix = <i32>floor<f64>(fx), iy = <i32>floor<f64>(fy);
      if (ix < 1 || iy < 1 || ix + 2 >= width || iy + 2 >= height || load<u32>(deep + (<usize>(iy * width + ix) << 2)) != island) {
        whole = false;
        break;
      }
      const at = from + (<usize>((iy - 1) * width + ix - 1) << 2);
      // Where all 16 are alike nothing is to be mixed: much of a painted sheet is so.
      const first = v128.load32_splat(at);
      const r0 = v128.load(at), r1 = v128.load(at + line), r2 = v128.load(at + 2 * line), r3 = v128.load(at + 3 * line);
      if (i32x4.all_true(v128.and(
        v128.and(i32x4.eq(r0, first), i32x4.eq(r1, first)),
        v128.and(i32x4.eq(r2, first), i32x4.eq(r3, first)),
      ))) {
        if (samples == 1) {
          store<u32>(out, load<u8>(at, 3) ? load<u32>(at) : 0);
          alike = true;
        } else total = f32x4.add(total, premultiplied(at));
        continue;
      }
      const u = <f32>(fx - <f64>ix), v = <f32>(fy - <f64>iy);
      const a = w0(u), b = w1(u), c = w2(u), d = w3(u);
      const full = i32x4.splat(0xff000000);
      const opaque = i32x4.all_true(i32x4.eq(v128.and(v128.and(v128.and(r0, r1), v128.and(r2, r3)), full), full));
      let sum = f32x4.mul(row(r0, a, b, c, d, opaque), f32x4.splat(w0(v)));
      sum = f32x4.add(sum, f32x4.mul(row(r1, a, b, c, d, opaque), f32x4.splat(w1(v))));
      sum = f32x4.add(sum, f32x4.mul(row(r2, a, b, c, d, opaque), f32x4.splat(w2(v))));
      sum = f32x4.add(sum, f32x4.mul(row(r3, a, b, c, d, opaque), f32x4.splat(w3(v))));
      const p = premultiplied(at + line + 4), q = premultiplied(at + line + 8);
      const r = premultiplied(at + 2 * line + 4), z = premultiplied(at + 2 * line + 8);
      sum = f32x4.max(sum, f32x4.min(f32x4.min(p, q), f32x4.min(r, z)));
      sum = f32x4.min(sum, f32x4.max(f32x4.max(p, q), f32x4.max(r, z)));
      total = f32x4.add(total, sum);
    }
    if (!whole) {
      store<u32>(missed + (<usize>misses << 2), i);
      misses++;
      continue;
    }
    if (alike) continue;
    total = f32x4.mul(total, f32x4.splat(<f32>(step * step)));
    const alpha = f32x4.extract_lane(total, 3);
    if (alpha < 0.5) {
      store<u32>(out, 0);
      continue;
    }
    const straight = f32x4.mul(total, f32x4.splat(<f32>255 / alpha));
    const rounded = f32x4.add(f32x4.replace_lane(straight, 3, alpha), f32x4.splat(0.5));
    const k = i32x4.trunc_sat_f32x4_s(f32x4.min(rounded, f32x4.splat(255.5)));
    const m = i16x8.narrow_i32x4_s(k, k);
    store<u32>(out, i32x4.extract_lane(i8x16.narrow_i16x8_u(m, m), 0));
  }
  return misses;
}

/** The same of one channel of 8 bits. */
export function carryMask(
  from: usize, deep: usize, width: i32, height: i32, island: u32,
  x: f64, y: f64, dx: f64, dy: f64, ex: f64, ey: f64, samples: i32,
  count: i32, out: usize, missed: usize,
): i32 {
  let misses = 0;
  const line = <usize>width;
  const step: f64 = 1.0 / <f64>samples;
  const all = samples * samples;
  for (let i = 0; i < count; i++, out++) {
    const px = x + <f64>i * dx, py = y + <f64>i * dy;
    let total: f32 = 0;
    let whole = true;
    for (let n = 0, i1 = 0, i2 = 0; n < all; n++) {
      const s = (<f64>i1 + 0.5) * step - 0.5, t = (<f64>i2 + 0.5) * step - 0.5;
      if (++i1 == samples) {
        i1 = 0;
        i2++;
      }
      const fx = px + s * dx + t * ex - 0.5, fy = py + s * dy + t * ey - 0.5;
      const ix = <i32>floor<f64>(fx), iy = <i32>floor<f64>(fy);
      if (ix < 1 || iy < 1 || ix + 2 >= width || iy + 2 >= height || load<u32>(deep + (<usize>(iy * width + ix) << 2)) != island) {
        whole = false;
        break;
      }
      let at = from + <usize>((iy - 1) * width + ix - 1);
      const row = load<u32>(at);
      if (row == <u32>(row & 255) * 0x01010101 && load<u32>(at + line) == row && load<u32>(at + 2 * line) == row && load<u32>(at + 3 * line) == row) {
        total += <f32>(row & 255);
        continue;
      }
      const u = <f32>(fx - <f64>ix), v = <f32>(fy - <f64>iy);
      let sum: f32 = 0;
      for (let j = 0; j < 4; j++, at += line) {
        const w = j == 0 ? w0(v) : j == 1 ? w1(v) : j == 2 ? w2(v) : w3(v);
        sum += w * (w0(u) * <f32>load<u8>(at) + w1(u) * <f32>load<u8>(at, 1) + w2(u) * <f32>load<u8>(at, 2) + w3(u) * <f32>load<u8>(at, 3));
      }
      at -= 3 * line;
      const p = <f32>load<u8>(at, 1), q = <f32>load<u8>(at, 2), r = <f32>load<u8>(at + line, 1), z = <f32>load<u8>(at + line, 2);
      sum = max<f32>(sum, min<f32>(min<f32>(p, q), min<f32>(r, z)));
      total += min<f32>(sum, max<f32>(max<f32>(p, q), max<f32>(r, z)));
    }
    if (!whole) {
      store<u32>(missed + (<usize>misses << 2), i);
      misses++;
      continue;
    }
    store<u8>(out, <u8>(total * <f32>(step * step) + 0.5));
  }
  return misses;
}
