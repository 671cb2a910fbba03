/** Kernels that lay and filter, each against its plain twin. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import { oklabOfSrgb, type ToneTool, toneChanged } from '../src/color/index.ts';
import { cubeMade } from './oracle/cube.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

/** The largest of errors that are counted one by one: an expectation for each texel would take seconds. */
class Worst {
	value = 0;
	add(error: number): void {
		if (!(error <= this.value)) this.value = error;
	}
}

const TEXELS = 4096;
const put = (bytes: ArrayLike<number> & { readonly length: number }): number => {
	const at = kernels.heap.alloc(bytes.length);
	kernels.heap.u8.set(bytes, at);
	return at;
};
const bytesOf = (at: number, length: number): Uint8Array => kernels.heap.u8.slice(at, at + length);
/** RGBA8 with clear, opaque and half clear texels. */
const picture = (seed: number): Uint8Array => {
	const random = seeded(seed);
	return Uint8Array.from({ length: TEXELS * 4 }, (_, i) => {
		const v = random();
		return i % 4 < 3 ? v * 256 : v < 0.25 ? 0 : v < 0.5 ? 255 : v * 256;
	});
};
/** Coverage with plenty of none and full. */
const cover = (seed: number): Uint16Array => {
	const random = seeded(seed);
	return Uint16Array.from({ length: TEXELS }, () => {
		const v = random();
		return v < 0.2 ? 0 : v > 0.8 ? 65535 : v * 65536;
	});
};
const raw = (list: Uint16Array | Float32Array): Uint8Array => new Uint8Array(list.buffer);

test('a gate weighs coverage: none stays none, all stays all', () => {
	const [cov, random] = [cover(1), seeded(2)];
	const gate = Uint8Array.from({ length: TEXELS }, (_, i) => (i % 5 === 0 ? 255 : i % 7 === 0 ? 0 : random() * 256));
	const out = kernels.heap.alloc(TEXELS * 2);
	const worst = new Worst();
	kernels.run.gateCoverage(put(raw(cov)), put(gate), out);
	new Uint16Array(bytesOf(out, TEXELS * 2).buffer).forEach((v, i) => {
		const want = ((cov[i] as number) * (gate[i] as number)) / 255;
		const exact = gate[i] === 255 || gate[i] === 0;
		worst.add(Math.abs(v - want) * (exact ? 1000 : 1));
	});
	expect(worst.value).toBeLessThanOrEqual(1);
});

test('coverage through a curve is the curve between its knots', () => {
	const curve = Uint16Array.from({ length: 1025 }, (_, i) => 65535 * Math.abs(Math.sin(i / 90)));
	const cov = cover(3);
	const out = kernels.heap.alloc(TEXELS * 2);
	const worst = new Worst();
	kernels.run.curveCoverage(put(raw(cov)), put(raw(curve)), out);
	new Uint16Array(bytesOf(out, TEXELS * 2).buffer).forEach((v, i) => {
		const c = cov[i] as number;
		const [a, b] = [curve[c >> 6] as number, curve[(c >> 6) + 1] as number];
		worst.add(Math.abs(v - (c === 0 ? 0 : a + ((b - a) * (c & 63)) / 64)));
	});
	expect(worst.value).toBeLessThanOrEqual(1);
});

test('ink lays each texel’s own colour, its alpha weighing the coverage', () => {
	const [before, ink, cov] = [picture(4), picture(5), cover(6)];
	for (const lock of [0, 1] as const) {
		const out = kernels.heap.alloc(TEXELS * 4);
		const worst = new Worst();
		kernels.run.layInk(put(before), 32, put(raw(cov)), put(ink), out, lock);
		bytesOf(out, TEXELS * 4).forEach((v, i) => {
			const t = i - (i % 4);
			const s = ((cov[t / 4] as number) / 65535) * ((ink[t + 3] as number) / 255);
			const a = (before[t + 3] as number) / 255;
			const after = s + a * (1 - s);
			const share = lock ? s : after > 0 ? s / after : 0;
			const want =
				i % 4 === 3
					? lock
						? (before[i] as number)
						: after * 255
					: (before[i] as number) + ((ink[i] as number) - (before[i] as number)) * share;
			// Under no coverage at all every byte stays, also those under clear alpha.
			worst.add(Math.abs(v - (cov[t / 4] === 0 ? (before[i] as number) : want)));
		});
		expect(worst.value).toBeLessThanOrEqual(0.51);
	}
});

test('mixing moves colour and alpha towards a target, premultiplied on the way', () => {
	const [before, target, cov] = [picture(7), picture(8), cover(9)];
	const out = kernels.heap.alloc(TEXELS * 4);
	const worst = new Worst();
	kernels.run.mixColor(put(before), 32, put(raw(cov)), put(target), out, 0);
	bytesOf(out, TEXELS * 4).forEach((v, i) => {
		const t = i - (i % 4);
		const w = (cov[t / 4] as number) / 65535;
		const [a, b] = [before[t + 3] as number, target[t + 3] as number];
		const alpha = a + (b - a) * w;
		if (i % 4 === 3) worst.add(Math.abs(v - alpha));
		else if (alpha > 0) {
			const want = ((before[i] as number) * a * (1 - w) + (target[i] as number) * b * w) / alpha;
			worst.add(Math.abs(v - want));
		}
	});
	expect(worst.value).toBeLessThanOrEqual(0.51);
});

