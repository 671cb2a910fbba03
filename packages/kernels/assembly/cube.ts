// Cubes of colours: nodes of four floats, red fastest, first as OKLab, then as encoded sRGB 0..255.
// Source: B. Ottosson, "A perceptual color space" (2020).

const NODE: usize = 16;
/** Linear light that still counts as within sRGB: a thousandth beyond it, encoded. */
const LEAST: f64 = -0.001 / 12.92;
const MOST: f64 = 1.00228;
/** Halvings of the chroma of a colour that left sRGB. */
const HALVINGS: i32 = 7;

/** Puts the OKLab of every node of a cube of `side`³ nodes to `out`; `light` is the linear light of its steps, as doubles. */
export function cubeLabs(side: i32, light: usize, out: usize): void {
  for (let z = 0; z < side; z++) {
    const b = load<f64>(light + (<usize>z << 3));
    for (let y = 0; y < side; y++) {
      const g = load<f64>(light + (<usize>y << 3));
      for (let x = 0; x < side; x++, out += NODE) {
        const r = load<f64>(light + (<usize>x << 3));
        const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
        const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
        const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
        store<f32>(out, <f32>(0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s));
        store<f32>(out, <f32>(1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s), 4);
        store<f32>(out, <f32>(0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s), 8);
      }
    }
  }
}

let red: f64 = 0, green: f64 = 0, blue: f64 = 0;

/** Linear light of an OKLab colour; whether it lies within sRGB. */
// @ts-ignore: decorator
@inline function within(L: f64, a: f64, b: f64): bool {
  const lRoot = L + 0.3963377774 * a + 0.2158037573 * b;
  const mRoot = L - 0.1055613458 * a - 0.0638541728 * b;
  const sRoot = L - 0.0894841775 * a - 1.291485548 * b;
  const l = lRoot * lRoot * lRoot, m = mRoot * mRoot * mRoot, s = sRoot * sRoot * sRoot;
  red = 4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s;
  green = -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s;
  blue = -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s;
  return red >= LEAST && red <= MOST && green >= LEAST && green <= MOST && blue >= LEAST && blue <= MOST;
}

/** 0..255 of linear light, by a table of `steps` + 2 doubles over its root: even steps of the root do for the darks too. */
// @ts-ignore: decorator
@inline function encoded(v: f64, table: usize, steps: i32): f32 {
  if (v <= 0) return 0;
  if (v >= 1) return 255;
  const at = Math.sqrt(v) * <f64>steps;
  const whole = <i32>at;
  const before = load<f64>(table + (<usize>whole << 3));
  return <f32>(before + (load<f64>(table + (<usize>whole << 3), 8) - before) * (at - <f64>whole));
}

/**
 * Makes `count` nodes of OKLab into encoded sRGB, where they lie. What leaves sRGB loses chroma, keeping lightness and
 * hue, until it fits.
 */
export function fitCube(nodes: usize, count: i32, table: usize, steps: i32): void {
  for (let i = 0; i < count; i++, nodes += NODE) {
    const L = <f64>load<f32>(nodes), a = <f64>load<f32>(nodes, 4), b = <f64>load<f32>(nodes, 8);
    if (!within(L, a, b)) {
      let low: f64 = 0, high: f64 = 1;
      for (let k = 0; k < HALVINGS; k++) {
        const half = (low + high) / 2;
        if (within(L, a * half, b * half)) low = half;
        else high = half;
      }
      within(L, a * low, b * low);
    }
    store<f32>(nodes, encoded(red, table, steps));
    store<f32>(nodes, encoded(green, table, steps), 4);
    store<f32>(nodes, encoded(blue, table, steps), 8);
  }
}
