/** Computed pictures that are kept: their names say all that they depend on, and they stand for what is computed. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { type Layer, paintLayer, washLayer } from '../src/document/index.ts';
import { type Engine, type KeptTile, type Made, openEngine } from '../src/engine/index.ts';
import { withPlanes } from '../src/recipe/index.ts';
import { defaultTip, unruled } from '../src/stroke/index.ts';
import { everything, masked, mesh, meshes, openOn, paint, picture, step } from './oracle/derived.ts';
import { projectOf } from './oracle/meshes.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const namesOf = (engine: Engine): ReadonlyMap<string, string> => {
	const naming = engine.nameMade();
	while (true) {
		const { done, value } = naming.next();
		if (done) return value ?? new Map();
	}
};
/** All that is computed in an engine, by its name. */
const keep = (engine: Engine): Map<string, Made> => {
	engine.refresh(() => false);
	return new Map([...namesOf(engine)].map(([id, name]) => [name, engine.made(id) as Made]));
};
/** The same project opened anew, with what was kept. */
const again = (engine: Engine, kept: ReadonlyMap<string, Made>): Engine => {
	const { project, tiles } = engine.whole();
	const next = openEngine(kernels, project, tiles as KeptTile[], meshes);
	for (const [id, name] of namesOf(next)) {
		const found = kept.get(name);
		if (found) next.takeMade(id, found);
	}
	return next;
};
const painted = (): Engine => {
	const engine = openOn(kernels, everything());
	paint(engine, 'a', 'color', 3);
	paint(engine, 'b', 'color', 4);
	return engine;
};

test('a project opens with nothing to compute, and looks as it was left', () => {
	const engine = painted();
	const next = again(engine, keep(engine));
	expect(next.left).toBe(0);
	expect(Buffer.compare(picture(next), picture(engine))).toBe(0);
	for (const each of [engine, next]) each.close();
});

test('what changes after that is computed as if nothing had been kept, over seams too', () => {
	const side = 512;
	const layers = [
		paintLayer('a', 'A'),
		masked(washLayer('w', 'W', '#ffffff'), [
			step('tap', { layer: 'a', of: 'shape', mix: 'replace' }),
			step('grow', { by: 5 }),
			step('blur', { radius: 3 }),
		]),
	];
	const engine = openEngine(kernels, projectOf(mesh, side, layers), [], meshes);
	const dab = (each: Engine, x: number, y: number): void => {
		const spec = {
			tool: 'draw',
			tip: { ...unruled(defaultTip), size: 48 },
			color: '#c08040',
			place: { on: 'sheet', sheet: 's' },
			layers: { s: 'a' },
		} as const;
		expect(each.begin(spec, [{ x, y, pressure: 1 }]).ok).toBe(true);
		each.end();
		each.refresh(() => false);
	};
	const random = seeded(11);
	const place = (): [number, number] => [random() * side, random() * side];
	for (let n = 0; n < 6; n++) dab(engine, ...place());
	const next = again(engine, keep(engine));
	expect(next.left).toBe(0);
	for (let n = 0; n < 12; n++) {
		const at = place();
		for (const each of [engine, next]) dab(each, ...at);
	}
	expect(Buffer.compare(picture(next), picture(engine))).toBe(0);
	const { project, tiles } = next.whole();
	const anew = openEngine(kernels, project, tiles as KeptTile[], meshes);
	expect(Buffer.compare(picture(next), picture(anew))).toBe(0);
	for (const each of [engine, next, anew]) each.close();
}, 60_000);

test('half-computed pictures are not kept', () => {
	const engine = painted();
	let tiles = 2;
	engine.refresh(() => tiles-- <= 0);
	const computed = [...namesOf(engine).keys()].filter((id) => engine.made(id));
	expect(computed.length).toBeLessThan(namesOf(engine).size);
	engine.close();
});

test('whatever changes a computed picture changes its name, and nothing else does', () => {
	const layers = (size: number, seed: number): Layer[] => [
		...everything(),
		masked(washLayer('w', 'W', '#123456'), [step('clouds', { mix: 'replace', size, seed }), step('warp', { by: 3 })]),
	];
	const one = openOn(kernels, layers(20, 1));
	const first = namesOf(one);
	expect(new Set(first.values()).size).toBe(first.size);
	const same = openOn(kernels, layers(20, 1));
	expect([...namesOf(same)]).toEqual([...first]);
	const changed = (engine: Engine): string[] =>
		[...namesOf(engine)].flatMap(([id, name]) => (first.get(id) === name ? [] : [id]));
	const other = openOn(kernels, layers(20, 2));
	expect(changed(other)).toEqual(['w~mask']);
	// Pixels of a layer that others read: they, what reads those, and no one else.
	paint(same, 'a', 'color', 5);
	const touched = changed(same);
	expect(touched).toContain('dirt~mask');
	expect(touched).toContain('b~mask');
	expect(touched).not.toContain('ground~fill');
	expect(touched).not.toContain('w~mask');
	for (const each of [one, same, other]) each.close();
});

test('names of bytes are those of the standard', () => {
	const hash = (bytes: Uint8Array, seed: number): string =>
		withPlanes(kernels, (planes) => {
			const [at, out] = [planes.take(bytes.length / 4), planes.take(2)];
			planes.bytes(at, bytes.length).set(bytes);
			planes.run.hashBytes(at, bytes.length, seed, out);
			return new DataView(planes.bytes(out, 8).slice().buffer).getBigUint64(0, true).toString(16);
		});
	/** XXH64 of whole stripes, in big numbers: the plain twin. */
	const plain = (bytes: Uint8Array, seed: bigint): string => {
		const [p1, p2, p3, p4] = [0x9e3779b185ebca87n, 0xc2b2ae3d27d4eb4fn, 0x165667b19e3779f9n, 0x85ebca77c2b2ae63n];
		const cut = (v: bigint): bigint => BigInt.asUintN(64, v);
		const turn = (v: bigint, by: bigint): bigint => cut((v << by) | (v >> (64n - by)));
		const round = (acc: bigint, lane: bigint): bigint => cut(turn(cut(acc + lane * p2), 31n) * p1);
		const acc = [cut(seed + p1 + p2), cut(seed + p2), seed, cut(seed - p1)];
		const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
		for (let at = 0; at < bytes.length; at += 8) {
			const k = (at / 8) % 4;
			acc[k] = round(acc[k] as bigint, view.getBigUint64(at, true));
		}
		let h = [1n, 7n, 12n, 18n].reduce((sum, by, k) => cut(sum + turn(acc[k] as bigint, by)), 0n);
		for (const each of acc) h = cut((h ^ round(0n, each)) * p1 + p4);
		h = cut(h + BigInt(bytes.length));
		h = cut((h ^ (h >> 33n)) * p2);
		h = cut((h ^ (h >> 29n)) * p3);
		return (h ^ (h >> 32n)).toString(16);
	};
	fc.assert(
		fc.property(
			fc.integer({ min: 1, max: 9 }).chain((n) => fc.uint8Array({ minLength: n * 32, maxLength: n * 32 })),
			fc.integer({ min: 0, max: 2 ** 31 - 1 }),
			(bytes, seed) => hash(bytes, seed) === plain(bytes, BigInt(seed)),
		),
	);
});
