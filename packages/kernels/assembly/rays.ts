// Rays against triangles: a tree of boxes with four children a node and four triangles a leaf, so that one ray is held
// against four of either at once. Source: I. Wald et al., "Getting rid of packets: efficient SIMD single-ray traversal
// using multi-branching BVHs" (2008); T. Möller, B. Trumbore, "Fast, minimum storage ray/triangle intersection" (1997).

/** Bytes of a node: least x, most x, least y … of its four children, then what each is. */
const NODE: usize = 112;
/** Bytes of a leaf: first corners and both sides of four triangles, x, y and z apart. */
const LEAF: usize = 144;
/** Shares of a triangle's sides that it is larger by. */
const EDGE: f32 = 4e-6;
/** What a node has in the place of a child that is not there. */
const NONE: i32 = 0x7fffffff;

/** Which triangle the last ray met that met any: its leaf times four, and its place in it. */
let met: i32 = -1;

/**
 * How far along a ray the nearest triangle is, up to `far`; `far` where none is. With `any` the first that is found is
 * enough. `stack` is room for 128 entries of 8 bytes.
 */
function trace(
  nodes: usize, leaves: usize, stack: usize,
  ox: f32, oy: f32, oz: f32, dx: f32, dy: f32, dz: f32, far: f32, any: bool,
): f32 {
  const huge: f32 = 1e30;
  const ix = dx != 0 ? <f32>1 / dx : huge, iy = dy != 0 ? <f32>1 / dy : huge, iz = dz != 0 ? <f32>1 / dz : huge;
  const vox = f32x4.splat(ox), voy = f32x4.splat(oy), voz = f32x4.splat(oz);
  const vix = f32x4.splat(ix), viy = f32x4.splat(iy), viz = f32x4.splat(iz);
  const vdx = f32x4.splat(dx), vdy = f32x4.splat(dy), vdz = f32x4.splat(dz);
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  let best = far;
  let top = stack;
  store<i32>(top, 0);
  store<f32>(top, 0, 4);
  top += 8;
  while (top > stack) {
    top -= 8;
    if (load<f32>(top, 4) >= best) continue;
    const at = load<i32>(top);
    if (at < 0) {
      const leaf = leaves + <usize>(~at) * LEAF;
      const e1x = v128.load(leaf, 48), e1y = v128.load(leaf, 64), e1z = v128.load(leaf, 80);
      const e2x = v128.load(leaf, 96), e2y = v128.load(leaf, 112), e2z = v128.load(leaf, 128);
      const px = f32x4.sub(f32x4.mul(vdy, e2z), f32x4.mul(vdz, e2y));
      const py = f32x4.sub(f32x4.mul(vdz, e2x), f32x4.mul(vdx, e2z));
      const pz = f32x4.sub(f32x4.mul(vdx, e2y), f32x4.mul(vdy, e2x));
      const det = f32x4.add(f32x4.add(f32x4.mul(e1x, px), f32x4.mul(e1y, py)), f32x4.mul(e1z, pz));
      const inv = f32x4.div(one, det);
      const sx = f32x4.sub(vox, v128.load(leaf)), sy = f32x4.sub(voy, v128.load(leaf, 16)), sz = f32x4.sub(voz, v128.load(leaf, 32));
      const u = f32x4.mul(f32x4.add(f32x4.add(f32x4.mul(sx, px), f32x4.mul(sy, py)), f32x4.mul(sz, pz)), inv);
      const qx = f32x4.sub(f32x4.mul(sy, e1z), f32x4.mul(sz, e1y));
      const qy = f32x4.sub(f32x4.mul(sz, e1x), f32x4.mul(sx, e1z));
      const qz = f32x4.sub(f32x4.mul(sx, e1y), f32x4.mul(sy, e1x));
      const v = f32x4.mul(f32x4.add(f32x4.add(f32x4.mul(vdx, qx), f32x4.mul(vdy, qy)), f32x4.mul(vdz, qz)), inv);
      const t = f32x4.mul(f32x4.add(f32x4.add(f32x4.mul(e2x, qx), f32x4.mul(e2y, qy)), f32x4.mul(e2z, qz)), inv);
      // A triangle without area has no determinant: what follows from it is no number, and nothing holds for that.
      // Triangles are a hair larger than they are: a ray along an edge does not slip between two of them.
      const least = f32x4.splat(-EDGE), most = f32x4.splat(1 + EDGE);
      let hit = v128.and(f32x4.ge(u, least), f32x4.ge(v, least));
      hit = v128.and(hit, f32x4.le(f32x4.add(u, v), most));
      hit = v128.and(hit, v128.and(f32x4.gt(t, zero), f32x4.lt(t, f32x4.splat(best))));
      if (!v128.any_true(hit)) continue;
      const found = v128.bitselect(t, f32x4.splat(best), hit);
      const first = ~at << 2;
      const t0 = f32x4.extract_lane(found, 0), t1 = f32x4.extract_lane(found, 1);
      const t2 = f32x4.extract_lane(found, 2), t3 = f32x4.extract_lane(found, 3);
      if (t0 < best) { best = t0; met = first; }
      if (t1 < best) { best = t1; met = first + 1; }
      if (t2 < best) { best = t2; met = first + 2; }
      if (t3 < best) { best = t3; met = first + 3; }
      if (any) return best;
      continue;
    }
    const node = nodes + <usize>at * NODE;
    const x0 = f32x4.mul(f32x4.sub(v128.load(node), vox), vix), x1 = f32x4.mul(f32x4.sub(v128.load(node, 16), vox), vix);
    const y0 = f32x4.mul(f32x4.sub(v128.load(node, 32), voy), viy), y1 = f32x4.mul(f32x4.sub(v128.load(node, 48), voy), viy);
    const z0 = f32x4.mul(f32x4.sub(v128.load(node, 64), voz), viz), z1 = f32x4.mul(f32x4.sub(v128.load(node, 80), voz), viz);
    const near = f32x4.max(f32x4.max(f32x4.min(x0, x1), f32x4.min(y0, y1)), f32x4.max(f32x4.min(z0, z1), zero));
    const end = f32x4.min(f32x4.min(f32x4.max(x0, x1), f32x4.max(y0, y1)), f32x4.min(f32x4.max(z0, z1), f32x4.splat(best)));
    const meets = i32x4.bitmask(f32x4.le(near, end));
    if (!meets) continue;
    if (meets & 1) {
      const child = load<i32>(node, 96);
      if (child != NONE) {
        store<i32>(top, child);
        store<f32>(top, f32x4.extract_lane(near, 0), 4);
        top += 8;
      }
    }
    if (meets & 2) {
      const child = load<i32>(node, 100);
      if (child != NONE) {
        store<i32>(top, child);
        store<f32>(top, f32x4.extract_lane(near, 1), 4);
        top += 8;
      }
    }
    if (meets & 4) {
      const child = load<i32>(node, 104);
      if (child != NONE) {
        store<i32>(top, child);
        store<f32>(top, f32x4.extract_lane(near, 2), 4);
        top += 8;
      }
    }
    if (meets & 8) {
      const child = load<i32>(node, 108);
      if (child != NONE) {
        store<i32>(top, child);
        store<f32>(top, f32x4.extract_lane(near, 3), 4);
        top += 8;
      }
    }
  }
  return best;
}

