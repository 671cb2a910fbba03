// Fields of tones 0..1, row by row: joined, shaped, blurred. All planes have room up to the next four cells.

// @ts-ignore: decorator
@inline function unit(v: v128): v128 {
  return f32x4.pmin(f32x4.pmax(v, f32x4.splat(0)), f32x4.splat(1));
}

/** How a source joins what is there: a is that, b the source. The numbers are the order of `mixings` in core. */
// @ts-ignore: decorator
@inline function joined(how: i32, a: v128, b: v128): v128 {
  const one = f32x4.splat(1), none = f32x4.splat(0);
  switch (how) {
    case 0: return b;
    case 1: return f32x4.mul(a, b);
    case 2: {
      const some = f32x4.gt(b, none);
      const share = unit(f32x4.div(a, v128.bitselect(b, one, some)));
      return v128.bitselect(share, v128.and(one, f32x4.gt(a, none)), some);
    }
    case 3: return f32x4.sub(f32x4.add(a, b), f32x4.mul(a, b));
    case 4: {
      const dark = f32x4.mul(f32x4.add(a, a), b);
      const light = f32x4.sub(one, f32x4.mul(f32x4.mul(f32x4.splat(2), f32x4.sub(one, a)), f32x4.sub(one, b)));
      return v128.bitselect(dark, light, f32x4.le(a, f32x4.splat(0.5)));
    }
    case 5: return f32x4.pmax(a, b);
    case 6: return f32x4.pmin(a, b);
    case 7: return unit(f32x4.add(a, b));
    default: return unit(f32x4.sub(a, b));
  }
}

/** Joins a source to a field of `count` cells, in place; `amount` 0..1 of the result counts. */
export function joinFields(how: i32, field: usize, source: usize, count: i32, amount: f32): void {
  const bytes = <usize>(count + 3 & ~3) * 4;
  const part = f32x4.splat(amount);
  for (let at: usize = 0; at < bytes; at += 16) {
    const a = v128.load(field + at);
    const b = joined(how, a, v128.load(source + at));
    v128.store(field + at, amount == 1 ? b : f32x4.add(a, f32x4.mul(f32x4.sub(b, a), part)));
  }
}

/** Two to the power of four numbers. */
function exp2(t: v128): v128 {
  const held = f32x4.max(t, f32x4.splat(-126));
  const n = f32x4.nearest(held);
  const f = f32x4.mul(f32x4.sub(held, n), f32x4.splat(0.6931471805599453));
  let p = f32x4.splat(1.0 / 720.0);
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(1.0 / 120.0));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(1.0 / 24.0));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(1.0 / 6.0));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(0.5));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(1));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(1));
  return f32x4.mul(p, i32x4.shl(i32x4.add(i32x4.trunc_sat_f32x4_s(n), i32x4.splat(127)), 23));
}

/** The binary logarithm of four numbers above 0, by the series of the inverse hyperbolic tangent. */
function log2(v: v128): v128 {
  const root = i32x4.splat(0x3f3504f3);
  const shifted = i32x4.sub(v, root);
  const e = i32x4.shr_s(shifted, 23);
  const m = i32x4.sub(v, i32x4.shl(e, 23));
  const one = f32x4.splat(1);
  const t = f32x4.div(f32x4.sub(m, one), f32x4.add(m, one)), s = f32x4.mul(t, t);
  let p = f32x4.splat(1.0 / 7.0);
  p = f32x4.add(f32x4.mul(p, s), f32x4.splat(1.0 / 5.0));
  p = f32x4.add(f32x4.mul(p, s), f32x4.splat(1.0 / 3.0));
  p = f32x4.add(f32x4.mul(p, s), one);
  return f32x4.add(f32x4.convert_i32x4_s(e), f32x4.mul(f32x4.mul(p, t), f32x4.splat(2.885390081777927)));
}

/** (v - black)·over within 0..1, to a power; in place. */
export function levelField(field: usize, count: i32, black: f32, over: f32, power: f32): void {
  const bytes = <usize>(count + 3 & ~3) * 4;
  for (let at: usize = 0; at < bytes; at += 16) {
    let v = unit(f32x4.mul(f32x4.sub(v128.load(field + at), f32x4.splat(black)), f32x4.splat(over)));
    if (power != 1) {
      const some = f32x4.gt(v, f32x4.splat(0));
      v = v128.and(exp2(f32x4.mul(log2(f32x4.pmax(v, f32x4.splat(1e-30))), f32x4.splat(power))), some);
    }
    v128.store(field + at, v);
  }
}

