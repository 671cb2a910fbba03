import {
	type Affine,
	around,
	contentTiles,
	grownRect,
	inverseOf,
	isEmptyRect,
	mappedPath,
	meet,
	pathRect,
	type Rect,
	readBlock,
	resampled,
	writeBlock,
} from '../raster/index.ts';
import { createRecord, type TileRecord } from '../surface/index.ts';
import { EditError, type EditKind } from './kind.ts';
import { type EditScope, gateOf, layTexel, selectedRect } from './lay.ts';
import { whole } from './space.ts';
import { transformSeen } from './transformSeen.ts';

export interface TransformEdit {
	readonly do: 'transform';
	readonly map: Affine;
	readonly smooth: boolean;
}

/** Where a rectangle lands under a map. */
const mappedRect = ({ x, y, width, height }: Rect, map: Affine): Rect =>
	pathRect(mappedPath([Float64Array.from([x, y, x + width, y, x + width, y + height, x, y + height])], map));

/** What is selected, lifted off, mapped and laid over what stays. */
function transformEdit({ map, smooth }: TransformEdit, scope: EditScope): TileRecord {
	const { kernels, surface } = scope;
	const back = inverseOf(map);
	if (!back) throw new EditError('That would press what is moved flat, to nothing. Scale it to at least a texel.');
	const record = createRecord(surface);
	const from = meet(selectedRect(scope), contentTiles(surface));
	if (isEmptyRect(from)) return record;
	const lifted = readBlock(kernels, surface, from);
	const gate = gateOf(scope, from);
	const step = lifted.bytes;
	if (gate)
		for (let i = 0; i < from.width * from.height; i++) {
			const at = i * step + step - 1;
			lifted.data[at] = Math.round(((lifted.data[at] as number) * (gate[i] as number)) / 255);
		}
	const to = meet(grownRect(mappedRect(from, map), 1), whole(surface));
	const box = isEmptyRect(to) ? from : around(from, to);
	const block = readBlock(kernels, surface, box);
	for (let y = 0; y < from.height; y++)
		for (let x = 0; x < from.width; x++) {
			const at = ((from.y - box.y + y) * box.width + from.x - box.x + x) * step + step - 1;
			const stays = gate ? 255 - (gate[y * from.width + x] as number) : 0;
			block.data[at] = Math.round(((block.data[at] as number) * stays) / 255);
		}
	if (!isEmptyRect(to)) {
		const moved = resampled(lifted, to, back, smooth);
		for (let y = 0; y < to.height; y++)
			for (let x = 0; x < to.width; x++) {
				const i = y * to.width + x;
				const at = (to.y - box.y + y) * box.width + to.x - box.x + x;
				if (step === 1) block.data[at] = Math.max(block.data[at] as number, moved[i] as number);
				else
					layTexel(
						block.data,
						at,
						4,
						moved[i * 4] as number,
						moved[i * 4 + 1] as number,
						moved[i * 4 + 2] as number,
						(moved[i * 4 + 3] as number) / 255,
						false,
					);
			}
	}
	writeBlock(kernels, record, block);
	return record;
}

export const transform: EditKind<TransformEdit> = {
	do: 'transform',
	words: (_edit, on) => `Transform ${on}`,
	moves: true,
	apply: transformEdit,
	applySeen: transformSeen,
};