/** Numbers that tell of a place, and their bytes. */
const PLACE: usize = 48;

/**
 * How much of what a place could see is hidden by the model, 0..1, of `count` places: twelve numbers each, where it is,
 * the unit normal that it is shaded by, the cosine and sine of a turn of the directions about it, the unit normal of its
 * face, and one more. `ways` are `rays` directions about an upright normal, three numbers each; those that run into the
 * face itself are left out. A triangle counts for the less the farther it is where `fades`, up to `reach`. `lift` is how
 * far off the surface rays begin.
 */
export function occlusion(
  nodes: usize, leaves: usize, stack: usize, places: usize, count: i32,
  ways: usize, rays: i32, reach: f32, fades: bool, lift: f32, out: usize,
): void {
  for (let i = 0; i < count; i++, places += PLACE, out += 4) {
    const nx = load<f32>(places, 12), ny = load<f32>(places, 16), nz = load<f32>(places, 20);
    const cos = load<f32>(places, 24), sin = load<f32>(places, 28);
    const gx = load<f32>(places, 32), gy = load<f32>(places, 36), gz = load<f32>(places, 40);
    // A frame about the normal: T. Duff et al., "Building an orthonormal basis, revisited" (2017).
    const sign: f32 = nz >= 0 ? 1 : -1;
    const a: f32 = -1 / (sign + nz), b: f32 = nx * ny * a;
    const tx: f32 = sign * nx * nx * a + 1, ty = sign * b, tz = -sign * nx;
    const bx = b, by = sign + ny * ny * a, bz = -ny;
    const ox = load<f32>(places) + gx * lift, oy = load<f32>(places, 4) + gy * lift, oz = load<f32>(places, 8) + gz * lift;
    let sum: f32 = 0, used: f32 = 0;
    for (let r = 0, way = ways; r < rays; r++, way += 12) {
      const wx = load<f32>(way), wy = load<f32>(way, 4), wz = load<f32>(way, 8);
      const u = wx * cos - wy * sin, v = wx * sin + wy * cos;
      const dx = tx * u + bx * v + nx * wz, dy = ty * u + by * v + ny * wz, dz = tz * u + bz * v + nz * wz;
      if (dx * gx + dy * gy + dz * gz <= 0) continue;
      used += 1;
      const t = trace(nodes, leaves, stack, ox, oy, oz, dx, dy, dz, reach, !fades);
      if (t < reach) sum += fades ? (reach - t) / reach : <f32>1;
    }
    store<f32>(out, used > 0 ? sum / used : <f32>0);
  }
}

/** How far the nearest triangle is along each of `count` rays of six numbers, up to `far`. */
export function rayLengths(
  nodes: usize, leaves: usize, stack: usize, rays: usize, count: i32, far: f32, out: usize,
): void {
  for (let i = 0; i < count; i++, rays += 24, out += 4)
    store<f32>(out, trace(
      nodes, leaves, stack, load<f32>(rays), load<f32>(rays, 4), load<f32>(rays, 8),
      load<f32>(rays, 12), load<f32>(rays, 16), load<f32>(rays, 20), far, false,
    ));
}

/** The same, and which triangle each meets in `faces`: its leaf times four and its place in it; -1 where it meets none. */
export function rayMeets(
  nodes: usize, leaves: usize, stack: usize, rays: usize, count: i32, far: f32, out: usize, faces: usize,
): void {
  for (let i = 0; i < count; i++, rays += 24, out += 4, faces += 4) {
    met = -1;
    store<f32>(out, trace(
      nodes, leaves, stack, load<f32>(rays), load<f32>(rays, 4), load<f32>(rays, 8),
      load<f32>(rays, 12), load<f32>(rays, 16), load<f32>(rays, 20), far, false,
    ));
    store<i32>(faces, met);
  }
}