/** Fills a plane. */
export function fillField(field: usize, count: i32, value: f32): void {
  const bytes = <usize>(count + 3 & ~3) * 4;
  for (let at: usize = 0; at < bytes; at += 16) v128.store(field + at, f32x4.splat(value));
}

/** A plane's values times `by` and `add` more. */
export function slopeField(plane: usize, count: i32, by: f32, add: f32, out: usize): void {
  const bytes = <usize>(count + 3 & ~3) * 4;
  for (let at: usize = 0; at < bytes; at += 16)
    v128.store(out + at, f32x4.add(f32x4.mul(v128.load(plane + at), f32x4.splat(by)), f32x4.splat(add)));
}

/** A field as A8, rounded. */
export function toneBytes(field: usize, count: i32, out: usize): void {
  for (let i = 0; i < count; i += 4, field += 16, out += 4) {
    const v = f32x4.add(f32x4.mul(unit(v128.load(field)), f32x4.splat(255)), f32x4.splat(0.5));
    const n = i16x8.narrow_i32x4_s(i32x4.trunc_sat_f32x4_s(v), i32x4.splat(0));
    store<u32>(out, i32x4.extract_lane(i8x16.narrow_i16x8_u(n, n), 0));
  }
}

// @ts-ignore: decorator
@inline function fourRows(at: usize, pitch: usize, rows: i32): v128 {
  const b = rows > 1 ? load<f32>(at + pitch) : 0, c = rows > 2 ? load<f32>(at + 2 * pitch) : 0, d = rows > 3 ? load<f32>(at + 3 * pitch) : 0;
  return f32x4.replace_lane(f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(load<f32>(at)), 1, b), 2, c), 3, d);
}

// @ts-ignore: decorator
@inline function putRows(at: usize, pitch: usize, rows: i32, v: v128): void {
  store<f32>(at, f32x4.extract_lane(v, 0));
  if (rows > 1) store<f32>(at + pitch, f32x4.extract_lane(v, 1));
  if (rows > 2) store<f32>(at + 2 * pitch, f32x4.extract_lane(v, 2));
  if (rows > 3) store<f32>(at + 3 * pitch, f32x4.extract_lane(v, 3));
}

/** The mean of each value of a line of vectors and of those within `r` of it; beside the line goes on as it ends. */
function boxLine(line: usize, count: i32, r: i32, out: usize): void {
  const first = v128.load(line), last = v128.load(line + (<usize>(count - 1) << 4));
  let sum = f32x4.mul(first, f32x4.splat(<f32>(r + 1)));
  for (let i = 0; i < r; i++) sum = f32x4.add(sum, i < count ? v128.load(line + (<usize>i << 4)) : last);
  const cells = r + r + 1;
  const over = f32x4.splat(1 / <f32>cells);
  for (let i = 0; i < count; i++) {
    sum = f32x4.add(sum, i + r < count ? v128.load(line + (<usize>(i + r) << 4)) : last);
    sum = f32x4.sub(sum, i - r - 1 >= 0 ? v128.load(line + (<usize>(i - r - 1) << 4)) : first);
    v128.store(out + (<usize>i << 4), f32x4.mul(sum, over));
  }
}

/**
 * One box blur of `r` cells around each, along rows and then columns, in place; borders go on as they are. `lines` is
 * room for twice the longer side in vectors of 16 bytes.
 */
export function boxField(field: usize, width: i32, height: i32, r: i32, lines: usize): void {
  const pitch = <usize>width << 2;
  const made = lines + (<usize>max(width, height) << 4);
  for (let y = 0; y < height; y += 4) {
    const at = field + <usize>y * pitch, rows = min(4, height - y);
    for (let x = 0; x < width; x++) v128.store(lines + (<usize>x << 4), fourRows(at + (<usize>x << 2), pitch, rows));
    boxLine(lines, width, r, made);
    for (let x = 0; x < width; x++) putRows(at + (<usize>x << 2), pitch, rows, v128.load(made + (<usize>x << 4)));
  }
  for (let x = 0; x < width; x += 4) {
    const at = field + (<usize>x << 2), columns = min(4, width - x);
    for (let y = 0; y < height; y++) v128.store(lines + (<usize>y << 4), v128.load(at + <usize>y * pitch));
    boxLine(lines, height, r, made);
    for (let y = 0; y < height; y++) {
      const v = v128.load(made + (<usize>y << 4)), to = at + <usize>y * pitch;
      if (columns == 4) v128.store(to, v);
      else putRows(to, 4, columns, v);
    }
  }
}

