// How sharply hard edges near cells of a surface turn.

/** Bytes of an edge: where it begins, how far it goes, radians (below 0 in a hollow), and the normals of its two faces. */
const EDGE: usize = 52;

/**
 * Adds to `out` and `into` how sharply the hardest edge within `width` of each cell turns, radians, fading to none at
 * `width`: what stands out, and hollows. A cell is on an edge's surface where its normal and its place agree with one of
 * the edge's faces to within `off`. The grid has `side` boxes along each axis from `x0`, `y0`, `z0`, `box` wide; `from`
 * has side³ + 1 numbers, where the edges of each box begin in `list`.
 */
export function bendCells(
  cells: usize, px: usize, py: usize, pz: usize, nx: usize, ny: usize, nz: usize, count: i32,
  edges: usize, from: usize, list: usize, x0: f32, y0: f32, z0: f32, box: f32, side: i32, width: f32, off: f32,
  out: usize, into: usize,
): void {
  const over: f32 = 1 / box, per: f32 = 1 / width;
  for (let i = 0; i < count; i++) {
    const at = <usize>i << 2;
    if (load<i32>(cells + at) < 0) continue;
    const x = load<f32>(px + at), y = load<f32>(py + at), z = load<f32>(pz + at);
    const gx = <i32>((x - x0) * over), gy = <i32>((y - y0) * over), gz = <i32>((z - z0) * over);
    if (gx < 0 || gy < 0 || gz < 0 || gx >= side || gy >= side || gz >= side) continue;
    const n = from + (<usize>((gz * side + gy) * side + gx) << 2);
    const first = load<u32>(n), end = load<u32>(n, 4);
    if (first == end) continue;
    const u = load<f32>(nx + at), v = load<f32>(ny + at), w = load<f32>(nz + at);
    let most: f32 = 0, least: f32 = 0;
    for (let k = first; k < end; k++) {
      const edge = edges + <usize>load<u32>(list + (<usize>k << 2)) * EDGE;
      const ax = x - load<f32>(edge), ay = y - load<f32>(edge, 4), az = z - load<f32>(edge, 8);
      const dx = load<f32>(edge, 12), dy = load<f32>(edge, 16), dz = load<f32>(edge, 20);
      const t = min<f32>(1, max<f32>(0, (ax * dx + ay * dy + az * dz) / max<f32>(dx * dx + dy * dy + dz * dz, 1e-12)));
      const ex = ax - t * dx, ey = ay - t * dy, ez = az - t * dz;
      const square = ex * ex + ey * ey + ez * ez;
      if (square >= width * width) continue;
      const fx = load<f32>(edge, 28), fy = load<f32>(edge, 32), fz = load<f32>(edge, 36);
      const gx = load<f32>(edge, 40), gy = load<f32>(edge, 44), gz = load<f32>(edge, 48);
      const one = u * fx + v * fy + w * fz > 0.5 && abs<f32>(ax * fx + ay * fy + az * fz) < off;
      if (!one && !(u * gx + v * gy + w * gz > 0.5 && abs<f32>(ax * gx + ay * gy + az * gz) < off)) continue;
      const bend = load<f32>(edge, 24) * (1 - Mathf.sqrt(square) * per);
      most = max<f32>(most, bend);
      least = min<f32>(least, bend);
    }
    store<f32>(out + at, load<f32>(out + at) + most);
    store<f32>(into + at, load<f32>(into + at) - least);
  }
}
