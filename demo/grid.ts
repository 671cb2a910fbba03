/** The yard's props on one colour grid: a cell for each wood, tin, cloth and leaf, most of them spare. */
import { createHash } from 'node:crypto';
import { apiaryPalette, type Hex } from '@eppu/core/color';
import { emptyDesk, type Project, washLayer } from '@eppu/core/document';
import { openEngine } from '@eppu/core/engine';
import { type LaidMesh, meshBounds, writeGlb } from '@eppu/core/mesh';
import { framing, homeCamera } from '@eppu/core/projection';
import type { Cell, Cells } from '@eppu/core/wash';
import { loadKernels } from '@eppu/kernels/node';
import { yardProps } from './mesh/yard.ts';
import type { DemoProject } from './projects.ts';

/** Ids of the projects that are painted by cells. */
export const gridIds = ['demo-yard'];

const color = (place: number): Hex => apiaryPalette.colors[place] as Hex;
const flat = (col: number, row: number, name: string, place: number): Cell => ({
	col,
	row,
	name,
	colors: [color(place)],
	of: 'flat',
	along: 'down',
});
const ramp = (col: number, row: number, name: string, of: Cell['of'], places: readonly number[]): Cell => ({
	col,
	row,
	name,
	colors: places.map(color),
	of,
	along: 'down',
});

const cells: Cells = {
	fill: 'cells',
	cols: 8,
	rows: 8,
	cells: [
		ramp(0, 0, 'Old wood', 'blend', [2, 3, 4]),
		ramp(1, 0, 'Fresh wood', 'blend', [1, 2, 3]),
		flat(2, 0, 'End grain', 4),
		flat(3, 0, 'Dark wood', 5),
		ramp(0, 1, 'Tin', 'ramp', [12, 13, 14]),
		flat(1, 1, 'Iron', 15),
		ramp(0, 2, 'Straw', 'blend', [0, 6, 7]),
		flat(1, 2, 'Honey', 6),
		flat(2, 2, 'Rust red', 8),
		flat(0, 3, 'Water', 26),
		flat(1, 3, 'Leaf', 20),
		ramp(0, 4, 'Plum cloth', 'blend', [31, 32, 33]),
	],
};

/** Which cell each part of each prop lies in, and how. */
const places: Readonly<
	Record<string, Readonly<Record<string, readonly [cell: string, along: 'middle' | 'height' | 'facing']>>>
> = {
	Bucket: {
		Staves: ['Old wood', 'height'],
		Hoops: ['Iron', 'middle'],
		Inside: ['Water', 'middle'],
		Handle: ['Tin', 'height'],
	},
	Crate: { Slats: ['Fresh wood', 'height'], Posts: ['Dark wood', 'middle'], Straw: ['Straw', 'facing'] },
	Fence: { Posts: ['Old wood', 'height'], Caps: ['End grain', 'middle'], Rails: ['Fresh wood', 'facing'] },
	Stool: { Seat: ['Fresh wood', 'facing'], Cushion: ['Plum cloth', 'height'], Legs: ['Dark wood', 'middle'] },
	Signpost: {
		Pole: ['Old wood', 'height'],
		Board: ['Fresh wood', 'facing'],
		Stripe: ['Honey', 'middle'],
		Foot: ['Tin', 'height'],
	},
};

const fileOf = (name: string): string => `${name.toLowerCase()}.glb`;

/** Makes those of them that are asked for. */
export async function makeGridProjects(wanted: (id: string) => boolean): Promise<DemoProject[]> {
	if (!gridIds.some(wanted)) return [];
	const props = await Promise.all(
		yardProps.map(async ({ name, mesh }) => {
			const own = mesh();
			return { name, mesh: own, bytes: await writeGlb(own) };
		}),
	);
	const project: Project = {
		schema: 1,
		id: 'demo-yard',
		name: 'Mossbarrow yard',
		palette: apiaryPalette,
		models: props.map(({ name, mesh, bytes }) => ({
			id: `yard-${name.toLowerCase()}`,
			name,
			asset: { hash: createHash('sha256').update(bytes).digest('hex'), name: fileOf(name) },
			parts: mesh.parts.map((part) => ({ name: part.name, sheet: 'yard-grid', shown: true })),
		})),
		sheets: [
			{
				id: 'yard-grid',
				name: 'Yard grid',
				width: 256,
				height: 256,
				bleed: 0,
				base: null,
				guide: null,
				layers: [washLayer('yard-cells', 'Cells', '#b4a58c', { fill: cells })],
			},
		],
	};
	const meshes = new Map(props.map(({ name, mesh }) => [`yard-${name.toLowerCase()}`, mesh]));
	const engine = openEngine(await loadKernels(), project, [], meshes);
	let made = 0;
	for (const { name, mesh } of props)
		for (const part of mesh.parts) {
			const [cell, along] = places[name]?.[part.name] ?? ['Old wood', 'middle'];
			const place = cells.cells.find((each) => each.name === cell) as Cell;
			const faces = Array.from({ length: part.faces }, (_, i) => part.firstFace + i);
			const taken = new Map([[`yard-${name.toLowerCase()}`, faces]]);
			engine.assignCell('yard-grid', taken, place, along, () => `yard-uv-${made++}`);
		}
	engine.refresh(() => false);
	const { center, radius } = meshBounds(props[0]?.mesh as LaidMesh);
	const view = framing({ ...homeCamera, yaw: 30, pitch: 24 }, center, radius, 1, 1);
	return [
		{
			engine,
			view,
			files: props.map(({ name, bytes }) => ({ name: fileOf(name), bytes })),
			desk: { ...emptyDesk, sheet: 'yard-grid', camera: view, front: '#e8b345', back: '#523521' },
		},
	];
}
