import { linearOfSrgb, luma } from '../../color/index.ts';
import { eachCell, type Ground } from '../../recipe/index.ts';
import { among, bool, one, orNull, pictureId } from '../../shape/index.ts';
import type { MapTexel } from '../../surface/index.ts';
import { assetShape, type BakeBase, type BakeKind, bakeShape, deepBytes, type KeptFile } from './kind.ts';

/** A tone that was baked elsewhere and came as a picture of the whole sheet. */
export interface MapBake extends BakeBase {
	readonly bake: 'map';
	/** A picture that ships or is in the library; 'none' beside a file. */
	readonly picture: string;
	/** A PNG that is kept with the project, as it came: all its size and bits. */
	readonly file?: KeptFile | null;
	readonly channel: 'tone' | 'red' | 'green' | 'blue' | 'alpha';
	/** Its bytes are the tones, or are to be decoded from sRGB first. */
	readonly bytes: 'plain' | 'srgb';
	/** Light for dark: also what turns the green of a normal picture round. */
	readonly turned: boolean;
}

const places = { red: 0, green: 1, blue: 2, alpha: 3 } as const;

export const map: BakeKind<MapBake> = {
	bake: 'map',
	shape: bakeShape(
		{
			bake: one('map'),
			picture: pictureId,
			channel: among(['tone', 'red', 'green', 'blue', 'alpha']),
			bytes: among(['plain', 'srgb']),
			turned: bool,
			file: orNull(assetShape),
		},
		['file'],
	),
	format: 'deep',
	dear: () => false,
	words: () => 'A map from elsewhere',
	pictures: ({ picture, file }) => (file ? [] : [picture]),
	file: ({ file }) => file ?? null,
	make: (bake, ground) => deepBytes(map.fields(bake, ground), ground),
	fields({ picture, file, channel, bytes, turned }, ground) {
		const read = file ? fileReader(ground, file) : pictureReader(ground, picture);
		if (!read) return null;
		const { planes, width, height } = ground;
		const field = planes.take(width * height);
		const out = planes.floats(field, width * height);
		eachCell(ground, (cell, x, y) => {
			const color = read(x, y);
			const value = channel === 'tone' ? luma(color[0], color[1], color[2]) : color[places[channel]];
			const plain = bytes === 'srgb' && channel !== 'alpha' ? linearOfSrgb(value) : value;
			out[cell] = turned ? 1 - plain : plain;
		});
		return [field];
	},
};

/** What a picture shows around a texel of the sheet. */
type Read = (x: number, y: number) => MapTexel;

function fileReader({ map, scale, sheet: { width, height } }: Ground, { hash }: KeptFile): Read | null {
	const read = map(hash);
	return read && ((x, y) => read(x / width, y / height, scale / width, scale / height));
}

function pictureReader({ color, scale, sheet: { width, height } }: Ground, picture: string): Read | null {
	const read = color(picture);
	return (
		read &&
		((x, y) => {
			const [r, g, b, a] = read(x / width, y / height, scale / height);
			return [r / 255, g / 255, b / 255, a / 255];
		})
	);
}
