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
  const start = index;
  for (let i = 0; i < count; i++) {
    if (cells && load<i32>(cells + (<usize>i << 2)) < 0) continue;
    if (only && load<f32>(only + (<usize>i << 2)) == 0) continue;
    store<i32>(index, i);
    index += 4;
  }
  return <i32>((index - start) >> 2);
}

/** Values of a plane at numbered cells, one after the other; up to the next four the last again. */
export function takeCells(index: usize, count: i32, plane: usize, out: usize): void {
  for (let i = 0; i < count; i++, index += 4, out += 4) store<f32>(out, load<f32>(plane + (<usize>load<u32>(index) << 2)));
  for (let i = count; i & 3; i++, out += 4) store<f32>(out, load<f32>(out - 4));
}

/** Puts values back at their numbered cells. */
export function putCells(index: usize, count: i32, values: usize, plane: usize): void {
  for (let i = 0; i < count; i++, index += 4, values += 4) store<f32>(plane + (<usize>load<u32>(index) << 2), load<f32>(values));
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