/** A field with `by` cells more on each side, which go on as the border is. */
export function widenField(field: usize, width: i32, height: i32, by: i32, out: usize): void {
  const wide = width + 2 * by;
  for (let y = -by; y < height + by; y++) {
    const from = field + (<usize>(min(height - 1, max(0, y)) * width) << 2);
    for (let x = 0; x < by; x++, out += 4) store<f32>(out, load<f32>(from));
    memory.copy(out, from, <usize>width << 2);
    out += <usize>width << 2;
    for (let x = 0; x < by; x++, out += 4) store<f32>(out, load<f32>(from + (<usize>(width - 1) << 2)));
  }
}

/** The highest of `count` cells from `at` on, of four windows side by side; `levels` are lines of the highest of 1, 2, 4 … cells. */
// @ts-ignore: decorator
@inline function highestOf(levels: usize, pitch: usize, at: i32, count: i32): v128 {
  const level = 31 - clz(count);
  const line = levels + <usize>level * pitch;
  return f32x4.pmax(v128.load(line + (<usize>at << 2)), v128.load(line + (<usize>(at + count - (1 << level)) << 2)));
}

/**
 * A field of values from 0 up grown by a disc of `by` > 0 cells: each cell of `out` takes the highest value within the
 * disc, whose edge counts by its share of a cell; there is nothing beside the field. Rows of the disc are windows, whose
 * highest is that of two windows of a power of two: M. van Herk's filter needs steps along the row, this one does not.
 * `levels` is room for `highest` lines of `width + 2·(ceil(by) + 1) + 8` floats and as many once more, where
 * `highest` is the number of binary digits of 2·ceil(by) + 3.
 */
export function growField(field: usize, width: i32, height: i32, by: f64, levels: usize, out: usize): void {
  const rows = <i32>ceil(by), pad = rows + 1, across = (width + 2 * pad + 11) & ~3;
  const pitch = <usize>across << 2, highest = 32 - clz(2 * rows + 3), row = <usize>width << 2;
  memory.copy(out, field, row * <usize>height);
  memory.fill(levels, 0, pitch);
  for (let y = 0; y < height; y++) {
    memory.copy(levels + (<usize>pad << 2), field + <usize>y * row, row);
    for (let level = 1; level < highest; level++) {
      const from = levels + <usize>(level - 1) * pitch, to = from + pitch, step = <usize>(1 << (level - 1)) << 2;
      for (let at: usize = 0; at < pitch; at += 16)
        v128.store(to + at, f32x4.pmax(v128.load(from + at), v128.load(from + at + step)));
    }
    for (let dy = 0; dy <= rows; dy++) {
      const half = <f64>dy > by ? 0 : sqrt(by * by - <f64>(dy * dy));
      const whole = <i32>half, part = f32x4.splat(<f32>(half - <f64>whole));
      // Of a row that the disc only just reaches its part counts.
      const weight = f32x4.splat(<f64>dy > by ? <f32>(by - <f64>(dy - 1)) : 1);
      const first = pad - whole, count = 2 * whole + 1;
      const above = y >= dy ? out + <usize>(y - dy) * row : 0;
      const below = dy > 0 && y + dy < height ? out + <usize>(y + dy) * row : 0;
      for (let x = 0; x < width; x += 4) {
        const inner = highestOf(levels, pitch, first + x, count), outer = highestOf(levels, pitch, first + x - 1, count + 2);
        const v = f32x4.mul(f32x4.add(inner, f32x4.mul(part, f32x4.sub(outer, inner))), weight);
        if (above) raise(above + (<usize>x << 2), v, width - x);
        if (below) raise(below + (<usize>x << 2), v, width - x);
      }
    }
  }
}

/** Raises up to four values to those of a vector. */
// @ts-ignore: decorator
@inline function raise(at: usize, v: v128, cells: i32): void {
  if (cells >= 4) v128.store(at, f32x4.pmax(v128.load(at), v));
  else putRows(at, 4, cells, f32x4.pmax(v128.load(at), v));
}

/**
 * The mean of a field along a line through each cell: `taps` places from (-dx, -dy)·length/2 to (dx, dy)·length/2.
 * `wide` is the field with `by` cells more on each side, at least half the length and one.
 */
