/** A process of its own: how much memory a sheet of so many texels a side with twenty layers takes, a third of their tiles covered. */

import { paintLayer } from '@eppu/core/document';
import { type KeptTile, openEngine } from '@eppu/core/engine';
import { defaultTip, unruled } from '@eppu/core/stroke';
import { TILE } from '@eppu/core/surface';
import { loadKernels } from '@eppu/kernels/node';
import { benchMesh, benchProject, seeded } from './scenes.ts';

const SIZE = Number(process.argv[2] ?? 4096);
const LAYERS = 20;
const TILES = (SIZE / TILE) ** 2;

const mesh = benchMesh();
const layers = Array.from({ length: LAYERS }, (_, i) => paintLayer(`p${i}`, `P${i}`));
const project = benchProject(mesh, SIZE, layers);

let covered = 0;
/** Tiles as they come from the store: one after the other. */
function* painted(): Generator<KeptTile> {
	const random = seeded(11);
	for (const layer of layers)
		for (let index = 0; index < TILES; index++) {
			if (random() > 1 / 3) continue;
			const texels = new Uint8Array(TILE * TILE * 4);
			const words = new Uint32Array(texels.buffer);
			for (let i = 0; i < words.length; i++) words[i] = (Math.imul(i + index, 0x9e3779b1) | 0x40000000) >>> 0;
			covered += texels.length;
			yield { surface: layer.surface, index, value: null, texels };
		}
}

const kernels = await loadKernels();
// A list is asked for, and is only walked.
const engine = openEngine(kernels, project, painted() as unknown as readonly KeptTile[], new Map([['m', mesh]]));
const out = kernels.heap.alloc(TILE * TILE * 4);
for (let tile = 0; tile < TILES; tile++) engine.compositeTile('s', tile, out);
const begun = engine.begin(
	{
		tool: 'draw',
		tip: { ...unruled(defaultTip), size: 64 },
		color: '#c08040',
		place: { on: 'sheet', sheet: 's' },
		layers: { s: 'p7' },
	},
	[{ x: 300, y: 300, pressure: 1 }],
);
if (!begun.ok) throw new Error(begun.refusal.text);
for (let i = 1; i < 100; i++) engine.extend([{ x: 300 + i * 20, y: 300 + i * 14, pressure: 1 }]);
engine.end();
console.log(JSON.stringify({ covered, resident: process.memoryUsage().rss }));
