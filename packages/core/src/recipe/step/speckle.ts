import { latticeValue } from '../../raster/index.ts';
import { one, share } from '../../shape/index.ts';
import { smooth, spread } from '../spread.ts';
import {
	type Chance,
	chanceShape,
	type SourceKind,
	sizeDial,
	sourceShape,
	spaceChoice,
	unitDial,
	usualChance,
} from './kind.ts';

export interface Speckle extends Chance {
	readonly step: 'speckle';
	readonly dense: number;
	readonly soft: number;
}

/** Dots: the nearest of the points that stand, one a cube, where chance has them, within their own radius. */
function speckleAt(x: number, y: number, z: number, seed: number, amount: number, soft: number, flat: boolean): number {
	const [ix, iy, iz] = [Math.floor(x), Math.floor(y), Math.floor(z)];
	let best = 0;
	for (let dz = flat ? 0 : -1; dz <= (flat ? 0 : 1); dz++)
		for (let dy = -1; dy <= 1; dy++)
			for (let dx = -1; dx <= 1; dx++) {
				const [cx, cy, cz] = [ix + dx, iy + dy, iz + dz];
				if (latticeValue(cx, cy, cz, seed + 3) > amount) continue;
				const px = cx + latticeValue(cx, cy, cz, seed);
				const py = cy + latticeValue(cx, cy, cz, seed + 1);
				const pz = flat ? z : cz + latticeValue(cx, cy, cz, seed + 2);
				const r = 0.12 + 0.33 * latticeValue(cx, cy, cz, seed + 4);
				const d = Math.hypot(x - px, y - py, z - pz);
				best = Math.max(best, 1 - smooth(r * (1 - soft), r * (1 + 0.001 + 0.3 * soft), d));
			}
	return best;
}

export const speckle: SourceKind<Speckle> = {
	step: 'speckle',
	words: 'Speckle',
	takes: 'source',
	shape: sourceShape({ ...chanceShape, step: one('speckle'), dense: share, soft: share }),
	usual: { step: 'speckle', dense: 0.5, soft: 0.3, ...usualChance, size: 3 },
	dials: [sizeDial, unitDial('dense', 'Dense'), unitDial('soft', 'Soft')],
	choices: [spaceChoice],
	dear: true,
	field({ space, size, seed, dense, soft }, ground, only) {
		const k = 1 / Math.max(0.05, size);
		const flat = !ground.surface || space === 'sheet';
		return spread(ground, space, only, (x, y, z) => speckleAt(x * k, y * k, z * k, seed, dense, soft, flat));
	},
};
