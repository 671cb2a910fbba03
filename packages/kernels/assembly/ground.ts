// Cells of a ground: where the surface lies under them, and runs of those that are wanted.

/**
 * Three coordinates of each cell, in planes of their own: from a table of nine floats a face (across, down, at the first
 * cell, for each coordinate). `cells` holds the number of each cell's face in the table, -1 where it has none: 0 there.
 * With `unit` they are made one long.
 */
export function placeCells(cells: usize, width: i32, height: i32, table: usize, unit: bool, x: usize, y: usize, z: usize): void {
  for (let row = 0; row < height; row++) {
    const r = f32x4.splat(<f32>row);
    for (let column = 0; column < width; ) {
      const at = <usize>(row * width + column) << 2;
      const face = load<i32>(cells + at);
      // Runs of one face go four at a time.
      let run = 1;
      while (run < 4 && column + run < width && load<i32>(cells + at + (run << 2)) == face) run++;
      let a = f32x4.splat(0), b = a, c = a;
      if (face >= 0) {
        const t = table + <usize>face * 36;
        const step = f32x4.add(f32x4.splat(<f32>column), f32x4(0, 1, 2, 3));
        a = coordinate(t, step, r);
        b = coordinate(t + 12, step, r);
        c = coordinate(t + 24, step, r);
        if (unit) {
          const square = f32x4.add(f32x4.add(f32x4.mul(a, a), f32x4.mul(b, b)), f32x4.mul(c, c));
          const over = f32x4.div(f32x4.splat(1), f32x4.sqrt(f32x4.pmax(square, f32x4.splat(1e-30))));
          a = f32x4.mul(a, over);
          b = f32x4.mul(b, over);
          c = f32x4.mul(c, over);
        }
      }
      if (run == 4) {
        v128.store(x + at, a);
        v128.store(y + at, b);
        v128.store(z + at, c);
      } else {
        putSome(x + at, a, run);
        putSome(y + at, b, run);
        putSome(z + at, c, run);
      }
      column += run;
    }
  }
}

// @ts-ignore: decorator
@inline function coordinate(t: usize, column: v128, row: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(v128.load32_splat(t), column), f32x4.mul(v128.load32_splat(t, 4), row)),
    v128.load32_splat(t, 8),
  );
}

// @ts-ignore: decorator
@inline function putSome(at: usize, v: v128, count: i32): void {
  store<f32>(at, f32x4.extract_lane(v, 0));
  if (count > 1) store<f32>(at, f32x4.extract_lane(v, 1), 4);
  if (count > 2) store<f32>(at, f32x4.extract_lane(v, 2), 8);
}

/** The numbers of the cells that have a face (any where `cells` is 0) and are above 0 in `only` (any where it is 0). Returns how many. */
export function wantedCells(cells: usize, only: usize, count: i32, index: usize): i32 {
  const start = index, none = i32x4.splat(0);
  for (let i = 0; i < count; i += 4) {
    const at = <usize>i << 2;
    let wanted = i32x4.splat(-1);
    if (cells) wanted = i32x4.ge_s(v128.load(cells + at), none);
    if (only) wanted = v128.and(wanted, f32x4.ne(v128.load(only + at), none));
    let bits = i32x4.bitmask(wanted);
    if (i + 4 > count) bits &= (1 << (count - i)) - 1;
    if (bits == 15) {
      v128.store(index, i32x4.add(i32x4.splat(i), i32x4(0, 1, 2, 3)));
      index += 16;
      continue;
    }
    for (; bits; bits &= bits - 1, index += 4) store<i32>(index, i + ctz(bits));
  }
  return <i32>((index - start) >> 2);
}

/** Values of a plane at numbered cells, one after the other; up to the next four the last again. */
export function takeCells(index: usize, count: i32, plane: usize, out: usize): void {
  let i = 0;
  for (; i < count; ) {
    const first = load<u32>(index), from = plane + (<usize>first << 2);
    // Runs lie together, here and there.
    if (i + 4 <= count && load<u32>(index, 12) == first + 3) {
      v128.store(out, v128.load(from));
      index += 16;
      out += 16;
      i += 4;
      continue;
    }
    store<f32>(out, load<f32>(from));
    index += 4;
    out += 4;
    i++;
  }
  for (; i & 3; i++, out += 4) store<f32>(out, load<f32>(out - 4));
}

