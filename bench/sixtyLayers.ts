/** Engine time of single acts on a sheet of 60 layers at 2048²: `npx tsx bench/sixtyLayers.ts`. Prints the median of five in ms. */
import { adjustLayer, type Layer, type Project, paintLayer, washLayer } from '@eppu/core/document';
import { openEngine } from '@eppu/core/engine';
import { newFinish } from '@eppu/core/finish';
import { newStep } from '@eppu/core/recipe';
import { defaultTip } from '@eppu/core/stroke';
import { loadKernels } from '@eppu/kernels/node';

const SIDE = 2048;
const kinds: readonly ((i: number) => Layer)[] = [
	(i) => adjustLayer(`a${i}`, `Tone ${i}`, { op: 'contrast', brightness: 0.02, contrast: 0.05 }),
	(i) => ({
		...washLayer(`w${i}`, `Wash ${i}`, '#806040'),
		mask: { surface: `w${i}-m`, on: true, recipe: [newStep('clouds', 'a'), newStep('levels', 'b')] },
	}),
	(i) => ({
		...paintLayer(`p${i}`, `Paint ${i}`, { clip: true, mode: 'multiply' }),
		finishes: [newFinish('outline', 'o')],
	}),
];
const layers = Array.from({ length: 60 }, (_, i) => {
	const odd = [3, 5, 7].indexOf(i % 10);
	return odd < 0 ? paintLayer(`p${i}`, `Paint ${i}`, { opacity: 0.8 }) : (kinds[odd] as (i: number) => Layer)(i);
});
const project: Project = {
	schema: 1,
	id: 'p',
	name: 'Sixty',
	models: [],
	sheets: [{ id: 's', name: 'Sheet', width: SIDE, height: SIDE, bleed: 16, base: null, layers, guide: null }],
	palette: { name: 'Few', colors: ['#000000'] },
};
const engine = openEngine(await loadKernels(), project, [], new Map());
const stroke = (layer: string, size: number, ...places: readonly (readonly [number, number])[]): void => {
	const [first, ...rest] = places.map(([x, y]) => ({ x, y, pressure: 1 }));
	const tip = { ...defaultTip, size };
	engine.begin(
		{ tool: 'draw', tip, color: '#a05030', place: { on: 'sheet', sheet: 's' }, layers: { s: layer } },
		first ? [first] : [],
	);
	engine.extend(rest);
	engine.end();
};
for (const layer of layers)
	if (layer.kind === 'paint')
		for (let k = 0; k < 3; k++) stroke(layer.id, 200, [100 + k * 400, 200], [600 + k * 300, 1800]);
engine.refresh(() => false);

let n = 0;
const acts: Readonly<Record<string, () => void>> = {
	'add a layer': () => void engine.run({ do: 'layer.add', sheet: 's', layer: paintLayer(`new${n++}`, 'New'), at: 60 }),
	'undo it': () => void engine.undo(),
	'a stroke, settled': () => {
		stroke('p20', 60, [500, 500], [900, 900]);
		engine.refresh(() => false);
	},
	'a stroke under an outline, settled': () => {
		stroke('p17', 60, [500, 500], [900, 900]);
		engine.refresh(() => false);
	},
	'undo that': () => {
		engine.undo();
		engine.refresh(() => false);
	},
};
for (const [name, act] of Object.entries(acts)) {
	const times = Array.from({ length: 5 }, () => {
		const from = performance.now();
		act();
		return performance.now() - from;
	}).sort((a, b) => a - b);
	console.log(`${name}: ${Math.round(times[2] as number)} ms`);
}
engine.close();
