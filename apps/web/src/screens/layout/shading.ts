import { rgbOfHex, tintOf } from '@eppu/core/color';
import type { MeshReport } from '@eppu/core/report';
import { sheetIn, useStudio } from '../../studio/store.ts';
import type { ShownModel } from '../../studio/told.ts';

/** One way to colour faces, with what its colours mean. */
export interface Shade {
	readonly name: string;
	readonly words: string;
	/** Colours, and what each stands for; none where they only tell pieces apart. */
	readonly legend: readonly (readonly [color: string, words: string])[];
	/** A checker with letters and numbers in the place of the paint. */
	readonly checker?: true;
	/** Red, green, blue of each face; null leaves the paint. */
	colors(model: ShownModel, report: MeshReport): Uint8Array | null;
}

const byFace = (faces: number, colorOf: (face: number) => string): Uint8Array => {
	const known = new Map<string, readonly number[]>();
	const out = new Uint8Array(faces * 3);
	for (let face = 0; face < faces; face++) {
		const hex = colorOf(face);
		let rgb = known.get(hex);
		if (!rgb) known.set(hex, (rgb = rgbOfHex(hex)));
		out.set(rgb, face * 3);
	}
	return out;
};

const bands = [
	[0.5, '#3f6fb5', 'less than half as fine'],
	[0.8, '#8fb1d8', 'coarser'],
	[1.25, '#e6e1d6', 'as usual'],
	[2, '#9cc7ac', 'finer'],
	[Number.POSITIVE_INFINITY, '#2f7d5b', 'more than twice as fine'],
] as const;
const lengths = [
	[1.15, '#e6e1d6', 'square'],
	[1.5, '#b7c6e0', 'up to 1.5 times as long as wide'],
	[2, '#7f92c9', 'up to twice'],
	[Number.POSITIVE_INFINITY, '#46439a', 'more'],
] as const;
/** By how often the bleed fits between an island and the nearest other one. */
const rooms = [
	[1, '#a92c45', 'less than its bleed'],
	[1.99, '#e0a15c', 'less than twice its bleed'],
	[Number.POSITIVE_INFINITY, '#e6e1d6', 'room enough'],
] as const;
const bleedOf = (id: string): number => sheetIn(useStudio.getState(), id)?.bleed ?? 0;
const none = '#777777';
const inBand = (list: readonly (readonly [number, string, string])[], value: number): string =>
	list.find(([most]) => value <= most)?.[1] ?? none;

/** Tints that tell islands apart. */
export const islandColors = ({ islandOfFace }: ShownModel): Uint8Array =>
	byFace(islandOfFace.length, (face) => tintOf(islandOfFace[face] as number));

/** All ways, in the order in which they are offered: a new one is a line here. */
export const shades: readonly Shade[] = [
	{
		name: 'islands',
		words: 'Islands',
		legend: [],
		colors: islandColors,
	},
	{
		name: 'density',
		words: 'Texel density',
		legend: bands.map(([, color, words]) => [color, words]),
		colors(_model, report) {
			const { usual } = report;
			const { density } = report.faces;
			return byFace(density.length, (face) =>
				density[face] ? inBand(bands, (density[face] as number) / usual) : none,
			);
		},
	},
	{
		name: 'stretch',
		words: 'Stretch',
		legend: lengths.map(([, color, words]) => [color, words]),
		colors: (_model, { faces: { stretch, density } }) =>
			byFace(stretch.length, (face) => (density[face] ? inBand(lengths, stretch[face] as number) : none)),
	},
	{
		name: 'mirrored',
		words: 'Mirrored',
		legend: [
			['#e6e1d6', 'reads right'],
			['#7b5ea7', 'reads backwards'],
			[none, 'no place on a sheet'],
		],
		colors: (_model, { faces: { texels } }) =>
			byFace(texels.length, (face) => {
				const area = texels[face] as number;
				return area === 0 ? none : area > 0 ? '#7b5ea7' : '#e6e1d6';
			}),
	},
	{
		name: 'bleed',
		words: 'Room for bleed',
		legend: rooms.map(([, color, words]) => [color, words]),
		colors: (model, { faces: { gap } }) => {
			const bleeds = model.parts.map(({ sheet }) => bleedOf(sheet));
			return byFace(gap.length, (face) => {
				const bleed = bleeds[model.partOfFace[face] as number] || 1;
				return inBand(rooms, (gap[face] as number) / bleed);
			});
		},
	},
	{ name: 'checker', words: 'Numbered checker', legend: [], checker: true, colors: () => null },
	{ name: 'paint', words: 'Paint', legend: [], colors: () => null },
];