/** Puts values back at their numbered cells. */
export function putCells(index: usize, count: i32, values: usize, plane: usize): void {
  for (let i = 0; i < count; ) {
    const first = load<u32>(index), to = plane + (<usize>first << 2);
    if (i + 4 <= count && load<u32>(index, 12) == first + 3) {
      v128.store(to, v128.load(values));
      index += 16;
      values += 16;
      i += 4;
      continue;
    }
    store<f32>(to, load<f32>(values));
    index += 4;
    values += 4;
    i++;
  }
}

/**
 * Three coordinates of `count` cells that show other places than their own, `x`, `y` in texels: as `placeCells` gives
 * them; `x0`, `y0` is the first cell's middle, `step` texels lie between cells.
 */
export function placeSome(
  cell: usize,
  x: usize,
  y: usize,
  count: i32,
  cells: usize,
  x0: f32,
  y0: f32,
  step: f32,
  table: usize,
  unit: bool,
  toX: usize,
  toY: usize,
  toZ: usize,
): void {
  const over: f32 = 1 / step;
  for (let i: usize = 0; i < <usize>count << 2; i += 4) {
    const at = <usize>load<u32>(cell + i) << 2;
    const t = table + <usize>load<i32>(cells + at) * 36;
    const column = (load<f32>(x + i) - x0) * over, row = (load<f32>(y + i) - y0) * over;
    let a = load<f32>(t) * column + load<f32>(t, 4) * row + load<f32>(t, 8);
    let b = load<f32>(t, 12) * column + load<f32>(t, 16) * row + load<f32>(t, 20);
    let c = load<f32>(t, 24) * column + load<f32>(t, 28) * row + load<f32>(t, 32);
    if (unit) {
      const long: f32 = 1 / sqrt<f32>(max<f32>(a * a + b * b + c * c, 1e-30));
      a *= long;
      b *= long;
      c *= long;
    }
    store<f32>(toX + at, a);
    store<f32>(toY + at, b);
    store<f32>(toZ + at, c);
  }
}

/**
 * Places along a surface from places and normals, `count` of each (rounded up to four): across, level as a hand moves,
 * and down, at right angles to it; the third tells surfaces apart that lie behind each other. On level ground across is
 * the x axis.
 */
export function alongSurface(
  x: usize,
  y: usize,
  z: usize,
  nx: usize,
  ny: usize,
  nz: usize,
  count: i32,
  u: usize,
  v: usize,
  w: usize,
): void {
  const bytes = <usize>(count + 3 & ~3) * 4;
  for (let at: usize = 0; at < bytes; at += 16) {
    const px = v128.load(x + at), py = v128.load(y + at), pz = v128.load(z + at);
    const mx = v128.load(nx + at), my = v128.load(ny + at), mz = v128.load(nz + at);
    const long = f32x4.sqrt(f32x4.add(f32x4.mul(mx, mx), f32x4.mul(mz, mz)));
    const level = f32x4.lt(long, f32x4.splat(0.05));
    const over = f32x4.div(f32x4.splat(1), f32x4.pmax(long, f32x4.splat(1e-6)));
    const ax = f32x4.mul(mz, over), az = f32x4.neg(f32x4.mul(mx, over));
    const across = f32x4.add(f32x4.mul(ax, px), f32x4.mul(az, pz));
    const rise = f32x4.sub(f32x4.mul(mz, ax), f32x4.mul(mx, az));
    const down = f32x4.sub(
      f32x4.sub(f32x4.mul(f32x4.mul(my, ax), pz), f32x4.mul(f32x4.mul(my, az), px)),
      f32x4.mul(rise, py),
    );
    const away = f32x4.add(f32x4.add(f32x4.mul(mx, px), f32x4.mul(my, py)), f32x4.mul(mz, pz));
    v128.store(u + at, v128.bitselect(px, across, level));
    v128.store(v + at, v128.bitselect(f32x4.neg(pz), down, level));
    v128.store(w + at, away);
  }
}

/** A plane's values as tones 0..1, times `by` and `add` more; 0 where there is no face. */
export function rampCells(cells: usize, plane: usize, count: i32, by: f32, add: f32, out: usize): void {
  const bytes = <usize>(count + 3 & ~3) * 4;
  for (let at: usize = 0; at < bytes; at += 16) {
    const v = f32x4.add(f32x4.mul(v128.load(plane + at), f32x4.splat(by)), f32x4.splat(add));
    const held = f32x4.pmin(f32x4.pmax(v, f32x4.splat(0)), f32x4.splat(1));
    v128.store(out + at, v128.and(held, i32x4.ge_s(v128.load(cells + at), i32x4.splat(0))));
  }
}

