// Light on cells of a surface, and the strokes that it is laid in.

/** Bytes of what holds for all lamps, and of a lamp: see `shadeCells`. */
const RIG: usize = 144;
const LAMP: usize = 32;

// @ts-ignore: decorator
@inline function splat(at: usize, n: usize): v128 {
  return v128.load32_splat(at + n * 4);
}

// @ts-ignore: decorator
@inline function held(v: v128): v128 {
  return f32x4.pmin(f32x4.pmax(v, f32x4.splat(0)), f32x4.splat(1));
}

/** 0 at 0, 1 at 1, level at both. */
// @ts-ignore: decorator
@inline function eased(v: v128): v128 {
  const t = held(v);
  return f32x4.mul(f32x4.mul(t, t), f32x4.sub(f32x4.splat(3), f32x4.add(t, t)));
}

/** A tone 0..1 in so many steps, whose borders are so soft; as it is where there are none. */
// @ts-ignore: decorator
@inline function stepped(tone: v128, steps: f32, over: f32): v128 {
  if (steps < 1) return tone;
  const many = f32x4.mul(tone, f32x4.splat(steps));
  const low = f32x4.min(f32x4.floor(many), f32x4.splat(steps - 1));
  const part = f32x4.add(f32x4.mul(f32x4.sub(f32x4.sub(many, low), f32x4.splat(0.5)), f32x4.splat(over)), f32x4.splat(0.5));
  return f32x4.div(f32x4.add(low, eased(part)), f32x4.splat(steps));
}

/** A channel of which a tone 0..1 of something that darkens takes away so much where it is full. */
// @ts-ignore: decorator
@inline function dimmed(channel: v128, tone: v128, taken: v128): v128 {
  return f32x4.sub(channel, f32x4.mul(channel, f32x4.mul(tone, taken)));
}

/** A channel 0..1 as a whole number of 0..255, or beyond: added to 1.5 · 2^23, a number has no place for less than wholes. */
// @ts-ignore: decorator
@inline function whole(channel: v128): v128 {
  const many = f32x4.add(f32x4.mul(channel, f32x4.splat(255)), f32x4.splat(12582912));
  return i32x4.sub(many, i32x4.splat(0x4b400000));
}

/** Four texels of channels 0..1, each held to that. */
// @ts-ignore: decorator
@inline function texels(r: v128, g: v128, b: v128): v128 {
  const ends = i16x8.narrow_i32x4_s(whole(b), i32x4.splat(255));
  const planes = i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_s(whole(r), whole(g)), ends);
  return v128.shuffle<u8>(planes, planes, 0, 4, 8, 12, 1, 5, 9, 13, 2, 6, 10, 14, 3, 7, 11, 15);
}

/** Bytes of a plane in which cells are worked on at a time: a row of a tile, so that what is bare is passed over. */
const ROW: usize = 256;

/** How much jitter counts for cells; nothing where there is none. */
// @ts-ignore: decorator
@inline function shaken(jitter: usize, at: usize, by: v128): v128 {
  return jitter ? f32x4.mul(v128.load(jitter + at), by) : f32x4.splat(0);
}

/** Begins a row of light: what comes from below and above, and nothing that is lit. */
function skyOn(y: usize, jitter: usize, size: usize, rig: usize, steps: f32, over: f32, room: usize): void {
  const zero = f32x4.splat(0), half = f32x4.splat(0.5), shakes = splat(rig, 28);
  const r1 = splat(rig, 0), g1 = splat(rig, 1), b1 = splat(rig, 2), r0 = splat(rig, 3), g0 = splat(rig, 4), b0 = splat(rig, 5);
  for (let at: usize = 0; at < size; at += 16) {
    const tone = f32x4.add(f32x4.mul(f32x4.add(v128.load(y + at), shaken(jitter, at, shakes)), half), half);
    const up = stepped(held(tone), steps, over);
    v128.store(room + at, f32x4.add(r0, f32x4.mul(up, r1)));
    v128.store(room + ROW + at, f32x4.add(g0, f32x4.mul(up, g1)));
    v128.store(room + 2 * ROW + at, f32x4.add(b0, f32x4.mul(up, b1)));
    v128.store(room + 3 * ROW + at, zero);
  }
}

