import type { FaceMeasures, ReportGround } from './ground.ts';

/** Figures of a part. */
export interface PartMeasures {
	readonly name: string;
	readonly faces: number;
	readonly islands: number;
	/** In space, squared units. */
	readonly area: number;
	/** Texels along a unit, over all of its surface; 0 where it has none. */
	readonly density: number;
	/** How many times as long as wide its texels are, by area. */
	readonly stretch: number;
}

export function partMeasures(
	{ mesh, topology }: ReportGround,
	{ areas, texels, stretch }: FaceMeasures,
): PartMeasures[] {
	return mesh.parts.map(({ name, firstFace, faces }) => {
		let [area, covered, long] = [0, 0, 0];
		const islands = new Set<number>();
		for (let face = firstFace; face < firstFace + faces; face++) {
			islands.add(topology.islandOfFace[face] as number);
			const size = areas[face] as number;
			if (!texels[face]) continue;
			area += size;
			covered += Math.abs(texels[face] as number);
			long += size * (stretch[face] as number);
		}
		return {
			name,
			faces,
			islands: islands.size,
			area,
			density: area > 0 ? Math.sqrt(covered / area) : 0,
			stretch: area > 0 ? long / area : 1,
		};
	});
}

/** The density that is usual on a model: the middle one of its surface, by area; 0 where nothing of it lies on a sheet. */
export function usualDensity({ density, areas }: FaceMeasures): number {
	const list = Uint32Array.from(density.keys()).filter((face) => (density[face] as number) > 0);
	list.sort((a, b) => (density[a] as number) - (density[b] as number));
	const half = list.reduce((sum, face) => sum + (areas[face] as number), 0) / 2;
	let sum = 0;
	for (const face of list) if ((sum += areas[face] as number) >= half) return density[face] as number;
	return 0;
}
