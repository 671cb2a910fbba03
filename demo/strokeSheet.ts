/** A picture of every tip and tool, light and firm, flat and on a ball. Usage: tsx demo/strokeSheet.ts [FILE] */
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { apiaryPalette } from '@eppu/core/color';
import { type Project, paintLayer, washLayer } from '@eppu/core/document';
import { openEngine, type StrokeSpec } from '@eppu/core/engine';
import { homeCamera, renderModel } from '@eppu/core/projection';
import { type Sample, shippedTips, tipOfShipped } from '@eppu/core/stroke';
import { loadKernels } from '@eppu/kernels/node';
import sharp, { type OverlayOptions } from 'sharp';
import { around, createMeshBuilder } from './mesh/shapes.ts';

const [FLAT_W, FLAT_H, BALL] = [240, 72, 72];
const kernels = await loadKernels();

const ball = (() => {
	const builder = createMeshBuilder();
	builder.part('Ball');
	const rect = { x: 0.02, y: 0.02, w: 0.96, h: 0.96 };
	builder.grid(
		40,
		24,
		(u, v) => around(u, Math.sin((0.01 + 0.98 * v) * Math.PI), Math.cos((0.01 + 0.98 * v) * Math.PI)),
		rect,
	);
	return builder.mesh();
})();

const projectOf = (width: number, height: number, withBall: boolean): Project => ({
	schema: 1,
	id: 'sheet',
	name: 'Stroke sheet',
	palette: apiaryPalette,
	models: withBall
		? [
				{
					id: 'ball',
					name: 'Ball',
					asset: { hash: '0'.repeat(64), name: 'ball.glb' },
					parts: [{ name: 'Ball', sheet: 's', shown: true }],
				},
			]
		: [],
	sheets: [
		{
			id: 's',
			name: 'Sheet',
			width,
			height,
			bleed: 4,
			base: null,
			layers: [washLayer('w', 'Ground', '#e7dfcd'), paintLayer('under', 'Under'), paintLayer('p', 'Paint')],
			guide: null,
		},
	],
});

/** An S of the pen over a box, pressing from `least` to `most` and back, leaning and quickening. */
const wave = (x: number, y: number, w: number, h: number, least: number, most: number): Sample[] =>
	Array.from({ length: 41 }, (_, i) => {
		const t = i / 40;
		const press = Math.sin(Math.PI * Math.min(1, t * 1.05)) ** 0.8;
		return {
			x: x + w * t,
			y: y + h * (0.5 - 0.42 * Math.sin(t * 2 * Math.PI)),
			pressure: least + (most - least) * press,
			tilt: 0.3,
			azimuth: 0.8,
			time: i * 9,
		};
	});

interface Row {
	readonly label: string;
	readonly spec: Partial<StrokeSpec>;
	readonly striped: boolean;
}

const size = 22;
const base = {
	...tipOfShipped('round', size),
	edge: 0.4,
	strength: 1,
	rules: tipOfShipped('round', size).rules.slice(1),
};
const stencil = {
	place: [1 / 80, 0, 0, 0, 1 / 80, 0] as const,
	space: 'view' as const,
	tile: true,
	invert: false,
	soft: 0,
	opacity: 1,
};
const rows: Row[] = [
	...shippedTips.map(({ name, label }) => ({
		label,
		striped: false,
		spec: { tool: 'draw' as const, tip: tipOfShipped(name, name === 'pixel' ? 6 : size) },
	})),
	...(
		[
			['Wipe', 'wipe', 1],
			['Soften', 'soften', 1],
			['Smear', 'smear', 1],
			['Lighten', 'lighten', 0.7],
			['Darken', 'darken', 0.7],
			['Contrast', 'contrast', 0.8],
			['Saturate', 'saturate', 0.9],
			['Hue shift', 'hue', 0.25],
		] as const
	).map(([label, tool, amount]) => ({ label, striped: true, spec: { tool, amount, tip: base } })),
	{
		label: 'Stencil, through',
		striped: false,
		spec: {
			tool: 'draw' as const,
			tip: { ...base, size: 60 },
			stencil: { ...stencil, picture: 'honeycomb', mode: 'through' as const },
		},
	},
	{
		label: 'Stencil, printed',
		striped: false,
		spec: {
			tool: 'draw' as const,
			tip: { ...base, size: 60 },
			stencil: { ...stencil, picture: 'shingles', mode: 'print' as const },
		},
	},
];