/** Adds a lamp to a row of light. Each sum waits for the one before: of many cells side by side they do not wait long. */
function lampOn(
  x: usize, y: usize, z: usize, jitter: usize, size: usize, rig: usize, lamp: usize, steps: f32, over: f32, room: usize,
): void {
  const shakes = splat(rig, 28), lx = splat(lamp, 0), ly = splat(lamp, 1), lz = splat(lamp, 2), soft = splat(lamp, 3);
  const r = splat(lamp, 4), g = splat(lamp, 5), b = splat(lamp, 6), share = splat(lamp, 7);
  for (let at: usize = 0; at < size; at += 16) {
    const level = f32x4.add(f32x4.mul(v128.load(x + at), lx), f32x4.mul(v128.load(y + at), ly));
    const plain = f32x4.add(f32x4.add(level, f32x4.mul(v128.load(z + at), lz)), f32x4.add(shaken(jitter, at, shakes), soft));
    const tone = stepped(held(plain), steps, over);
    v128.store(room + at, f32x4.add(v128.load(room + at), f32x4.mul(tone, r)));
    v128.store(room + ROW + at, f32x4.add(v128.load(room + ROW + at), f32x4.mul(tone, g)));
    v128.store(room + 2 * ROW + at, f32x4.add(v128.load(room + 2 * ROW + at), f32x4.mul(tone, b)));
    v128.store(room + 3 * ROW + at, f32x4.add(v128.load(room + 3 * ROW + at), f32x4.mul(tone, share)));
  }
}

/** The row of light as texels, with all that takes from it and adds to it. */
function texelsOf(
  cells: usize, rise: usize, occluded: usize, edge: usize, hollow: usize, jitter: usize, size: usize, rig: usize,
  room: usize, out: usize,
): void {
  const one = f32x4.splat(1), half = f32x4.splat(0.5), shakes = f32x4.mul(splat(rig, 28), half);
  for (let at: usize = 0; at < size; at += 16) {
    const shake = shaken(jitter, at, shakes);
    const dark = f32x4.sub(one, held(v128.load(room + 3 * ROW + at)));
    let r = dimmed(v128.load(room + at), dark, splat(rig, 6));
    let g = dimmed(v128.load(room + ROW + at), dark, splat(rig, 7));
    let b = dimmed(v128.load(room + 2 * ROW + at), dark, splat(rig, 8));
    if (occluded) {
      const tone = held(f32x4.sub(v128.load(occluded + at), shake));
      r = dimmed(r, tone, splat(rig, 10));
      g = dimmed(g, tone, splat(rig, 11));
      b = dimmed(b, tone, splat(rig, 12));
    }
    if (hollow) {
      const tone = held(v128.load(hollow + at));
      r = dimmed(r, tone, splat(rig, 18));
      g = dimmed(g, tone, splat(rig, 19));
      b = dimmed(b, tone, splat(rig, 20));
    }
    if (rise) {
      const tone = eased(f32x4.sub(v128.load(rise + at), shake));
      r = dimmed(r, tone, splat(rig, 22));
      g = dimmed(g, tone, splat(rig, 23));
      b = dimmed(b, tone, splat(rig, 24));
    }
    if (edge) {
      const tone = held(v128.load(edge + at));
      r = f32x4.add(r, f32x4.mul(tone, splat(rig, 14)));
      g = f32x4.add(g, f32x4.mul(tone, splat(rig, 15)));
      b = f32x4.add(b, f32x4.mul(tone, splat(rig, 16)));
    }
    let word = texels(r, g, b);
    if (cells) word = v128.and(word, i32x4.ge_s(v128.load(cells + at), i32x4.splat(0)));
    v128.store(out + at, word);
  }
}

/** Whether a row of cells has no face at all. */
function isBare(cells: usize, size: usize): bool {
  for (let at: usize = 0; at < size; at += 16) if (i32x4.bitmask(v128.load(cells + at)) != 15) return false;
  return true;
}

// @ts-ignore: decorator
@inline function further(plane: usize, at: usize): usize {
  return plane ? plane + at : 0;
}

