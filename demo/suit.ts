/** The beekeeper's suit: a pixel sheet worn by a figure of boxes, drawn side by side in the palette's ramps. */
import { createHash } from 'node:crypto';
import { apiaryPalette, type Hex } from '@eppu/core/color';
import { emptyDesk, type Project, paintLayer } from '@eppu/core/document';
import { type Engine, openEngine } from '@eppu/core/engine';
import { type FigureBox, figureText, keeperFigure } from '@eppu/core/figure';
import { figureMesh, meshBounds } from '@eppu/core/mesh';
import { framing, homeCamera } from '@eppu/core/projection';
import { loadKernels } from '@eppu/kernels/node';
import type { DemoProject } from './projects.ts';

/** Ids of the projects that are worn. */
export const suitIds = ['demo-suit'];

const ramp = (row: number): readonly Hex[] => apiaryPalette.ramps?.[row]?.colors ?? [];
const [straw, rust, tin, leaf, plum] = [0, 1, 2, 3, 5].map(ramp) as [
	readonly Hex[],
	readonly Hex[],
	readonly Hex[],
	readonly Hex[],
	readonly Hex[],
];

type Side = 'left' | 'front' | 'right' | 'back' | 'top' | 'foot';
/** The colour of a texel of a box: x and y on its side, from the upper left; null leaves it clear. */
type Ink = (side: Side, x: number, y: number, size: FigureBox['size']) => Hex | null;

/** Light from above on a ramp: its upper rim a step lighter, its lower one darker, sides a step darker than the front. */
const cloth =
	(colors: readonly Hex[], middle: number): Ink =>
	(side, x, y, [w, h, d]) => {
		const wide = side === 'left' || side === 'right' ? d : w;
		const high = side === 'top' || side === 'foot' ? d : h;
		const shade = (side === 'front' || side === 'top' ? 0 : 1) + (side === 'foot' ? 2 : 0);
		const rim =
			y === 0 && side !== 'foot' ? -1 : y === high - 1 && side !== 'top' ? 1 : x === 0 || x === wide - 1 ? 0.5 : 0;
		return colors[Math.max(0, Math.min(colors.length - 1, Math.round(middle + shade + rim)))] as Hex;
	};

const inks: Readonly<Record<string, Ink>> = {
	Head(side, x, y, size) {
		if (side === 'front' && y >= 3 && y <= 4 && (x === 2 || x === 7)) return tin[5] as Hex;
		if (side === 'front' && y === 4 && (x === 1 || x === 8)) return rust[2] as Hex;
		if (side === 'front' && y === 6 && x >= 4 && x <= 5) return rust[3] as Hex;
		if (side === 'top' || y < 2 || (side !== 'front' && y < 6)) return cloth(straw, 4)(side, x, y, size);
		return cloth(straw, 1)(side, x, y, size);
	},
	Body(side, x, y, size) {
		if (side !== 'top' && side !== 'foot' && y === 8)
			return straw[side === 'front' && (x === 4 || x === 5) ? 0 : 4] as Hex;
		if (side === 'front' && x === 4 && y < 8 && y % 2 === 1) return straw[4] as Hex;
		if (side === 'front' && y >= 2 && y <= 4 && x >= 6 && x <= 7) return y === 2 ? (tin[2] as Hex) : (tin[0] as Hex);
		return cloth(tin, 0.4)(side, x, y, size);
	},
	arm(side, x, y, size) {
		if (side === 'foot' || y >= 8) return cloth(straw, 3)(side, x, y, size);
		return y === 7 ? (straw[5] as Hex) : cloth(tin, 0.4)(side, x, y, size);
	},
	leg(side, x, y, size) {
		if (side === 'foot' || y >= 6) return cloth(leaf, 3)(side, x, y, size);
		return side === 'front' && y === 3 && x > 0 && x < 3 ? (tin[2] as Hex) : cloth(tin, 0.8)(side, x, y, size);
	},
	Veil(side, x, y) {
		if (side === 'top' || side === 'foot' || y < 1) return null;
		// A net: every other texel stands, more of them at its hem.
		return y === 8 ? (tin[2] as Hex) : (x + y) % 2 ? (tin[4] as Hex) : null;
	},
	brim: (side, x, y, size) => ((x * 3 + y * 5) % 7 === 0 ? (straw[3] as Hex) : cloth(straw, 1.4)(side, x, y, size)),
	crown: (side, x, y, size) => (side !== 'top' && y === 2 ? (plum[3] as Hex) : cloth(straw, 1.2)(side, x, y, size)),
};

const inkOf = (name: string): Ink => inks[name] ?? (inks[name.split(' ').at(-1) as string] as Ink);

/** Draws the suit; what is on the left arm and leg is repeated on their twins. */
function draw(engine: Engine): void {
	const set = keeperFigure.boxes.flatMap((box) => {
		if (/^Right/.test(box.name)) return [];
		const { size, place } = box;
		const [w, h, d] = size;
		const ink = inkOf(box.name);
		const places: readonly (readonly [Side, number, number, number, number])[] = [
			['left', 0, d, d, h],
			['front', d, d, w, h],
			['right', d + w, d, d, h],
			['back', 2 * d + w, d, w, h],
			['top', d, 0, w, d],
			['foot', d + w, 0, w, d],
		];
		return places.flatMap(([side, left, top, wide, high]) =>
			Array.from({ length: wide * high }, (_, i) => {
				const [x, y] = [i % wide, Math.floor(i / wide)];
				return [place[0] + left + x, place[1] + top + y, ink(side, x, y, size)] as const;
			}).filter(([, , color]) => color !== null),
		);
	});
	engine.edit('suit', 'suit-texels', { do: 'texels', set });
	for (const name of ['Left arm', 'Left leg'])
		engine.repeatOnTwin(
			'suit-figure',
			keeperFigure.boxes.findIndex((box) => box.name === name),
			{ suit: 'suit-texels' },
		);
}

/** Makes it where it is asked for. */
export async function makeSuitProjects(wanted: (id: string) => boolean): Promise<DemoProject[]> {
	if (!suitIds.some(wanted)) return [];
	const mesh = figureMesh(keeperFigure);
	const bytes = new TextEncoder().encode(figureText(keeperFigure));
	const [width, height] = keeperFigure.sheet;
	const project: Project = {
		schema: 1,
		id: 'demo-suit',
		name: 'Mossbarrow suit',
		palette: apiaryPalette,
		models: [
			{
				id: 'suit-figure',
				name: keeperFigure.name,
				asset: { hash: createHash('sha256').update(bytes).digest('hex'), name: 'beekeeper.json' },
				parts: mesh.parts.map(({ name }) => ({ name, sheet: 'suit', shown: true })),
			},
		],
		sheets: [
			{
				id: 'suit',
				name: 'Suit',
				width,
				height,
				bleed: 0,
				base: null,
				guide: null,
				pixel: true,
				layers: [paintLayer('suit-texels', 'Texels')],
			},
		],
	};
	const engine = openEngine(await loadKernels(), project, [], new Map([['suit-figure', mesh]]));
	draw(engine);
	const { center, radius } = meshBounds(mesh);
	const view = framing({ ...homeCamera, yaw: 28, pitch: 12 }, center, radius, 1, 1);
	return [
		{
			engine,
			view,
			files: [{ name: 'beekeeper.json', bytes }],
			desk: { ...emptyDesk, sheet: 'suit', camera: view, front: '#e8b345', back: '#523521' },
		},
	];
}
