// Names for bytes by what they hold.

const P1: u64 = 0x9e3779b185ebca87;
const P2: u64 = 0xc2b2ae3d27d4eb4f;
const P3: u64 = 0x165667b19e3779f9;
const P4: u64 = 0x85ebca77c2b2ae63;

// @ts-ignore: decorator
@inline function round(acc: u64, lane: u64): u64 {
  return rotl<u64>(acc + lane * P2, 31) * P1;
}

// @ts-ignore: decorator
@inline function merged(h: u64, acc: u64): u64 {
  return (h ^ round(0, acc)) * P1 + P4;
}

/**
 * Writes eight bytes that stand for `bytes` bytes, a multiple of 32 and at least one of them, and a seed. Source: Y. Collet,
 * XXH64 (xxHash specification 0.1.1), whose results these are.
 */
export function hashBytes(at: usize, bytes: i32, seed: u32, out: usize): void {
  const s = <u64>seed;
  let a: u64 = s + P1 + P2, b: u64 = s + P2, c: u64 = s, d: u64 = s - P1;
  for (let end = at + <usize>bytes; at < end; at += 32) {
    a = round(a, load<u64>(at));
    b = round(b, load<u64>(at, 8));
    c = round(c, load<u64>(at, 16));
    d = round(d, load<u64>(at, 24));
  }
  let h = rotl<u64>(a, 1) + rotl<u64>(b, 7) + rotl<u64>(c, 12) + rotl<u64>(d, 18);
  h = merged(merged(merged(merged(h, a), b), c), d) + <u64>bytes;
  h = (h ^ h >> 33) * P2;
  h = (h ^ h >> 29) * P3;
  store<u64>(out, h ^ h >> 32);
}
