/** Random sheets of every kind of layer, for what must hold of all of them. */
import fc from 'fast-check';
import { type BlendMode, blendModes } from '../../src/composite/index.ts';
import {
	adjustLayer,
	eachLayer,
	groupLayer,
	type Layer,
	lightLayer,
	paintLayer,
	textLayer,
	washLayer,
} from '../../src/document/index.ts';
import type { Engine } from '../../src/engine/index.ts';
import { newFinish } from '../../src/finish/index.ts';
import { type LightPreset, lightPresets } from '../../src/light/index.ts';
import { newStep } from '../../src/recipe/index.ts';
import { pictureIntoSurface } from '../../src/surface/index.ts';
import { seeded } from './surfaces.ts';

/** Texels of a side of those sheets. */
export const SIDE = 64;
let names = 0;
export const newId = (): string => `n${names++}`;

/** Noise in blocks of four texels, with clear, half clear and opaque ones. */
export function fill(engine: Engine, seed: number): void {
	const random = seeded(seed);
	const blocks = (channels: number): Uint8Array => {
		const out = new Uint8Array(SIDE * SIDE * channels);
		const tones = Array.from({ length: 256 }, () => Array.from({ length: 4 }, () => Math.floor(random() * 256)));
		for (let y = 0; y < SIDE; y++)
			for (let x = 0; x < SIDE; x++) {
				const tone = tones[(y >> 2) * 16 + (x >> 2)] as number[];
				const alpha = [0, 255, 255, tone[3] as number][(tone[3] as number) % 4] as number;
				if (channels === 1) out[y * SIDE + x] = alpha;
				else out.set([...tone.slice(0, 3), alpha], (y * SIDE + x) * 4);
			}
		return out;
	};
	const sheet = engine.project.sheets[0];
	for (const layer of [...eachLayer(sheet?.layers ?? [])]) {
		if ('surface' in layer) engine.lay('s', layer.id, 'color', { width: SIDE, height: SIDE, data: blocks(4) }, 'Lay');
		const pointers = 'entries' in layer && layer.entries ? engine.surface(layer.entries) : undefined;
		if (pointers) pictureIntoSurface(engine.kernels, { width: SIDE, height: SIDE, data: blocks(4) }, pointers);
		if (layer.mask) engine.lay('s', layer.id, 'mask', { width: SIDE, height: SIDE, data: blocks(1) }, 'Lay');
	}
}

export const noise = { ...newStep('noise', 'r1'), space: 'sheet' } as ReturnType<typeof newStep>;
export const words = {
	text: 'Honey',
	font: 'signboard',
	size: 20,
	color: '#402010',
	spacing: 0,
	leading: 1.2,
	align: 'middle',
	box: null,
	x: 32,
	y: 30,
	turn: 10,
	mirrored: false,
	along: null,
} as const;
export const named: readonly BlendMode[] = blendModes.filter(
	(mode) => !['exclusion', 'subtract', 'divide'].includes(mode),
);
/** A random tree; `modes` are those that its layers blend in. */
export const tree = (modes: readonly BlendMode[]): fc.Arbitrary<Layer[]> => {
	const { layers } = fc.letrec<{ layers: Layer[]; layer: Layer }>((tie) => ({
		layers: fc.array(tie('layer'), { minLength: 1, maxLength: 4 }),
		layer: fc
			.record({
				kind: fc.constantFrom(
					'paint',
					'paint',
					'paint',
					'indexed',
					'wash',
					'text',
					'adjust',
					'finish',
					'recipe',
					'light',
					'group',
				),
				name: fc.oneof(
					fc
						.string({ minLength: 1, maxLength: 12, unit: 'grapheme' })
						.filter((text) => text.trim() === text && !/[\p{C}]/u.test(text)),
					fc.constant('A & <b> "c"'),
				),
				mode: fc.constantFrom<BlendMode>('normal', 'normal', ...modes),
				opacity: fc.constantFrom(1, 1, 0.5, 0.123456789),
				clip: fc.boolean(),
				shown: fc.constantFrom(true, true, true, false),
				locked: fc.boolean(),
				mask: fc.constantFrom('none', 'none', 'on', 'off'),
				isolated: fc.boolean(),
				raised: fc.constantFrom(null, null, 'shape', 'tone'),
				inner: fc.option(tie('layers'), { depthIdentifier: 'tree', maxDepth: 3, nil: null }),
			})
			.map(({ kind, name, inner, isolated, mask, raised, ...rest }): Layer => {
				const id = newId();
				const change = {
					...rest,
					mask: mask === 'none' ? null : { surface: `${id}m`, on: mask === 'on' },
					...(raised && kind !== 'adjust' ? { relief: { from: raised, height: 1.5, soft: 1 } as const } : {}),
				};
				if (kind === 'group' && inner) return groupLayer(id, name, inner, { ...change, isolated });
				if (kind === 'wash') return washLayer(id, name, '#3a7a2c', change);
				if (kind === 'text') return textLayer(id, name, words, change);
				if (kind === 'adjust') return adjustLayer(id, name, { op: 'contrast', brightness: 0.1, contrast: 0.3 }, change);
				if (kind === 'finish')
					return paintLayer(id, name, { ...change, finishes: [newFinish('tint', 'f1'), newFinish('outline', 'f2')] });
				if (kind === 'recipe')
					return paintLayer(id, name, {
						...change,
						mask: { surface: `${id}m`, on: true, recipe: [noise] },
					});
				if (kind === 'light') return lightLayer(id, name, (lightPresets[isolated ? 0 : 1] as LightPreset).rig, change);
				if (kind === 'indexed') return { ...paintLayer(id, name, change), entries: `${id}e` };
				return paintLayer(id, name, change);
			}),
	}));
	return layers as fc.Arbitrary<Layer[]>;
};