export function smudgeField(
  wide: usize,
  width: i32,
  height: i32,
  by: i32,
  taps: i32,
  length: f32,
  dx: f32,
  dy: f32,
  out: usize,
): void {
  const across = width + 2 * by, share = f32x4.splat(1 / <f32>taps);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x += 4) {
      let sum = f32x4.splat(0);
      for (let k = 0; k < taps; k++) {
        const t = ((<f32>k + 0.5) / <f32>taps - 0.5) * length;
        const px = t * dx, py = t * dy, fx = floor(px), fy = floor(py);
        const at = wide + (<usize>((y + by + <i32>fy) * across + x + by + <i32>fx) << 2), below = at + (<usize>across << 2);
        const s = f32x4.splat(px - fx), r = f32x4.splat(py - fy);
        const top = lean(v128.load(at), v128.load(at, 4), s), low = lean(v128.load(below), v128.load(below, 4), s);
        sum = f32x4.add(sum, lean(top, low, r));
      }
      const to = out + (<usize>(y * width + x) << 2), mean = f32x4.mul(sum, share);
      if (x + 4 <= width) v128.store(to, mean);
      else putRows(to, 4, width - x, mean);
    }
}

// @ts-ignore: decorator
@inline function lean(a: v128, b: v128, t: v128): v128 {
  return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), t));
}

/**
 * A field pushed along the slope of another: `by` cells for a slope of one cell, `most` at the most either way; read
 * between four cells, at its border as it is.
 */
export function warpField(field: usize, clouds: usize, width: i32, height: i32, by: f32, most: f32, out: usize): void {
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++, out += 4) {
      const i = y * width + x;
      const dx = slope(clouds, x > 0 ? i - 1 : i, x + 1 < width ? i + 1 : i, by, most);
      const dy = slope(clouds, y > 0 ? i - width : i, y + 1 < height ? i + width : i, by, most);
      const cx = min(<f32>(width - 1), max<f32>(0, <f32>x + dx)), cy = min(<f32>(height - 1), max<f32>(0, <f32>y + dy));
      const x0 = <i32>cx, y0 = <i32>cy, x1 = min(x0 + 1, width - 1), y1 = min(y0 + 1, height - 1);
      const s = cx - <f32>x0, t = cy - <f32>y0;
      const a = load<f32>(field + (<usize>(y0 * width + x0) << 2)), b = load<f32>(field + (<usize>(y0 * width + x1) << 2));
      const c = load<f32>(field + (<usize>(y1 * width + x0) << 2)), d = load<f32>(field + (<usize>(y1 * width + x1) << 2));
      const top = a + (b - a) * s;
      store<f32>(out, top + (c + (d - c) * s - top) * t);
    }
}

// @ts-ignore: decorator
@inline function slope(clouds: usize, a: i32, b: i32, by: f32, most: f32): f32 {
  return min(most, max(-most, (load<f32>(clouds + (<usize>b << 2)) - load<f32>(clouds + (<usize>a << 2))) * by));
}

/**
 * A field as A8 of finer texels, `scale` a cell along a side, read between four cells: a rectangle whose first texel lies
 * `x`, `y` texels into the field. `lines` is room for two rows of the rectangle. Where all cells that it is read from are
 * alike, their tone is returned and nothing is put; else -1.
 */