/**
 * The square of each cell's distance to the nearest of `count` edges of its own island, in texels, where that is less
 * than what stands in `out`; only within `reach` of an edge. An edge is five numbers: where it begins, how far it goes,
 * and its island (whole). `islands` has the island of each face number in `cells`; `x0`, `y0` is the first cell's middle,
 * `step` texels lie between cells.
 */
export function edgeSquares(
  cells: usize,
  width: i32,
  height: i32,
  islands: usize,
  x0: f32,
  y0: f32,
  step: f32,
  edges: usize,
  count: i32,
  reach: f32,
  out: usize,
): void {
  for (let n = 0; n < count; n++, edges += 20) {
    const ax = load<f32>(edges), ay = load<f32>(edges, 4), dx = load<f32>(edges, 8), dy = load<f32>(edges, 12);
    const island = i32x4.splat(load<i32>(edges, 16));
    const over: f32 = 1 / max<f32>(dx * dx + dy * dy, 1e-9);
    const left = max(0, <i32>floor((min(ax, ax + dx) - reach - x0) / step));
    const right = min(width - 1, <i32>ceil((max(ax, ax + dx) + reach - x0) / step));
    const top = max(0, <i32>floor((min(ay, ay + dy) - reach - y0) / step));
    const bottom = min(height - 1, <i32>ceil((max(ay, ay + dy) + reach - y0) / step));
    for (let row = top; row <= bottom; row++) {
      const py = f32x4.splat(y0 + <f32>row * step - ay);
      for (let column = left; column <= right; column += 4) {
        const at = <usize>(row * width + column) << 2;
        const px = f32x4.add(
          f32x4.splat(x0 + <f32>column * step - ax),
          f32x4.mul(f32x4(0, 1, 2, 3), f32x4.splat(step)),
        );
        const along = f32x4.add(f32x4.mul(px, f32x4.splat(dx)), f32x4.mul(py, f32x4.splat(dy)));
        const t = f32x4.pmin(f32x4.pmax(f32x4.mul(along, f32x4.splat(over)), f32x4.splat(0)), f32x4.splat(1));
        const qx = f32x4.sub(px, f32x4.mul(t, f32x4.splat(dx))), qy = f32x4.sub(py, f32x4.mul(t, f32x4.splat(dy)));
        const square = f32x4.add(f32x4.mul(qx, qx), f32x4.mul(qy, qy));
        const before = v128.load(out + at);
        let nearer = f32x4.lt(square, before);
        if (column + 3 > right) nearer = v128.and(nearer, i32x4.le_s(i32x4(0, 1, 2, 3), i32x4.splat(right - column)));
        if (!v128.any_true(nearer)) continue;
        // Past what is wanted there may be anything.
        const face = v128.bitselect(v128.load(cells + at), i32x4.splat(-1), nearer);
        const own = i32x4(
          islandOf(islands, i32x4.extract_lane(face, 0)),
          islandOf(islands, i32x4.extract_lane(face, 1)),
          islandOf(islands, i32x4.extract_lane(face, 2)),
          islandOf(islands, i32x4.extract_lane(face, 3)),
        );
        nearer = v128.and(nearer, i32x4.eq(own, island));
        v128.store(out + at, v128.bitselect(square, before, nearer));
      }
    }
  }
}

// @ts-ignore: decorator
@inline function islandOf(islands: usize, face: i32): i32 {
  return face < 0 ? -1 : load<i32>(islands + (<usize>face << 2));
}

/** Squares of distances as a band: 1 up to `inner`, falling softly to 0 at `end`, and 0 beyond `reach`; in place. */
export function bandField(field: usize, count: i32, inner: f32, end: f32, reach: f32): void {
  const bytes = <usize>(count + 3 & ~3) * 4;
  const over = f32x4.splat(1 / (end - inner)), most = f32x4.splat(reach * reach);
  for (let at: usize = 0; at < bytes; at += 16) {
    const square = v128.load(field + at);
    const within = f32x4.le(square, most);
    const t = f32x4.mul(f32x4.sub(f32x4.sqrt(f32x4.pmin(square, most)), f32x4.splat(inner)), over);
    const u = f32x4.pmin(f32x4.pmax(t, f32x4.splat(0)), f32x4.splat(1));
    const fall = f32x4.mul(f32x4.mul(u, u), f32x4.sub(f32x4.splat(3), f32x4.add(u, u)));
    v128.store(field + at, v128.and(f32x4.sub(f32x4.splat(1), fall), within));
  }
}