/**
 * The colour of light on `count` cells, RGBA8, clear where there is no face (`cells` 0: all have one). `x`, `y` and `z`
 * are planes of unit normals; `rise`, `occluded`, `edge`, `hollow` and `jitter` planes of tones, or 0 where there are
 * none. `rig` holds numbers, colours as three of 0..1: what comes from below, and how much more comes from above (3, 0);
 * what is taken away where no lamp meets (6), where it is occluded (10), in hollows (18), where it rises (22); what edges
 * add (14); steps and one over their softness (26, 27); how much jitter counts (28); how many lamps (29); then from 36 on
 * eight a lamp: where it stands, less where its light goes round, and how much that adds; its colour times its strength,
 * and its share in what counts as lit. `room` is for 256 numbers.
 */
export function shadeCells(
  cells: usize, x: usize, y: usize, z: usize, rise: usize, occluded: usize, edge: usize, hollow: usize, jitter: usize,
  count: i32, rig: usize, room: usize, out: usize,
): void {
  const lamps = <i32>load<f32>(rig, 29 * 4), steps = load<f32>(rig, 26 * 4), over = load<f32>(rig, 27 * 4);
  const bytes = <usize>(count + 3 & ~3) * 4;
  for (let at: usize = 0; at < bytes; at += ROW) {
    const size = min(ROW, bytes - at);
    if (cells && isBare(cells + at, size)) {
      memory.fill(out + at, 0, size);
      continue;
    }
    const shakes = further(jitter, at);
    skyOn(y + at, shakes, size, rig, steps, over, room);
    for (let n = 0; n < lamps; n++)
      lampOn(x + at, y + at, z + at, shakes, size, rig, rig + RIG + <usize>n * LAMP, steps, over, room);
    texelsOf(
      further(cells, at), further(rise, at), further(occluded, at), further(edge, at), further(hollow, at), shakes, size,
      rig, room, out + at,
    );
  }
}

/** A texel that is level: see `leanNormals`. */
const LEVEL: u32 = 0x80008000;

/**
 * Leans unit normals on slopes: a word a cell, how a height changes across (low) and down (high), each 32768 more than
 * its steps of `step`, or 0 where nothing is kept. `rises` has six numbers a face, what the two are multiplied by; `cells` names the faces, below 0
 * where there is none (0: all are the first).
 */
export function leanNormals(
  cells: usize, x: usize, y: usize, z: usize, count: i32, slopes: usize, step: f32, rises: usize,
): void {
  for (let i = 0; i < count; i++) {
    const at = <usize>i << 2;
    const word = load<u32>(slopes + at);
    if (word == LEVEL || word == 0) continue;
    let face = 0;
    if (cells) {
      face = load<i32>(cells + at);
      if (face < 0) continue;
    }
    const r = rises + <usize>face * 24;
    const across = <f32>(<i32>(word & 0xffff) - 32768) * step, down = <f32>(<i32>(word >>> 16) - 32768) * step;
    const a = load<f32>(x + at) - across * load<f32>(r) - down * load<f32>(r, 12);
    const b = load<f32>(y + at) - across * load<f32>(r, 4) - down * load<f32>(r, 16);
    const c = load<f32>(z + at) - across * load<f32>(r, 8) - down * load<f32>(r, 20);
    const over: f32 = 1 / max<f32>(1e-12, sqrt<f32>(a * a + b * b + c * c));
    store<f32>(x + at, a * over);
    store<f32>(y + at, b * over);
    store<f32>(z + at, c * over);
  }
}

/** Bytes of a stroke: see `strokeNormals`. */
const STROKE: usize = 80;

/** A number of chance 0..1 for a bristle of a stroke. Source: T. Wang's 32-bit mix (2007). */
// @ts-ignore: decorator
@inline function chance(seed: u32): f32 {
  let h = seed;
  h = (h ^ 61) ^ (h >> 16);
  h *= 9;
  h ^= h >> 4;
  h *= 0x27d4eb2d;
  h ^= h >> 15;
  return <f32>(h >> 8) / <f32>16777216;
}

/**
 * The normals of `count` cells as strokes lay them: each stroke has one, and lies over those that come after it in its
 * box of the grid; between strokes they stay as they are. `jitter` gets what the strokes add to tones. A stroke is twenty
 * numbers: its middle, the way that it goes, the way across, the normal of the surface there, the normal that it lays,
 * its jitter, one over half its length and half its width, one over how soft its rim is, and its number (whole). The grid
 * has `side` boxes along each axis from `low`, `box` wide; `from` has side³ + 1 numbers, where the strokes of each box
 * begin in `list`.
 */
