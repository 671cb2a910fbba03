import { type FindingKind, facesWhere } from '../kind.ts';
import { partMeasures, usualDensity } from '../parts.ts';

/** How far a part's texels may be from the usual before it is told. */
const APART = 2;
/** How many times as long as wide texels may be. */
const LONG = 1.5;

/** Parts with too few texels, or more than others. */
export const starved: FindingKind = {
	kind: 'starved',
	find(ground, measures) {
		const parts = partMeasures(ground, measures);
		const usual = usualDensity(measures);
		return parts.flatMap(({ name, density }, part) => {
			if (!density || !usual) return [];
			const by = density / usual;
			if (by > 1 / APART && by < APART) return [];
			const few = by < 1;
			return [
				{
					kind: 'starved',
					words: `"${name}" has ${(few ? 1 / by : by).toFixed(1)} times ${few ? 'fewer' : 'more'} texels along a length than is usual on this model.`,
					todo: few
						? 'Paint looks coarse there. Make its islands larger.'
						: 'Make its islands smaller, unless it is seen from nearby.',
					faces: facesWhere(measures.areas.length, (face) => measures.partOfFace[face] === part),
					grave: false,
				},
			];
		});
	},
};

/** Parts whose texels are longer than wide. */
export const stretched: FindingKind = {
	kind: 'stretched',
	find: (ground, measures) =>
		partMeasures(ground, measures).flatMap(({ name, stretch }, part) =>
			stretch < LONG
				? []
				: [
						{
							kind: 'stretched',
							words: `Texels of "${name}" are ${stretch.toFixed(1)} times as long as wide.`,
							todo: 'Round dabs look like eggs there. Scale its islands along one axis, or unwrap it anew.',
							faces: facesWhere(
								measures.areas.length,
								(face) => measures.partOfFace[face] === part && (measures.stretch[face] as number) >= LONG,
							),
							grave: false,
						},
					],
		),
};
