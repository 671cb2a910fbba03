import { linearOfSrgb, luma } from '../../color/index.ts';
import { eachCell } from '../../recipe/index.ts';
import { among, bool, one, pictureId } from '../../shape/index.ts';
import { type BakeBase, type BakeKind, bakeShape, deepBytes } from './kind.ts';

/** A tone that was baked elsewhere and came as a picture of the whole sheet. */
export interface MapBake extends BakeBase {
	readonly bake: 'map';
	readonly picture: string;
	readonly channel: 'tone' | 'red' | 'green' | 'blue' | 'alpha';
	/** Its bytes are the tones, or are to be decoded from sRGB first. */
	readonly bytes: 'plain' | 'srgb';
	/** Light for dark: also what turns the green of a normal picture round. */
	readonly turned: boolean;
}

const places = { red: 0, green: 1, blue: 2, alpha: 3 } as const;

export const map: BakeKind<MapBake> = {
	bake: 'map',
	shape: bakeShape({
		bake: one('map'),
		picture: pictureId,
		channel: among(['tone', 'red', 'green', 'blue', 'alpha']),
		bytes: among(['plain', 'srgb']),
		turned: bool,
	}),
	format: 'deep',
	dear: () => false,
	words: () => 'A map from elsewhere',
	pictures: ({ picture }) => [picture],
	make: (bake, ground) => deepBytes(map.fields(bake, ground), ground),
	fields({ picture, channel, bytes, turned }, ground) {
		const read = ground.color(picture);
		if (!read) return null;
		const { planes, width, height, sheet } = ground;
		const field = planes.take(width * height);
		const out = planes.floats(field, width * height);
		const per = ground.scale / sheet.height;
		eachCell(ground, (cell, x, y) => {
			const color = read(x / sheet.width, y / sheet.height, per);
			const value = channel === 'tone' ? luma(color[0], color[1], color[2]) : color[places[channel]];
			const plain = bytes === 'srgb' && channel !== 'alpha' ? linearOfSrgb(value / 255) : value / 255;
			out[cell] = turned ? 1 - plain : plain;
		});
		return [field];
	},
};
