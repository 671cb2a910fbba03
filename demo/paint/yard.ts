/** Paints the lantern and the cart: by where things are on the surface, so that any layout of them will do. */
import { type Layer, paintLayer, washLayer } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import { newStep, presets } from '@eppu/core/recipe';
import { blend, clamp, clouds, noise, paintTexels, rgba } from './brushwork.ts';
import { inStrokes, lit } from './light.ts';

/** Deep colour where the model hides itself from the sky, by its bake. */
const hollows = (id: string, color: string): Layer =>
	washLayer(id, 'Hollows', color, {
		mode: 'multiply',
		opacity: 0.8,
		mask: {
			surface: `${id}-mask`,
			on: true,
			recipe: [
				{ ...newStep('bake', 'sky'), mix: 'replace', bake: 'ao' } as ReturnType<typeof newStep>,
				{ ...newStep('levels', 'depth'), black: 0.08, white: 0.75 } as ReturnType<typeof newStep>,
			],
		},
	});

export const lanternLayers: readonly Layer[] = [
	paintLayer('lan-tin', 'Tin and glass'),
	washLayer('lan-dirt', 'Soot from below', '#3a2f28', {
		opacity: 0.55,
		mask: { surface: 'lan-dirt-mask', on: true, recipe: presets[1]?.steps ?? [] },
	}),
	hollows('lan-hollows', '#33405e'),
	lit('lan-light', 'Light', 'Warm', { strokes: inStrokes(4) }),
	lit('lan-rims', 'Edges picked out', 'Edges picked out'),
	paintLayer('lan-mine', 'Your hand'),
];

export function paintLantern(engine: Engine): void {
	paintTexels(engine, 'lantern', 'lan-tin', 'color', 'Lay the tin', ({ p, part }) => {
		const grain = clouds(p, 4);
		if (part === 'Glass')
			return rgba(blend('#d9b25c', '#f4e2a6', clamp(1.4 - 2 * Math.abs(p[1] - 0.78) + 0.2 * grain)));
		if (part === 'Wires' || part === 'Handle') return rgba(blend('#54514b', '#8d8779', grain));
		return rgba(blend('#2f6155', '#4f8a74', grain));
	});
}

export const cartLayers: readonly Layer[] = [
	paintLayer('cart-wood', 'Wood'),
	washLayer('cart-dirt', 'Mud from below', '#5a4632', {
		opacity: 0.6,
		mask: { surface: 'cart-dirt-mask', on: true, recipe: presets[1]?.steps ?? [] },
	}),
	hollows('cart-hollows', '#43344f'),
	lit('cart-light', 'Light', 'Warm', { strokes: inStrokes(2.5) }),
	lit('cart-rims', 'Edges picked out', 'Edges picked out'),
	paintLayer('cart-mine', 'Your hand'),
];

export function paintCart(engine: Engine): void {
	paintTexels(engine, 'cart', 'cart-wood', 'color', 'Lay the wood', ({ p, part }) => {
		const [x, y, z] = p;
		const rings =
			part === 'Bed' || part === 'Boards' || part === 'Shafts'
				? noise(x * 1.2, y * 16, z * 16)
				: noise(x * 9, y * 9, z * 3);
		const lines = 0.6 * rings + 0.4 * clouds(p, 3);
		if (part === 'Wheels') return rgba(blend('#6d3f33', '#a8684a', lines));
		if (part === 'Boards') return rgba(blend('#3f6f78', '#6fa0a0', lines));
		return rgba(blend('#7f5f3c', '#c09a63', lines));
	});
}
