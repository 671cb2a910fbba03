import { growPlane, growRoom } from '../../raster/index.ts';
import { one, real } from '../../shape/index.ts';
import { type ShaperKind, shaperShape } from './kind.ts';

/** Below 0 it shrinks. */
export interface Grow {
	readonly step: 'grow';
	readonly by: number;
}

export const grow: ShaperKind<Grow> = {
	step: 'grow',
	words: 'Grow or shrink',
	takes: 'shaper',
	shape: shaperShape({ step: one('grow'), by: real(-64, 64) }),
	usual: { step: 'grow', by: 2 },
	dials: [{ of: 'by', label: 'By', least: -64, most: 64, unit: ' px' }],
	reach: ({ by }) => Math.ceil(Math.abs(by)) + 2,
	work({ by }, field, { planes, width, height, scale }) {
		const cells = width * height;
		const [room, out] = [planes.take(growRoom(width, by / scale)), planes.take(cells)];
		growPlane(planes.kernels, field, width, height, by / scale, room, out);
		planes.floats(field, cells).set(planes.floats(out, cells));
	},
};
