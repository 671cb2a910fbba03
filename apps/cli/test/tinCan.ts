import { apiaryPalette } from '@eppu/core/color';
import { type Project, paintLayer, textLayer, washLayer } from '@eppu/core/document';
import { openEngine } from '@eppu/core/engine';
import { usualOrder } from '@eppu/core/handoff';
import { writeGlb } from '@eppu/core/mesh';
import { loadKernels } from '@eppu/kernels/node';
import { openSourceStore, packDelta, sha256 } from '@eppu/server/store';
import { smokerMesh } from '../../../demo/mesh/smoker.ts';
import { words } from '../../../packages/core/test/oracle/trees.ts';

/** Puts a small project with two sheets, a painted mask, lettering and a model into a new data file. */
export async function keepTinCan(data: string): Promise<void> {
	const mesh = smokerMesh();
	const glb = new Uint8Array(await writeGlb(mesh));
	const sheet = (id: string, name: string, layers: Project['sheets'][number]['layers']) => ({
		id,
		name,
		width: 128,
		height: 64,
		bleed: 2,
		base: null,
		guide: null,
		layers,
	});
	const project: Project = {
		schema: 1,
		id: 'can',
		name: 'Tin can',
		palette: apiaryPalette,
		models: [
			{
				id: 'm',
				name: 'Can',
				asset: { hash: sha256(glb), name: 'can.glb' },
				parts: mesh.parts.map(({ name }) => ({ name, sheet: name === 'Bellows' ? 'b' : 'a', shown: true })),
			},
		],
		sheets: [
			sheet('a', 'Tin', [
				washLayer('w', 'Ground', '#7a8a90'),
				paintLayer('p', 'Dabs', { mask: { surface: 'pm', on: true } }),
				textLayer('t', 'Words', words),
			]),
			sheet('b', 'Leather', [washLayer('l', 'Hide', '#6a4020')]),
		],
	};
	const engine = openEngine(await loadKernels(), project, [], new Map([['m', mesh]]));
	engine.lay(
		'a',
		'p',
		'color',
		{ width: 128, height: 64, data: Uint8Array.from({ length: 128 * 64 * 4 }, (_, i) => (i * 7 + (i >> 8)) & 255) },
		'Lay',
	);
	engine.lay(
		'a',
		'p',
		'mask',
		{ width: 128, height: 64, data: Uint8Array.from({ length: 128 * 64 }, (_, i) => (i * 3) & 255) },
		'Lay',
	);
	const store = openSourceStore(data);
	store.create(engine.project, [{ name: 'can.glb', bytes: glb }], { tiles: packDelta(engine.whole()) });
	store.library.put(
		{ id: 'half', kind: 'order', name: 'Half' },
		new TextEncoder().encode(JSON.stringify({ ...usualOrder, sizes: [64], pattern: 'half-{sheet}' })),
	);
	store.close();
	engine.close();
}
