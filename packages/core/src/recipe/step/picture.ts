import { degrees, one, pictureId, real } from '../../shape/index.ts';
import { eachCell } from '../ground.ts';
import { type SourceKind, sourceShape } from './kind.ts';

export interface TiledPicture {
	readonly step: 'picture';
	readonly picture: string;
	readonly scale: number;
	readonly turn: number;
}

export const picture: SourceKind<TiledPicture> = {
	step: 'picture',
	words: 'Tiled picture',
	takes: 'source',
	shape: sourceShape({ step: one('picture'), picture: pictureId, scale: real(1, 8192), turn: degrees }),
	usual: { step: 'picture', picture: 'cracks', scale: 256, turn: 0 },
	dials: [
		{ of: 'scale', label: 'Size', least: 8, most: 2048, unit: ' px', ratio: true },
		{ of: 'turn', label: 'Turn', least: -180, most: 180, unit: '°' },
	],
	field(step, ground) {
		const read = ground.picture(step.picture);
		if (!read) return null;
		const turn = (step.turn * Math.PI) / 180;
		const [c, s] = [Math.cos(turn), Math.sin(turn)];
		const side = Math.max(1, step.scale);
		const cells = ground.width * ground.height;
		const out = ground.planes.take(cells);
		const tones = ground.planes.floats(out, cells);
		eachCell(ground, (cell, tx, ty) => {
			const [x, y] = [tx / side, ty / side];
			tones[cell] = read(x * c + y * s, -x * s + y * c, ground.scale / side);
		});
		return out;
	},
};
