import type { Dab } from './dab.ts';
import type { Target } from './target.ts';

/** A line of a sheet over which strokes are mirrored: upright at x, or level at y, in texels. */
export interface SheetMirror {
	readonly along: 'x' | 'y';
	readonly at: number;
}

/** A sheet's target on the other side of a line: dabs, places and visits are mirrored. */
export function mirroredSheet(target: Target, { along, at }: SheetMirror): Target {
	const x = (v: number): number => (along === 'x' ? 2 * at - v : v);
	const y = (v: number): number => (along === 'y' ? 2 * at - v : v);
	const dab = (d: Dab): Dab => ({
		...d,
		x: x(d.x),
		y: y(d.y),
		angle: along === 'x' ? Math.PI - d.angle : -d.angle,
		flip: !d.flip,
	});
	return {
		dab: (coverage, d, buildUp, before) => target.dab(coverage, dab(d), buildUp, before && dab(before)),
		warm: (px, py, radius) => target.warm(x(px), y(py), radius),
		around: (coverage, px, py, reach, visit) =>
			target.around(coverage, x(px), y(py), reach, (index, tx, ty) => visit(index, x(tx), y(ty))),
		placesOf: (tile) => target.placesOf(tile).map((v, i) => (i % 2 ? y(v) : x(v))),
	};
}

/** Every set of some of the mirrors, the empty one (the brush itself) first: each set makes one image of a stroke. */
export const mirrorSets = <T>(mirrors: readonly T[]): T[][] =>
	mirrors.reduce<T[][]>((all, each) => all.concat(all.map((some) => some.concat([each]))), [[]]);
