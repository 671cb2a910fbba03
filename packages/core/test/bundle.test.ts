/** Bundles: what is in a ZIP is listed, read, written back; what cannot be used is named, kept, and never lost. */
import { loadPngReader, loadPngWriter } from '@eppu/kernels/node';
import type { PngReader } from '@eppu/kernels/png';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { unzipSync, type Zippable, zipSync } from 'fflate';
import { type Bundle, encodePng, readBundle, textureSize } from '../src/format/index.ts';
import { pathHas, type Recolor, recoloredBy, recoloredTexels, recolorsFor } from '../src/pixel/index.ts';

let png: (width: number, height: number, seed?: number) => Uint8Array<ArrayBuffer>;
let read: PngReader;
beforeAll(async () => {
	const write = await loadPngWriter();
	read = await loadPngReader();
	png = (width, height, seed = 1) =>
		encodePng(write, {
			width,
			height,
			data: Uint8Array.from({ length: width * height * 4 }, (_, i) => (i * 37 * seed + (i >> 3)) & 255),
		});
});

const text = (words: string): Uint8Array => new TextEncoder().encode(words);
const opened = (bytes: Uint8Array): Bundle => {
	const result = readBundle(bytes, 'set.zip');
	if (!result.ok) throw new Error(result.text);
	return result.bundle;
};
const refused = (bytes: Uint8Array): string => {
	const result = readBundle(bytes, 'set.zip');
	return result.ok ? '' : result.text;
};
/** A ZIP with bytes of its directory (or local heads) changed where a path's record begins. */
const changed = (zip: Uint8Array, path: string, at: number, bytes: readonly number[]): Uint8Array => {
	const out = zip.slice();
	const view = new DataView(out.buffer);
	for (let i = out.length - 46; i >= 0; i--) {
		if (view.getUint32(i, true) !== 0x02014b50) continue;
		const long = view.getUint16(i + 28, true);
		if (new TextDecoder().decode(out.subarray(i + 46, i + 46 + long)) === path) out.set(bytes, i + at);
	}
	return out;
};
const set = (): Zippable => ({
	'about.json': text('{"of":"mossbarrow"}'),
	'items/dipper.png': png(16, 16, 3),
	'items/brush.png': [png(16, 32, 5), { level: 0 }],
	'sounds/hum.ogg': text('hum'.repeat(900)),
});

