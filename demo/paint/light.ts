/** The bakes of the demo world's models, and the light that is laid from them. */
import { type Layer, type LightLayer, lightLayer } from '@eppu/core/document';
import { type Bake, lightPresets, type Rig, toneBake } from '@eppu/core/light';

/** What every model of the demo world has. */
export const demoBakes: readonly Bake[] = [
	toneBake('ao', 'Ambient occlusion', 'occlusion', { reach: 35, rays: 64, ground: 'level' }),
	toneBake('edges', 'Edges', 'curvature', { of: 'edges', width: 1.2, strength: 1.3 }),
	toneBake('hollows', 'Hollows', 'curvature', { of: 'hollows', width: 2.5 }),
];

/** A shipped light under another name, with bakes and what else is changed of it. */
export function lit(
	id: string,
	name: string,
	preset: string,
	change: Partial<Rig> = {},
	how: Partial<Layer> = {},
): LightLayer {
	const found = lightPresets.find((each) => each.name === preset);
	if (!found) throw new Error(`There is no light "${preset}".`);
	const rig = { ...found.rig, ...change };
	const read = <T extends { readonly strength: number }>(tint: T, bake: string): T =>
		tint.strength > 0 ? { ...tint, bake } : tint;
	return lightLayer(
		id,
		name,
		{
			...rig,
			occlusion: read(rig.occlusion, 'ao'),
			edges: read(rig.edges, 'edges'),
			hollows: read(rig.hollows, 'hollows'),
		},
		{ mode: found.mode, opacity: found.opacity, ...(how as Partial<LightLayer>) },
	);
}

/** Strokes as wide as these, in hundredths of the model. */
export const inStrokes = (size: number, contrast = 0.3): Rig['strokes'] => ({
	size,
	length: 3,
	turn: 0,
	edge: 0.65,
	contrast,
	seed: 3,
});