test('colours go through a cube linearly between its nodes; alpha stays', () => {
	const random = seeded(10);
	const cube = Float32Array.from({ length: 33 * 33 * 33 * 4 }, () => random() * 255);
	const src = picture(11);
	const out = kernels.heap.alloc(TEXELS * 4);
	const worst = new Worst();
	kernels.run.mapColors(put(src), put(raw(cube)), out, TEXELS);
	const node = (x: number, y: number, z: number, k: number): number => cube[((z * 33 + y) * 33 + x) * 4 + k] as number;
	const got = bytesOf(out, TEXELS * 4);
	for (let i = 0; i < TEXELS; i++) {
		const place = [0, 1, 2].map((k) => ((src[i * 4 + k] as number) / 255) * 32);
		const low = place.map((v) => Math.min(31, Math.floor(v))) as [number, number, number];
		const share = place.map((v, k) => v - (low[k] as number)) as [number, number, number];
		for (let k = 0; k < 3; k++) {
			let want = 0;
			for (let c = 0; c < 8; c++) {
				const bit = [c & 1, (c >> 1) & 1, c >> 2] as [number, number, number];
				const w = bit.reduce((all, on, d) => all * (on ? (share[d] as number) : 1 - (share[d] as number)), 1);
				want += w * node(low[0] + bit[0], low[1] + bit[1], low[2] + bit[2], k);
			}
			worst.add(Math.abs((got[i * 4 + k] as number) - want));
		}
		worst.add(Math.abs((got[i * 4 + 3] as number) - (src[i * 4 + 3] as number)));
	}
	expect(worst.value).toBeLessThanOrEqual(0.52);
});

test.each(['lighten', 'darken', 'contrast', 'saturate', 'hue'] as const)(
	'the cube of %s keeps what the tool leaves alone',
	(tool: ToneTool) => {
		const cube = cubeMade(kernels, toneChanged(tool, 0.5));
		const lab = (r: number, g: number, b: number) => oklabOfSrgb(r / 255, g / 255, b / 255);
		let [moved, checked] = [0, 0];
		for (let i = 0; i < 33 ** 3; i += 97) {
			const from = [i % 33, Math.floor(i / 33) % 33, Math.floor(i / 1089)].map((v) => (v / 32) * 255) as [
				number,
				number,
				number,
			];
			const to = [...cube.subarray(i * 4, i * 4 + 3)] as [number, number, number];
			const [a, b] = [lab(...from), lab(...to)];
			const chroma = (v: readonly number[]): number => Math.hypot(v[1] as number, v[2] as number);
			moved += Math.abs(b[0] - a[0]) + Math.abs(chroma(b) - chroma(a)) + Math.abs(b[1] - a[1]);
			// Within sRGB the tools that are for tone keep the hue, those for colour keep the lightness.
			if (chroma(a) < 0.03 || chroma(b) < 0.03) continue;
			checked++;
			const turn = Math.abs(Math.atan2(b[2], b[1]) - Math.atan2(a[2], a[1]));
			if (tool !== 'hue') expect(Math.min(turn, 2 * Math.PI - turn)).toBeLessThan(0.05);
			if (tool === 'saturate' || tool === 'hue') expect(Math.abs(b[0] - a[0])).toBeLessThan(0.012);
			if (tool === 'lighten') expect(b[0]).toBeGreaterThanOrEqual(a[0] - 0.002);
			if (tool === 'darken') expect(b[0]).toBeLessThanOrEqual(a[0] + 0.002);
		}
		expect(checked).toBeGreaterThan(150);
		expect(moved).toBeGreaterThan(1);
	},
);

test('a blur is the weighted mean of its neighbours, premultiplied', () => {
	const radius = 3;
	const side = 64 + 2 * radius;
	const random = seeded(12);
	const region = Float32Array.from({ length: side * side * 4 }, () => 0);
	for (let i = 0; i < side * side; i++) {
		const a = random() < 0.3 ? 0 : random() * 255;
		for (let k = 0; k < 3; k++) region[i * 4 + k] = (random() * 255 * a) / 255;
		region[i * 4 + 3] = a;
	}
	const weights = Float32Array.from([0.05, 0.1, 0.2, 0.3, 0.2, 0.1, 0.05]);
	const out = kernels.heap.alloc(TEXELS * 4);
	kernels.run.blurRegion(put(raw(region)), radius, put(raw(weights)), kernels.heap.alloc(side * 64 * 16), out);
	const got = bytesOf(out, TEXELS * 4);
	for (let i = 0; i < TEXELS; i += 13) {
		const [x, y] = [i % 64, Math.floor(i / 64)];
		const sum = [0, 0, 0, 0];
		for (let dy = 0; dy < 7; dy++)
			for (let dx = 0; dx < 7; dx++)
				for (let k = 0; k < 4; k++)
					sum[k] =
						(sum[k] as number) +
						(weights[dx] as number) * (weights[dy] as number) * (region[((y + dy) * side + x + dx) * 4 + k] as number);
		const a = sum[3] as number;
		for (let k = 0; k < 4; k++)
			expect(Math.abs((got[i * 4 + k] as number) - (k === 3 ? a : ((sum[k] as number) * 255) / a))).toBeLessThanOrEqual(
				0.6,
			);
	}
});