describe('bundles', () => {
	test('textures and other files are told apart, and read as they are', () => {
		const bundle = opened(zipSync(set()));
		expect(bundle.files.map(({ path, kind, problem }) => [path, kind, problem])).toEqual([
			['about.json', 'other', null],
			['items/dipper.png', 'texture', null],
			['items/brush.png', 'texture', null],
			['sounds/hum.ogg', 'other', null],
		]);
		expect(bundle.content(1)).toEqual(png(16, 16, 3));
		expect(bundle.content(2)).toEqual(png(16, 32, 5));
		expect(textureSize(bundle.content(2) as Uint8Array, 'items/brush.png')).toEqual({ width: 16, height: 32 });
		const dipper = read(bundle.content(1) as Uint8Array);
		// Also where a texel is wholly or half clear, its colour is as it was.
		expect([...dipper.data]).toEqual(Array.from({ length: 16 * 16 * 4 }, (_, i) => (i * 37 * 3 + (i >> 3)) & 255));
	});
	test('what is written back differs in the changed files alone, and an independent reader reads it', () => {
		const names = fc.uniqueArray(fc.stringMatching(/^[a-z]{1,6}\/[a-zé]{1,8}\.(png|json|txt)$/), {
			minLength: 1,
			maxLength: 12,
		});
		fc.assert(
			fc.property(names, fc.array(fc.nat(20), { maxLength: 5 }), fc.boolean(), (paths, some, stored) => {
				const files: Zippable = { 'a.png': png(8, 8) };
				for (const [i, path] of paths.entries())
					files[path] = [text(`${path} ${'x'.repeat(i * 70)}`), { level: stored ? 0 : 6 }];
				const zip = zipSync(files, { comment: 'made by hand' });
				const bundle = opened(zip);
				expect(bundle.written(new Map())).toEqual(zip);
				const changes = new Map(some.map((n) => [n % bundle.files.length, text(`new ${n}`.repeat(40))]));
				const out = unzipSync(bundle.written(changes));
				const before = unzipSync(zip);
				expect(Object.keys(out)).toEqual(Object.keys(before));
				bundle.files.forEach(({ path }, i) => expect(out[path]).toEqual(changes.get(i) ?? before[path]));
				const again = opened(bundle.written(changes));
				again.files.forEach((_, i) => expect(again.content(i)).toEqual(changes.get(i) ?? bundle.content(i)));
			}),
			{ numRuns: 60 },
		);
	});
	test('files that lead out, are doubled, encrypted, strangely packed or say too much are named, kept, and written back byte for byte', () => {
		const zip = zipSync({
			...set(),
			'../up.png': png(8, 8),
			'C:/x.png': png(8, 8),
			'a\\b.png': png(8, 8),
			'locked.png': png(8, 8),
			'odd.png': png(8, 8),
			'lies.png': png(8, 8),
			'twice.png': png(8, 8),
			'twicf.png': png(8, 9),
		});
		let bad = changed(zip, 'locked.png', 8, [1]);
		bad = changed(bad, 'odd.png', 10, [14]);
		bad = changed(bad, 'lies.png', 24, [0, 0, 0, 3]);
		bad = changed(bad, 'twicf.png', 46, [...text('twice.png')]);
		const bundle = opened(bad);
		const problems = new Map(bundle.files.map(({ path, problem }) => [path, problem]));
		expect(problems.get('../up.png')).toMatch(/leads out/);
		expect(problems.get('C:/x.png')).toMatch(/stay within/);
		expect(problems.get('a\\b.png')).toMatch(/stay within/);
		expect(problems.get('locked.png')).toMatch(/encrypted/);
		expect(problems.get('odd.png')).toMatch(/packed in a way/);
		expect(problems.get('lies.png')).toMatch(/sizes do not fit/);
		expect(bundle.files.filter(({ path }) => path === 'twice.png').map(({ problem }) => problem)).toEqual([
			null,
			expect.stringMatching(/same name/),
		]);
		expect(bundle.content(bundle.files.findIndex(({ path }) => path === 'locked.png'))).toMatch(
			/kept as it is: it is encrypted/,
		);
		const dipper = bundle.files.findIndex(({ path }) => path === 'items/dipper.png');
		const out = bundle.written(new Map([[dipper, text('new')]]));
		const again = opened(out);
		expect(again.files).toEqual(bundle.files.map((file, i) => (i === dipper ? { ...file, size: 3 } : file)));
	});
	test('what is damaged, doubled over itself, of the large kind or no ZIP is refused in words', () => {
		const zip = zipSync(set());
		expect(refused(new Uint8Array(0))).toMatch(/set\.zip is empty/);
		expect(refused(text('not a zip at all, by any means'))).toMatch(/is not a ZIP/);
		expect(refused(zip.subarray(0, zip.length - 30))).toMatch(/is not a ZIP/);
		expect(refused(zipSync({ 'a.txt': text('a') }))).toMatch(/holds no PNG/);
		const end = zip.slice();
		new DataView(end.buffer).setUint32(end.length - 6, 0xffffffff, true);
		expect(refused(end)).toMatch(/ZIP64/);
		expect(refused(changed(zip, 'items/dipper.png', 42, [0xff, 0xff, 0, 0]))).toMatch(/damaged/);
		// Two files that are told to lie on each other.
		const places = changed(zip, 'sounds/hum.ogg', 20, [0xff, 0xff, 0xff, 0x0f]);
		expect(refused(places)).toMatch(/goes on beyond its end/);
		const huge = changed(changed(zip, 'about.json', 24, [0, 0, 0, 0x7f]), 'about.json', 20, [0, 0, 0, 0]);
		expect(refused(huge)).toMatch(/more than 1 GB/);
		const spoiled = zip.slice();
		const spot = 40 + new TextDecoder('latin1').decode(spoiled).indexOf('items/dipper.png');
		spoiled[spot] = (spoiled[spot] as number) ^ 0x55;
		const result = opened(spoiled);
		expect(result.files.some((_, i) => /damaged in the ZIP/.test(String(result.content(i))))).toBe(true);
	});
	test('bytes changed by chance anywhere never do more than be told', () => {
		const zip = zipSync(set());
		fc.assert(
			fc.property(fc.array(fc.tuple(fc.nat(zip.length - 1), fc.nat(255)), { minLength: 1, maxLength: 6 }), (spots) => {
				const bad = zip.slice();
				for (const [at, value] of spots) bad[at] = value;
				const result = readBundle(bad, 'set.zip');
				if (!result.ok) return expect(result.text).toMatch(/^set\.zip /);
				result.bundle.files.forEach((_, i) => result.bundle.content(i));
				expect(result.bundle.written(new Map([[0, text('n')]])).length).toBeGreaterThan(0);
			}),
			{ numRuns: 300 },
		);
	});
});

describe('colours of many textures', () => {
	const recolor = (pairs: Recolor['pairs'], only = ''): Recolor => ({ pairs, only });
	const texels = fc.array(fc.constantFrom(0xff0000ff, 0xff00ff00, 0x80ff0000, 0x00112233, 0xff445566), {
		minLength: 1,
		maxLength: 64,
	});
	const hexes = ['#ff0000', '#00ff00', '#0000ff', '#332211', '#665544'];
	const hex = fc.constantFrom(...hexes);
	test('every texel has what its colour becomes and its alpha as it was; clear ones stay wholly', () => {
		fc.assert(
			fc.property(texels, fc.array(fc.tuple(hex, hex), { maxLength: 4 }), (words, pairs) => {
				const data = new Uint8Array(Uint32Array.from(words).buffer);
				const was = data.slice();
				const now = recoloredTexels(data, pairs);
				expect(data).toEqual(was);
				const to = new Map<string, string>(pairs);
				for (let i = 0; i < data.length; i += 4) {
					const own = `#${Buffer.from(data.subarray(i, i + 3)).toString('hex')}`;
					const next = data[i + 3] ? (to.get(own) ?? own) : own;
					expect(`#${Buffer.from(now.subarray(i, i + 3)).toString('hex')}`).toBe(next);
					expect(now[i + 3]).toBe(data[i + 3]);
				}
				expect(now === data).toBe(Buffer.compare(now, data) === 0);
			}),
		);
	});
	test('changes go one after the other, to those paths alone that have their words', () => {
		const list = [
			recolor([['#ff0000', '#00ff00']], 'items'),
			recolor([['#00ff00', '#0000ff']], 'ITEMS png'),
			recolor([], 'wall'),
		];
		expect(recolorsFor('textures/Items/jar.png', list)).toEqual(list.slice(0, 2));
		expect(recolorsFor('textures/wall.png', list)).toEqual([list[2]]);
		const red = { width: 1, height: 1, data: Uint8Array.of(255, 0, 0, 255) };
		expect([...recoloredBy(red, list.slice(0, 2)).data]).toEqual([0, 0, 255, 255]);
		expect(recoloredBy(red, [recolor([['#123456', '#ff0000']])])).toBe(red);
		expect(pathHas('a/b.png', '')).toBe(true);
	});
});
