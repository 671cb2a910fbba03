import { guardLets, type Layer, type Sheet } from '../document/index.ts';
import { takenAt } from '../projection/index.ts';
import type { Scene } from '../scene/index.ts';
import type { Sample } from '../stroke/index.ts';
import { Kind, type Surface } from '../surface/index.ts';
import { nothingSelected, type Refusal } from './refusal.ts';
import type { StrokeSpec } from './strokeSpec.ts';

/** A stroke that changed nothing, and what it went over. */
export interface Missed {
	readonly spec: StrokeSpec;
	readonly sheet: Sheet;
	readonly layer: Layer;
	/** What it would have changed; undefined where that is several. */
	readonly surface: Surface | undefined;
	readonly scene: Scene | undefined;
	readonly sheets: readonly Sheet[];
	readonly samples: readonly Sample[];
	/** Any texel took a part of its dabs. */
	readonly touched: boolean;
}

const say = (code: Refusal['code'], text: string, mend: Refusal['mend'] = null): Refusal => ({ code, text, mend });

/** The faces under a stroke's samples, each once. */
function facesUnder({ spec: { place }, scene, sheets, samples, sheet }: Missed): number[] {
	if (!scene) return [];
	const spots = samples.map(({ x, y }) =>
		place.on === 'model' ? scene.spotAt(sheets, place.sight, x, y) : scene.spotOn(sheet, null, x, y),
	);
	return [...new Set(spots.flatMap((spot) => (spot ? [spot.face] : [])))];
}

/** Why nothing of the surface took any of it. */
function whyNowhere(missed: Missed, faces: readonly number[]): Refusal {
	const { spec, scene, sheet } = missed;
	const { place } = spec;
	if (place.on === 'sheet') return say('off-model', 'The stroke ran beside the sheet.');
	if (faces.length === 0) return say('off-model', 'The stroke ran beside the model.');
	const map = scene?.mapOf(sheet);
	const bare = (face: number): boolean => map !== undefined && map.spanOffset[face] === map.spanOffset[face + 1];
	if (faces.every(bare))
		return say(
			'no-area',
			'The faces under the brush have no area on the sheet: their UVs are flat, or smaller than a texel. Unwrap them anew, or make the sheet larger.',
		);
	const view = scene?.viewOf(place.sight);
	if (view && faces.every((face) => takenAt(view, view.facing[face] as number) < 0.1))
		return say(
			'edge-on',
			'That side is seen edge-on, so it takes no paint. Turn the model, or let the brush reach all front faces.',
		);
	return say('nothing-there', 'Nothing under the brush took paint.');
}

/** Why a stroke changed nothing, with the way out where there is one. */
export function whyMissed(missed: Missed): Refusal {
	const { spec, sheet, layer, surface, scene, touched } = missed;
	const faces = facesUnder(missed);
	const { guard } = spec;
	if (guard && scene && faces.length)
		if (
			!faces.some((face) => guardLets(guard, face, scene.partOfFace(face), scene.topology.islandOfFace[face] as number))
		)
			return say('guarded', 'The guard keeps paint off here.', { label: 'Lift the guard', liftGuard: true });
	if (!touched) return whyNowhere(missed, faces);
	if (sheet.selection) return nothingSelected(sheet);
	if (guard?.tone)
		return say('guarded', 'The tone that guards lets nothing through here.', {
			label: 'Lift the guard',
			liftGuard: true,
		});
	if (spec.stencil) return say('guarded', 'The stencil lets nothing through here.');
	const empty = surface?.kinds.every((kind) => kind === Kind.empty) === true;
	if (!spec.onMask && layer.lockAlpha)
		return say(
			'keeps-shape',
			empty
				? `"${layer.name}" keeps its shape, and it is empty: there is nothing that could take paint.`
				: `"${layer.name}" keeps its shape, and it has none here that could take paint.`,
			{
				label: 'Let it grow',
				command: { do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { lockAlpha: false } },
			},
		);
	if (spec.tool === 'draw') return say('nothing-there', `"${layer.name}" has that colour here already.`);
	return say('nothing-there', `There is nothing on "${layer.name}" here that this tool would change.`);
}
