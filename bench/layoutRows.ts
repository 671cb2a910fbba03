/** What laying a model out anew costs: unwrapping, arranging, and taking the paint along. */
import { arrange } from '@eppu/core/arrange';
import { paintLayer } from '@eppu/core/document';
import { openEngine } from '@eppu/core/engine';
import { layoutOf } from '@eppu/core/layout';
import { type LaidMesh, topologyOf } from '@eppu/core/mesh';
import { jointsOf, layFaces, type Piece, type UnwrapWay } from '@eppu/core/unwrap';
import type { Kernels } from '@eppu/kernels';
import { smokerMesh } from '../demo/mesh/smoker.ts';
import { bringLibrary, fillOfLibrary, libraryUnwraps } from '../packages/core/test/oracle/library.ts';
import { lump } from '../packages/core/test/oracle/shapes.ts';
import { undisturbed } from './measure.ts';
import type { Report } from './rows.ts';
import { benchProject } from './scenes.ts';

interface Unwrapped {
	readonly pieces: readonly Piece[];
	/** Edges that were cut. */
	readonly marks: Uint8Array;
	readonly said: string;
}

/** Lays all of a mesh flat, cut where `marks` say at the least. */
function unwrapped(mesh: LaidMesh, way: UnwrapWay, marked?: Uint8Array): Unwrapped {
	const joints = jointsOf(mesh, topologyOf(mesh).place);
	const marks = marked?.slice() ?? new Uint8Array(mesh.indices.length);
	const faces = Array.from({ length: mesh.indices.length / 3 }, (_, face) => face);
	const { pieces } = layFaces(way, { joints, marks, faces, tell: () => undefined });
	let [angle, area, sum] = [0, 0, 0];
	for (const piece of pieces) {
		const own = piece.faces.reduce((all, face) => all + (joints.areas[face] as number), 0);
		angle += own * piece.angleStretch;
		area += own * piece.areaStretch;
		sum += own;
	}
	const said = `${pieces.length} pieces, stretch ${(angle / sum).toFixed(3)} and ${(area / sum).toFixed(3)}`;
	return { pieces, marks, said };
}

/** Few: each takes a second or more. */
const RUNS = 3;

export async function layoutRows(kernels: Kernels, report: Report): Promise<void> {
	const organic = lump(72, 36);
	const faces = organic.indices.length / 3;
	const automatic = { way: 'automatic', less: 0.5 } as const;
	const { said, marks } = unwrapped(organic, automatic);
	await bringLibrary();
	const began = performance.now();
	const { charts } = libraryUnwraps(organic, 1024, 4);
	const library = `the library: ${charts} charts in ${Math.round(performance.now() - began)} ms, packed`;
	await report(
		'unwrap.auto.5k',
		() => undisturbed(RUNS, () => void unwrapped(organic, automatic)),
		null,
		`${faces} faces; ${said}; ${library}`,
	);
	const along = { way: 'seams' } as const;
	await report(
		'unwrap.seams.5k',
		() => undisturbed(RUNS, () => void unwrapped(organic, along, marks)),
		null,
		`the seams that were found; ${unwrapped(organic, along, marks).said}`,
	);
	const { pieces } = unwrapped(smokerMesh(), { way: 'box' });
	const loose = pieces.map(({ uvs }) => ({ uvs, weight: 1 }));
	const put = () => arrange(loose, { width: 1024, height: 1024, margin: 4, turning: 'free', density: null });
	await report(
		'pack.60',
		() => undisturbed(RUNS, () => void put()),
		null,
		`${loose.length} pieces of the smoker, ${Math.round((put()?.fill ?? 0) * 100)} % covered (the library's quick packing: ${Math.round(fillOfLibrary(pieces, 1024, 4) * 100)} %), four texels between them at 1024`,
	);
	const side = 2048;
	const mesh = smokerMesh();
	const engine = openEngine(kernels, benchProject(mesh, side, [paintLayer('p', 'Paint')]), [], new Map([['m', mesh]]));
	const data = new Uint8Array(side * side * 4);
	for (let i = 0; i < data.length; i += 4) data.set([(i >> 3) & 255, (i >> 12) & 255, ((i >> 4) * 7) & 255, 255], i);
	engine.lay('s', 'p', 'color', { width: side, height: side, data }, 'Texels');
	const own = layoutOf(mesh);
	const turned = {
		uvs: own.uvs.map((_, i) => {
			const [u, v] = [(own.uvs[i & ~1] as number) - 0.5, (own.uvs[i | 1] as number) - 0.5];
			return 0.5 + (i % 2 ? 0.2 * u + 0.6 * v : 0.6 * u - 0.2 * v);
		}),
	};
	let [n, turn] = [0, 0];
	await report(
		'carry.2048',
		() =>
			undisturbed(RUNS, () => {
				engine.relay({ layouts: new Map([['m', turn++ % 2 ? null : turned]]) }, 'Lay out', () => `n${n++}`);
				engine.history.clear();
			}),
		null,
		'one layer full of different texels, turned and sized, to and fro',
	);
	engine.close();
}
