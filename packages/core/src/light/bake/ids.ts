import { hexOfOklch, rgbOfHex } from '../../color/index.ts';
import { latticeValue } from '../../raster/index.ts';
import { among, one, seed } from '../../shape/index.ts';
import { type BakeBase, type BakeKind, bakeShape, colorBytes } from './kind.ts';

/** A colour for each part, island or face, to choose by. */
export interface IdsBake extends BakeBase {
	readonly bake: 'ids';
	readonly by: 'part' | 'island' | 'face';
	/** Other colours. */
	readonly seed: number;
}

/** Turns of hues that lie well apart one after the other: the golden angle. */
const GOLDEN = 137.508;

/** The colour of a piece, 0..1 a channel; pieces numbered one after the other differ much. */
export function pieceColor(piece: number, seed: number): readonly [number, number, number] {
	const h = (piece * GOLDEN + latticeValue(seed, 3, 5, 1) * 360) % 360;
	const L = 0.55 + 0.25 * latticeValue(piece, 7, 1, seed);
	const [r, g, b] = rgbOfHex(hexOfOklch({ l: L, c: 0.13, h }));
	return [r / 255, g / 255, b / 255];
}

export const ids: BakeKind<IdsBake> = {
	bake: 'ids',
	shape: bakeShape({ bake: one('ids'), by: among(['part', 'island', 'face']), seed }),
	format: 'color',
	dear: () => false,
	words: ({ by }) => `A colour for each ${by}`,
	make(bake, ground) {
		const fields = ids.fields(bake, ground);
		return fields && ground.surface ? colorBytes(ground.planes, fields, ground.surface.face) : null;
	},
	fields({ by, seed }, { planes, surface }) {
		if (!surface) return null;
		const { face } = surface;
		const of = { island: surface.islandOf, part: surface.partOf, face: (each: number) => each }[by];
		const to = [planes.take(face.length), planes.take(face.length), planes.take(face.length)];
		const [r, g, b] = to.map((at) => planes.floats(at, face.length)) as [Float32Array, Float32Array, Float32Array];
		const known = new Map<number, readonly [number, number, number]>();
		for (let i = 0; i < face.length; i++) {
			if ((face[i] as number) < 0) continue;
			const piece = of(face[i] as number);
			let color = known.get(piece);
			if (!color) known.set(piece, (color = pieceColor(piece, seed)));
			[r[i], g[i], b[i]] = color as [number, number, number];
		}
		return to;
	},
};