export function strokeNormals(
  cells: usize, px: usize, py: usize, pz: usize, nx: usize, ny: usize, nz: usize, count: i32,
  strokes: usize, from: usize, list: usize, low: f32, box: f32, side: i32, jitter: usize,
): void {
  const over: f32 = 1 / box;
  for (let i = 0; i < count; i++) {
    const at = <usize>i << 2;
    store<f32>(jitter + at, 0);
    if (cells && load<i32>(cells + at) < 0) continue;
    const x = load<f32>(px + at), y = load<f32>(py + at), z = load<f32>(pz + at);
    const gx = min<i32>(side - 1, max<i32>(0, <i32>((x - low) * over)));
    const gy = min<i32>(side - 1, max<i32>(0, <i32>((y - low) * over)));
    const gz = min<i32>(side - 1, max<i32>(0, <i32>((z - low) * over)));
    const n = from + ((<usize>((gz * side + gy) * side + gx)) << 2);
    const first = load<u32>(n), end = load<u32>(n, 4);
    const u0 = load<f32>(nx + at), u1 = load<f32>(ny + at), u2 = load<f32>(nz + at);
    let a0: f32 = 0, a1: f32 = 0, a2: f32 = 0, shake: f32 = 0, left: f32 = 1;
    for (let k = first; k < end; k++) {
      const stroke = strokes + <usize>load<u32>(list + (<usize>k << 2)) * STROKE;
      const dx = x - load<f32>(stroke), dy = y - load<f32>(stroke, 4), dz = z - load<f32>(stroke, 8);
      const long = (dx * load<f32>(stroke, 12) + dy * load<f32>(stroke, 16) + dz * load<f32>(stroke, 20)) * load<f32>(stroke, 64);
      if (abs<f32>(long) >= 1) continue;
      const wide = (dx * load<f32>(stroke, 24) + dy * load<f32>(stroke, 28) + dz * load<f32>(stroke, 32)) * load<f32>(stroke, 68);
      if (abs<f32>(wide) >= 1) continue;
      const s0 = load<f32>(stroke, 36), s1 = load<f32>(stroke, 40), s2 = load<f32>(stroke, 44);
      const off = (dx * s0 + dy * s1 + dz * s2) * load<f32>(stroke, 68);
      if (abs<f32>(off) >= 1.5 || u0 * s0 + u1 * s1 + u2 * s2 < 0.25) continue;
      // Each bristle ends a little earlier or later.
      const bristle = <u32>((wide + 1) * 5) + load<u32>(stroke, 76) * 16;
      const end = long > 0 ? chance(bristle) : chance(bristle ^ 0x9e3779b9);
      const q = max<f32>(0, abs<f32>(long) / (1 - 0.3 * end) - 0.55) * <f32>(1 / 0.45);
      const away = Mathf.sqrt(q * q + wide * wide);
      const cover = min<f32>(1, max<f32>(0, (1 - away) * load<f32>(stroke, 72)));
      if (cover <= 0) continue;
      const part = left * cover;
      a0 += part * load<f32>(stroke, 48);
      a1 += part * load<f32>(stroke, 52);
      a2 += part * load<f32>(stroke, 56);
      shake += part * load<f32>(stroke, 60);
      left -= part;
      if (left < 0.01) break;
    }
    a0 += left * u0;
    a1 += left * u1;
    a2 += left * u2;
    const length = Mathf.sqrt(a0 * a0 + a1 * a1 + a2 * a2);
    const per: f32 = length > 1e-6 ? 1 / length : 0;
    store<f32>(nx + at, a0 * per);
    store<f32>(ny + at, a1 * per);
    store<f32>(nz + at, a2 * per);
    store<f32>(jitter + at, shake);
  }
}

/** A field of tones 0..1 as 16 bits, rounded. */
export function deepTones(field: usize, count: i32, out: usize): void {
  for (let i = 0; i < count; i++, field += 4, out += 2)
    store<u16>(out, <u16>(min<f32>(1, max<f32>(0, load<f32>(field))) * 65535 + 0.5));
}

/** The same back: 16 bits as tones 0..1. */
export function toneDeeps(tones: usize, count: i32, out: usize): void {
  const by = f32x4.splat(<f32>(1.0 / 65535.0));
  for (let i = 0; i < count; i += 4, tones += 8, out += 16)
    v128.store(out, f32x4.mul(f32x4.convert_i32x4_u(v128.load16x4_u(tones)), by));
}
