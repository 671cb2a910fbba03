/** The plank hive box: two stacked boxes of boards, a floor with a landing lip, and a pitched roof; one sheet. */
import type { LaidMesh } from '@eppu/core/mesh';
import { addBox, createMeshBuilder, type P3, type Rect } from './shapes.ts';

const row = (y: number, h: number, widths: readonly number[], from = 0.014): Rect[] => {
	let x = from;
	return widths.map((w) => {
		const rect = { x, y, w, h };
		x += w + 0.02;
		return rect;
	});
};

export const hiveRects = {
	upper: [...row(0.014, 0.16, [0.25, 0.22, 0.25, 0.18])],
	lower: [...row(0.2, 0.16, [0.25, 0.22, 0.25, 0.18])],
	roofSlopes: row(0.39, 0.22, [0.3, 0.3]),
	roofEnds: row(0.39, 0.1, [0.15, 0.15], 0.66),
	roofEdges: [...row(0.52, 0.03, [0.15, 0.15], 0.66), ...row(0.57, 0.03, [0.15, 0.15], 0.66)],
	floor: row(0.64, 0.035, [0.28, 0.22, 0.22, 0.2]),
	floorTop: row(0.71, 0.21, [0.27, 0.27]),
	feet: row(0.71, 0.06, [0.06, 0.06, 0.06, 0.06], 0.62),
	eaves: row(0.8, 0.025, [0.17, 0.17], 0.62),
	undersides: row(0.85, 0.08, [0.15, 0.15], 0.62),
};

export function hiveMesh(): LaidMesh {
	const builder = createMeshBuilder();
	builder.part('Upper box');
	addBox(builder, [0, 0.52, 0], [1, 0.52, 0.86], hiveRects.upper, 2);
	builder.part('Lower box');
	addBox(builder, [0, -0.02, 0], [1.03, 0.54, 0.89], hiveRects.lower, 2);
	builder.part('Floor');
	const [top, under] = hiveRects.floorTop;
	addBox(builder, [0, -0.345, 0.07], [1.12, 0.11, 1.1], [...hiveRects.floor, top as Rect, under as Rect], 2);
	builder.part('Roof');
	const [eave, ridge, deep, thick] = [0.62, 1.12, 0.56, 0.06];
	[1, -1].forEach((s, i) => {
		const at = (u: number, v: number, lift = 0): P3 => [
			s * (eave * v),
			ridge - (ridge - 0.76) * v + lift,
			s * (deep - 2 * deep * u),
		];
		const rect = (list: readonly Rect[], k: number): Rect => list[k] as Rect;
		builder.grid(3, 3, (u, v) => at(u, v), rect(hiveRects.roofSlopes, i));
		builder.grid(3, 1, (u, v) => at(1 - u, v, -thick), rect(hiveRects.undersides, i));
		builder.grid(3, 1, (u, v) => at(u, 1, -thick * v), rect(hiveRects.eaves, i));
		// The rakes: the slope's thickness at its two ends.
		builder.grid(3, 1, (u, v) => at(0, u, -thick * v), rect(hiveRects.roofEdges, i * 2));
		builder.grid(3, 1, (u, v) => at(1, 1 - u, -thick * v), rect(hiveRects.roofEdges, i * 2 + 1));
	});
	for (const s of [1, -1] as const)
		builder.grid(
			2,
			1,
			(u, v) => [
				s * (2 * u - 1) * eave * (v > 0.5 ? 0.97 : Math.abs(2 * u - 1) < 0.01 ? 0 : 0.97),
				v > 0.5 ? 0.74 : ridge - 0.03 - (ridge - 0.79) * Math.abs(2 * u - 1),
				s * 0.5,
			],
			hiveRects.roofEnds[s > 0 ? 0 : 1] as Rect,
		);
	builder.part('Feet');
	[-1, 1].forEach((x, i) =>
		addBox(
			builder,
			[x * 0.4, -0.47, 0],
			[0.12, 0.14, 0.8],
			[hiveRects.feet[i * 2] as Rect, hiveRects.feet[i * 2 + 1] as Rect],
		),
	);
	return builder.mesh();
}
