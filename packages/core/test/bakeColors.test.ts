/** Bakes of what a mesh brings beside its shape: names of its parts, colours of its vertices, other models. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import { createMeshBuilder } from '../../../demo/mesh/shapes.ts';
import { rgbOfHex } from '../src/color/index.ts';
import { type Project, washLayer } from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { type Bake, type IdsBake, partColor, toneBake } from '../src/light/index.ts';
import type { LaidMesh } from '../src/mesh/index.ts';
import { newStep, type RecipeStep } from '../src/recipe/index.ts';
import { pictureOfSurface, type Surface } from '../src/surface/index.ts';
import { projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const SIDE = 64;
const hash = 'f'.repeat(64);

/** Level floors, each a part, beside each other on the sheet: from x = -1 to 1 and z = -1 to 1 at a height of their own. */
function floors(...parts: readonly (readonly [name: string, y: number, to?: number])[]): LaidMesh {
	const builder = createMeshBuilder();
	parts.forEach(([name, y, to = 1], i) => {
		builder.part(name);
		builder.grid(8, 8, (u, v) => [(to + 1) * u - 1, y, 2 * v - 1], {
			x: 0.05 + (0.9 / parts.length) * i,
			y: 0.05,
			w: 0.9 / parts.length - 0.05,
			h: 0.9,
		});
	});
	return { ...builder.mesh(), normals: null };
}
/** Red grows with x, green with z, blue is the same everywhere. */
const colored = (mesh: LaidMesh): LaidMesh => ({
	...mesh,
	colors: Float32Array.from({ length: (mesh.positions.length / 3) * 4 }, (_, i) => {
		const [x, z] = [mesh.positions[(i >> 2) * 3] as number, mesh.positions[(i >> 2) * 3 + 2] as number];
		return [(x + 1) / 2, (z + 1) / 2, 0.25, 1][i % 4] as number;
	}),
});
const withBakes = (mesh: LaidMesh, bakes: readonly Bake[]): Project => {
	const project = projectOf(mesh, SIDE);
	return { ...project, models: project.models.map((model) => ({ ...model, bakes })) };
};
const open = (mesh: LaidMesh, bakes: readonly Bake[], fine?: LaidMesh): Engine => {
	const engine = openEngine(kernels, withBakes(mesh, fine ? [] : bakes), [], new Map([['m', mesh]]));
	if (fine) {
		engine.meshes.set(hash, fine);
		engine.run({ do: 'bakes.set', model: 'm', bakes });
	}
	engine.refresh(() => false);
	return engine;
};
const texelsOf = (engine: Engine, id = 'b'): Uint8Array =>
	pictureOfSurface(kernels, engine.surface(`${id}~s`) as Surface).data;
/** RGBA in the middle of a part's place on the sheet. */
const middleOf = (data: Uint8Array, part: number, parts: number): number[] => {
	const x = Math.round((0.05 + (0.9 / parts) * part + (0.9 / parts - 0.05) / 2) * SIDE);
	const at = ((SIDE / 2) * SIDE + x) * 4;
	return [...data.subarray(at, at + 4)];
};

test('a part has the colour that was chosen for its name, wherever it stands in the file', () => {
	const bake: IdsBake = {
		id: 'b',
		name: 'Ids',
		bake: 'ids',
		by: 'part',
		seed: 3,
		chosen: [{ part: 'Lid', color: '#c03a2b' }],
	};
	for (const names of [
		['Body', 'Lid'],
		['Lid', 'Body'],
		['Foot', 'Body', 'Lid'],
	]) {
		const engine = open(floors(...names.map((name) => [name, 0] as const)), [bake]);
		names.forEach((name, i) => {
			const want = name === 'Lid' ? '#c03a2b' : partColor({ ...bake, chosen: [] }, i, name);
			expect(middleOf(texelsOf(engine), i, names.length)).toEqual([...rgbOfHex(want), 255]);
			expect(partColor(bake, i, name)).toBe(want);
		});
		// Islands are not parts.
		engine.run({ do: 'bakes.set', model: 'm', bakes: [{ ...bake, by: 'island' }] });
		engine.refresh(() => false);
		expect(middleOf(texelsOf(engine), names.indexOf('Lid'), names.length)).not.toEqual([...rgbOfHex('#c03a2b'), 255]);
		engine.close();
	}
});