const stripes = ['#b85a33', '#f3e9d2', '#2d485b', '#e8b345', '#4b653f', '#8d392b'];

function paint(row: Row, width: number, height: number, withBall: boolean, lines: readonly Sample[][]) {
	const engine = openEngine(
		kernels,
		projectOf(width, height, withBall),
		[],
		withBall ? new Map([['ball', ball]]) : new Map(),
	);
	if (row.striped) {
		const data = new Uint8Array(width * height * 4);
		for (let i = 0; i < width * height; i++) {
			const hex = stripes[Math.floor(((i % width) / width) * (withBall ? 24 : 12)) % 6] as string;
			const n = Number.parseInt(hex.slice(1), 16);
			data.set([n >> 16, (n >> 8) & 255, n & 255, 255], i * 4);
		}
		engine.lay('s', 'p', 'color', { width, height, data }, 'Stripes');
	}
	for (const [i, line] of lines.entries()) {
		const spec: StrokeSpec = {
			tool: 'draw',
			color: '#8d392b',
			tip: base,
			seed: 7 + i,
			place: withBall
				? { on: 'model', model: 'ball', sight: { camera: camera, width: BALL * 2, height: BALL * 2 } }
				: { on: 'sheet', sheet: 's' },
			layers: { s: 'p' },
			...row.spec,
		};
		const begun = engine.begin(spec, line.slice(0, 1));
		if (!begun.ok) throw new Error(begun.refusal.text);
		engine.extend(line.slice(1));
		engine.end();
	}
	return engine;
}
const camera = { ...homeCamera, yaw: 20, pitch: 15, distance: 3.7 };

const COLUMNS = 2;
const [CELL_W, CELL_H] = [FLAT_W * 2 + BALL * 2 + 44, FLAT_H + 30];
const width = CELL_W * COLUMNS + 40;
const perColumn = Math.ceil(rows.length / COLUMNS);
const height = CELL_H * perColumn + 40;
const overlays: OverlayOptions[] = [];
const words: string[] = [];
const add = (data: Uint8Array, w: number, h: number, left: number, top: number): void => {
	overlays.push({ input: Buffer.from(data), raw: { width: w, height: h, channels: 4 }, left, top });
};
for (const [i, row] of rows.entries()) {
	const left = 20 + Math.floor(i / perColumn) * CELL_W;
	const top = 20 + (i % perColumn) * CELL_H;
	words.push(`<text x="${left}" y="${top + 13}">${row.label}</text>`);
	for (const [k, press] of [
		[0.12, 0.4],
		[0.5, 1],
	].entries()) {
		const [least, most] = press as [number, number];
		const flat = paint(row, FLAT_W, FLAT_H, false, [wave(24, 10, FLAT_W - 48, FLAT_H - 20, least, most)]);
		add(flat.composite('s').data, FLAT_W, FLAT_H, left + k * (FLAT_W + 8), top + 20);
		flat.close();
		const round = paint(row, 512, 512, true, [wave(34, 44, BALL * 2 - 68, BALL * 2 - 88, least, most)]);
		const picture = renderModel(ball, [round.composite('s')], camera, BALL, BALL);
		add(picture.data, BALL, BALL, left + 2 * (FLAT_W + 8) + k * (BALL + 6), top + 20);
		round.close();
	}
}
const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><g font-family="Liberation Sans, DejaVu Sans, sans-serif" font-size="13" fill="#26231e">${words.join('')}</g></svg>`;
const file = process.argv[2] ?? fileURLToPath(new URL('../docs/screenshots/stroke-sheet.png', import.meta.url));
const png = await sharp({ create: { width, height, channels: 3, background: '#777777' } })
	.composite([...overlays, { input: Buffer.from(svg.replace('#26231e', '#ffffff')), left: 0, top: 0 }])
	.png({ compressionLevel: 9 })
	.toBuffer();
writeFileSync(file, png);
console.log(`${file}: ${rows.length} rows, ${Math.round(png.length / 1024)} KB`);
