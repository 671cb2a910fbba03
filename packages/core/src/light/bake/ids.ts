import { type Hex, hexOfOklch, hexOfRgb, rgbOfHex } from '../../color/index.ts';
import { latticeValue } from '../../raster/index.ts';
import { among, hex, list, one, seed, strict, words } from '../../shape/index.ts';
import { type BakeBase, type BakeKind, bakeShape, colorBytes } from './kind.ts';

/** A colour for each part, island or face, to choose by. */
export interface IdsBake extends BakeBase {
	readonly bake: 'ids';
	readonly by: 'part' | 'island' | 'face';
	/** Other colours. */
	readonly seed: number;
	/** Parts whose colour was chosen, by the name that the part has. */
	readonly chosen?: readonly { readonly part: string; readonly color: Hex }[];
}

/** Turns of hues that lie well apart one after the other: the golden angle. */
const GOLDEN = 137.508;

/** The colour of a piece, 0..1 a channel; pieces numbered one after the other differ much. */
export function pieceColor(piece: number, seed: number): readonly [number, number, number] {
	const h = (piece * GOLDEN + latticeValue(seed, 3, 5, 1) * 360) % 360;
	const L = 0.55 + 0.25 * latticeValue(piece, 7, 1, seed);
	return shares(hexOfOklch({ l: L, c: 0.13, h }));
}

const MOST_CHOSEN = 4096;

function shares(color: Hex): readonly [number, number, number] {
	const [r, g, b] = rgbOfHex(color);
	return [r / 255, g / 255, b / 255];
}

/** The colour that a part has: the chosen one, or that of its number. */
export const partColor = ({ chosen, seed }: IdsBake, part: number, name: string): Hex =>
	chosen?.find((each) => each.part === name)?.color ?? hexOfRgb(pieceColor(part, seed).map((v) => Math.round(v * 255)));

export const ids: BakeKind<IdsBake> = {
	bake: 'ids',
	shape: bakeShape(
		{
			bake: one('ids'),
			by: among(['part', 'island', 'face']),
			seed,
			chosen: list(strict({ part: words(0, 255), color: hex }), MOST_CHOSEN),
		},
		['chosen'],
	),
	format: 'color',
	dear: () => false,
	words: ({ by }) => `A colour for each ${by}`,
	names: ({ by, chosen }) => by === 'part' && Boolean(chosen?.length),
	make(bake, ground) {
		const fields = ids.fields(bake, ground);
		return fields && ground.surface ? colorBytes(ground.planes, fields, ground.surface.face) : null;
	},
	fields({ by, seed, chosen }, { planes, surface }) {
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
			if (!color) {
				const own = by === 'part' ? chosen?.find(({ part }) => part === surface.partNames[piece]) : undefined;
				known.set(piece, (color = own ? shares(own.color) : pieceColor(piece, seed)));
			}
			[r[i], g[i], b[i]] = color as [number, number, number];
		}
		return to;
	},
};