test.each([
	['of the model itself', undefined],
	['of a finer mesh, and nothing where that is not', 0.4],
] as const)('colours of the vertices lie between them: %s', (_, to) => {
	const bake: Bake = {
		id: 'b',
		name: 'Colours',
		bake: 'vertex',
		...(to === undefined ? {} : { finer: { asset: { hash, name: 'fine.ply' }, cage: 20, match: 'near' } }),
	};
	const low = floors(['Floor', 0]);
	const engine =
		to === undefined ? open(colored(low), [bake]) : open(low, [bake], colored(floors(['Floor', 0.02, to])));
	const data = texelsOf(engine);
	let [seen, missed] = [0, 0];
	for (let y = 6; y < SIDE - 6; y++)
		for (let x = 6; x < SIDE - 6; x++) {
			// Places on the floor run over 0.85 of the sheet across and 0.9 down.
			const [px, pz] = [(((x + 0.5) / SIDE - 0.05) / 0.85) * 2 - 1, (((y + 0.5) / SIDE - 0.05) / 0.9) * 2 - 1];
			if (Math.abs(px) > 0.97 || Math.abs(pz) > 0.97 || Math.abs(px - (to ?? 2)) < 0.06) continue;
			const at = (y * SIDE + x) * 4;
			if (to !== undefined && px > to) {
				missed++;
				expect(data[at + 3]).toBe(0);
				continue;
			}
			seen++;
			const want = [(px + 1) / 2, (pz + 1) / 2, 0.25].map((v) => v * 255);
			want.forEach((v, k) => expect(Math.abs((data[at + k] as number) - v)).toBeLessThan(1.6));
		}
	expect(seen).toBeGreaterThan(1500);
	expect(missed > 300).toBe(to !== undefined);
	// The finer floor ends at 0.4 of -1 to 1: three tenths of the model meet nothing. Of itself nothing can be missed.
	if (to === undefined) expect(engine.bakeMissed('b')).toBe(null);
	else expect(Math.abs((engine.bakeMissed('b') as number) - 0.3)).toBeLessThan(0.02);
	// Seen alone, what met nothing is striped, and nothing else is.
	engine.look('s', { bake: 'b' });
	const tile = kernels.heap.alloc(16384);
	engine.compositeTile('s', 0, tile);
	const shown = kernels.heap.u8.slice(tile, tile + 16384);
	kernels.heap.free(tile, 16384);
	const striped = (x: number, y: number): boolean =>
		['192,58,43', '38,35,30'].includes(shown.subarray((y * SIDE + x) * 4, (y * SIDE + x) * 4 + 3).join());
	for (let y = 8; y < SIDE - 8; y++)
		for (const x of [10, 20, 30, 54, 57]) expect(striped(x, y)).toBe(to !== undefined && x > 50);
	engine.close();
});

test('a mesh without colours has a bare bake of them', () => {
	const engine = open(floors(['Floor', 0]), [{ id: 'b', name: 'Colours', bake: 'vertex' }]);
	expect(texelsOf(engine).every((v) => v === 0)).toBe(true);
	engine.close();
});

test('height of all models runs from the lowest place of any to the highest, and follows when another model is higher', () => {
	const bakes = ['model', 'models'].map((over) => toneBake(over, over, 'height', { from: 0, to: 1, over }));
	const mesh = floors(['Low', 0], ['High', 2]);
	const project = withBakes(mesh, bakes);
	const toneAt = (engine: Engine, id: string, part: number): number => {
		engine.refresh(() => false);
		const { data } = pictureOfSurface(kernels, engine.surface(`${id}~s`) as Surface);
		const tones = new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
		const x = Math.round((0.05 + 0.45 * part + 0.2) * SIDE);
		return (tones[(SIDE / 2) * SIDE + x] as number) / 65535;
	};
	/** Another model on a sheet of its own, up to a height. */
	const beside = (to: number): Engine => {
		const other = floors(['Other', -2], ['Top', to]);
		const [sheet, model] = [project.sheets[0], project.models[0]];
		if (!sheet || !model) throw new Error('no sheet');
		const parts = other.parts.map(({ name }) => ({ name, sheet: 's2', shown: true }));
		return openEngine(
			kernels,
			{
				...project,
				models: [
					model,
					{ id: 'm2', name: 'Other', asset: { hash: String(to % 10).repeat(64), name: 'other.glb' }, parts },
				],
				sheets: [sheet, { ...sheet, id: 's2', name: 'Other', layers: [] }],
			},
			[],
			new Map([
				['m', mesh],
				['m2', other],
			]),
		);
	};
	const keys: (string | undefined)[] = [];
	for (const to of [4, 8]) {
		const engine = beside(to);
		expect(toneAt(engine, 'model', 0)).toBeCloseTo(0, 3);
		expect(toneAt(engine, 'model', 1)).toBeCloseTo(1, 3);
		expect(toneAt(engine, 'models', 0)).toBeCloseTo(2 / (to + 2), 3);
		expect(toneAt(engine, 'models', 1)).toBeCloseTo(4 / (to + 2), 3);
		const naming = engine.nameMade();
		let named = naming.next();
		while (!named.done) named = naming.next();
		keys.push(...['model', 'models'].map((id) => named.value?.get(`${id}~s`)));
		engine.close();
	}
	// What is kept of the one model alone stays good; what is kept of all of them does not.
	expect(keys[0]).toBe(keys[2]);
	expect(keys[1]).not.toBe(keys[3]);
	expect(keys.every((key) => key)).toBe(true);
});

test('a mask of a part goes by its name where a newer file has it at another place, by its number where none has it', () => {
	const first = floors(['lid', 0], ['leg', 0.2]);
	const newer = floors(['leg', 0.2], ['handle', 0.1], ['lid', 0]);
	const masked = (mesh: LaidMesh, change: object): number[] => {
		const recipe = [{ ...newStep('part', 'p'), mix: 'replace' as const, ...change }] as RecipeStep[];
		const layer = washLayer('w', 'W', '#ff0000', { mask: { surface: 'x', on: true, recipe } });
		const project = projectOf(mesh, SIDE);
		const sheets = project.sheets.map((sheet) => ({ ...sheet, layers: [layer] }));
		const engine = openEngine(kernels, { ...project, sheets }, [], new Map([['m', mesh]]));
		engine.refresh(() => false);
		const { data } = engine.layerPicture('s', 'w');
		engine.close();
		return mesh.parts.flatMap((_, part) => ((middleOf(data, part, mesh.parts.length)[3] as number) > 0 ? [part] : []));
	};
	expect(masked(first, { part: 0, name: 'lid' })).toEqual([0]);
	expect(masked(newer, { part: 0, name: 'lid' })).toEqual([2]);
	expect(masked(newer, { part: 1, name: 'knob' })).toEqual([1]);
	expect(masked(first, { part: 1 })).toEqual([1]);
	// Of two with one name the number tells which.
	const twins = floors(['leg', 0], ['leg', 0.2]);
	expect(masked(twins, { part: 1, name: 'leg' })).toEqual([1]);
});
