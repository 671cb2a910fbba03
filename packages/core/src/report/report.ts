import { bare } from './finding/bare.ts';
import { doubled } from './finding/doubled.ts';
import { forked, open, turned } from './finding/edges.ts';
import { flat } from './finding/flat.ts';
import { mirrored } from './finding/mirrored.ts';
import { near } from './finding/near.ts';
import { outside } from './finding/outside.ts';
import { overlap } from './finding/overlap.ts';
import { starved, stretched } from './finding/scale.ts';
import { type FaceMeasures, measureFaces, type ReportGround } from './ground.ts';
import type { Finding, FindingKind } from './kind.ts';
import { type PartMeasures, partMeasures, usualDensity } from './parts.ts';

/** All that is looked for, in the order in which it is told: a new one is a line here. */
export const findingKinds: readonly FindingKind[] = [
	bare,
	outside,
	turned,
	overlap,
	near,
	mirrored,
	stretched,
	starved,
	forked,
	doubled,
	open,
	flat,
];

/** What a model on its sheets is like. */
export interface MeshReport {
	readonly findings: readonly Finding[];
	readonly parts: readonly PartMeasures[];
	readonly faces: FaceMeasures;
	/** Texels along a unit, as most of the surface has them. */
	readonly usual: number;
	/** Per sheet: the share of it that faces cover, counted as often as they do. */
	readonly fill: readonly number[];
}

export function reportOf(ground: ReportGround): MeshReport {
	const faces = measureFaces(ground);
	const fill = ground.sheets.map(({ width, height }, sheet) => {
		let covered = 0;
		faces.texels.forEach((area, face) => {
			if (ground.sheetOfPart[faces.partOfFace[face] as number] === sheet) covered += Math.abs(area);
		});
		return covered / (width * height);
	});
	return {
		findings: findingKinds.flatMap((kind) => kind.find(ground, faces)),
		parts: partMeasures(ground, faces),
		faces,
		usual: usualDensity(faces),
		fill,
	};
}
