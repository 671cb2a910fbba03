/** The projects of the demo world, painted from nothing by scripts; the same in every run. */
import { createHash } from 'node:crypto';
import { apiaryPalette } from '@eppu/core/color';
import { type Desk, emptyDesk, type Layer, type Project, usualBleed } from '@eppu/core/document';
import { type Engine, openEngine } from '@eppu/core/engine';
import { type LaidMesh, meshBounds, writeGlb } from '@eppu/core/mesh';
import { type Camera, framing, homeCamera } from '@eppu/core/projection';
import { loadKernels } from '@eppu/kernels/node';
import { cartMesh } from './mesh/cart.ts';
import { hiveMesh } from './mesh/hive.ts';
import { lanternMesh } from './mesh/lantern.ts';
import { smokerMesh } from './mesh/smoker.ts';
import { hiveLayers, paintHive } from './paint/hive.ts';
import { demoBakes } from './paint/light.ts';
import { bellowsLayers, canLayers, paintSmoker } from './paint/smoker.ts';
import { cartLayers, lanternLayers, paintCart, paintLantern } from './paint/yard.ts';

export interface DemoProject {
	readonly engine: Engine;
	readonly desk: Desk;
	readonly files: readonly { readonly name: string; readonly bytes: Uint8Array }[];
	readonly view: Camera;
}

interface Plan {
	readonly id: string;
	readonly name: string;
	readonly model: string;
	readonly file: string;
	readonly mesh: () => LaidMesh;
	readonly sheets: readonly {
		readonly id: string;
		readonly name: string;
		readonly size: number;
		readonly layers: readonly Layer[];
		readonly parts: readonly string[];
	}[];
	readonly camera: Partial<Camera>;
	readonly layers: Desk['layers'];
	readonly paint: (engine: Engine) => void;
}

const plans: readonly Plan[] = [
	{
		id: 'demo-smoker',
		name: 'Mossbarrow smoker',
		model: 'Smoker can',
		file: 'smoker-can.glb',
		mesh: smokerMesh,
		sheets: [
			{ id: 'can', name: 'Can', size: 1024, layers: canLayers, parts: ['Body', 'Lid', 'Spout'] },
			{ id: 'bellows', name: 'Bellows', size: 512, layers: bellowsLayers, parts: ['Bellows'] },
		],
		camera: { yaw: 32, pitch: 14 },
		layers: { can: 'can-soot', bellows: 'bel-grain' },
		paint: paintSmoker,
	},
	{
		id: 'demo-hive',
		name: 'Mossbarrow hive',
		model: 'Plank hive box',
		file: 'plank-hive-box.glb',
		mesh: hiveMesh,
		sheets: [
			{
				id: 'hive',
				name: 'Hive',
				size: 1024,
				layers: hiveLayers,
				parts: ['Upper box', 'Lower box', 'Floor', 'Roof', 'Feet'],
			},
		],
		camera: { yaw: 35, pitch: 16 },
		layers: { hive: 'hive-coat' },
		paint: paintHive,
	},
	{
		id: 'demo-lantern',
		name: 'Mossbarrow lantern',
		model: 'Storm lantern',
		file: 'storm-lantern.glb',
		mesh: lanternMesh,
		sheets: [
			{
				id: 'lantern',
				name: 'Lantern',
				size: 512,
				layers: lanternLayers,
				parts: ['Tank', 'Glass', 'Hood', 'Wires', 'Handle'],
			},
		],
		camera: { yaw: 28, pitch: 10 },
		layers: { lantern: 'lan-mine' },
		paint: paintLantern,
	},
	{
		id: 'demo-cart',
		name: 'Mossbarrow hand cart',
		model: 'Hand cart',
		file: 'hand-cart.glb',
		mesh: cartMesh,
		sheets: [
			{
				id: 'cart',
				name: 'Cart',
				size: 1024,
				layers: cartLayers,
				parts: ['Bed', 'Boards', 'Wheels', 'Shafts', 'Leg'],
			},
		],
		camera: { yaw: 40, pitch: 22 },
		layers: { cart: 'cart-mine' },
		paint: paintCart,
	},
];

/** Ids of the projects of the demo world. */
export const demoIds = plans.map(({ id }) => id);

/** Paints those of them that are asked for. */
export async function makeDemoProjects(wanted: (id: string) => boolean = () => true): Promise<DemoProject[]> {
	const made: DemoProject[] = [];
	for (const plan of plans.filter(({ id }) => wanted(id))) {
		const mesh = plan.mesh();
		const bytes = await writeGlb(mesh);
		const project: Project = {
			schema: 1,
			id: plan.id,
			name: plan.name,
			palette: apiaryPalette,
			models: [
				{
					id: `${plan.id}-model`,
					name: plan.model,
					bakes: demoBakes,
					asset: { hash: createHash('sha256').update(bytes).digest('hex'), name: plan.file },
					parts: mesh.parts.map((part) => ({
						name: part.name,
						shown: true,
						sheet:
							plan.sheets.find((sheet) => sheet.parts.includes(part.name))?.id ?? (plan.sheets[0] as { id: string }).id,
					})),
				},
			],
			sheets: plan.sheets.map(({ id, name, size, layers }) => ({
				id,
				name,
				width: size,
				height: size,
				bleed: usualBleed(size, size),
				base: null,
				layers,
				guide: null,
			})),
		};
		const engine = openEngine(await loadKernels(), project, [], new Map([[`${plan.id}-model`, mesh]]));
		plan.paint(engine);
		const { center, radius } = meshBounds(mesh);
		const view = framing({ ...homeCamera, ...plan.camera }, center, radius, 1, 1);
		made.push({
			engine,
			view,
			files: [{ name: plan.file, bytes }],
			desk: {
				...emptyDesk,
				sheet: plan.sheets[0]?.id ?? null,
				layers: plan.layers,
				camera: view,
				front: '#b85a33',
				back: '#2b2d30',
			},
		});
	}
	return made;
}