export function finerBytes(
  field: usize,
  width: i32,
  height: i32,
  scale: f32,
  x: f32,
  y: f32,
  lines: usize,
  out: usize,
  outWidth: i32,
  outHeight: i32,
): i32 {
  const cell: f32 = 1 / scale;
  const left = cellAt(x, cell, width), right = min(width - 1, cellAt(<f32>outWidth - 1 + x, cell, width) + 1);
  const top = cellAt(y, cell, height), bottom = min(height - 1, cellAt(<f32>outHeight - 1 + y, cell, height) + 1);
  if (allAlike(field + (<usize>(top * width + left) << 2), width, right - left + 1, bottom - top + 1)) {
    const tone = load<f32>(field + (<usize>(top * width + left) << 2));
    return <i32>(min<f32>(1, max<f32>(0, tone)) * 255 + 0.5);
  }
  const pitch = <usize>(outWidth + 3 & ~3) << 2;
  // Of the two rows of cells that a texel lies between: which they are, and where they stand, drawn out to its width.
  let upper = lines, lower = lines + pitch, known = -1, knownLower = -1;
  for (let row = 0; row < outHeight; row++) {
    const cy = min(<f32>(height - 1), max<f32>(0, (<f32>row + 0.5 + y) * cell - 0.5));
    const y0 = <i32>cy, y1 = min(y0 + 1, height - 1);
    if (y0 != known) {
      if (y0 == knownLower) {
        const swap = upper;
        upper = lower;
        lower = swap;
      } else drawnOut(field + (<usize>(y0 * width) << 2), width, cell, x, upper, outWidth);
      known = y0;
      knownLower = -1;
    }
    if (y1 != knownLower) {
      drawnOut(field + (<usize>(y1 * width) << 2), width, cell, x, lower, outWidth);
      knownLower = y1;
    }
    const t = f32x4.splat(cy - <f32>y0);
    let column = 0;
    for (; column + 16 <= outWidth; column += 16, out += 16) {
      const at = upper + (<usize>column << 2), below = lower + (<usize>column << 2);
      const left = i16x8.narrow_i32x4_s(toneOf(at, below, t), toneOf(at + 16, below + 16, t));
      const right = i16x8.narrow_i32x4_s(toneOf(at + 32, below + 32, t), toneOf(at + 48, below + 48, t));
      v128.store(out, i8x16.narrow_i16x8_u(left, right));
    }
    for (; column < outWidth; column += 4, out += 4) {
      const n = i16x8.narrow_i32x4_s(toneOf(upper + (<usize>column << 2), lower + (<usize>column << 2), t), i32x4.splat(0));
      const bytes = i32x4.extract_lane(i8x16.narrow_i16x8_u(n, n), 0);
      if (column + 4 <= outWidth) store<u32>(out, bytes);
      else {
        for (let k = 0; k < outWidth - column; k++) store<u8>(out + <usize>k, bytes >> (k << 3));
        out -= <usize>(4 - (outWidth - column));
      }
    }
  }
  return -1;
}

/** The first of the two cells that a texel lies between, along one side. */
// @ts-ignore: decorator
@inline function cellAt(texel: f32, cell: f32, cells: i32): i32 {
  return <i32>min(<f32>(cells - 1), max<f32>(0, (texel + 0.5) * cell - 0.5));
}

/** Whether all cells of a rectangle of a field, `pitch` cells a row, are the same. */
function allAlike(field: usize, pitch: i32, width: i32, height: i32): bool {
  const first = v128.load32_splat(field);
  for (let row = 0; row < height; row++, field += <usize>pitch << 2) {
    let x = 0;
    for (; x + 4 <= width; x += 4) if (!i32x4.all_true(i32x4.eq(v128.load(field + (<usize>x << 2)), first))) return false;
    for (; x < width; x++) if (load<u32>(field + (<usize>x << 2)) != i32x4.extract_lane(first, 0)) return false;
  }
  return true;
}

/** Four tones between two rows of 0..255, rounded. */
// @ts-ignore: decorator
@inline function toneOf(upper: usize, lower: usize, t: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(f32x4.add(lean(v128.load(upper), v128.load(lower), t), f32x4.splat(0.5)));
}

/** A row of cells as 0..255 at the texels of a finer row; up to three more are written. */
function drawnOut(from: usize, width: i32, cell: f32, x: f32, out: usize, count: i32): void {
  const most = f32x4.splat(<f32>(width - 1)), last = i32x4.splat(max(0, width - 2));
  const next: usize = width > 1 ? 4 : 0;
  for (let column = 0; column < count; column += 4, out += 16) {
    const texel = f32x4.add(f32x4.splat(<f32>column + 0.5 + x), f32x4(0, 1, 2, 3));
    const along = f32x4.sub(f32x4.mul(texel, f32x4.splat(cell)), f32x4.splat(0.5));
    const at = f32x4.pmin(f32x4.pmax(along, f32x4.splat(0)), most);
    const left = i32x4.min_s(i32x4.trunc_sat_f32x4_s(at), last), bytes = i32x4.shl(left, 2);
    const p = from + <usize>i32x4.extract_lane(bytes, 0), q = from + <usize>i32x4.extract_lane(bytes, 1);
    const r = from + <usize>i32x4.extract_lane(bytes, 2), s = from + <usize>i32x4.extract_lane(bytes, 3);
    const a = f32x4(load<f32>(p), load<f32>(q), load<f32>(r), load<f32>(s));
    const b = f32x4(load<f32>(p + next), load<f32>(q + next), load<f32>(r + next), load<f32>(s + next));
    const tone = lean(a, b, f32x4.sub(at, f32x4.convert_i32x4_s(left)));
    v128.store(out, f32x4.mul(f32x4.pmin(f32x4.pmax(tone, f32x4.splat(0)), f32x4.splat(1)), f32x4.splat(255)));
  }
}
