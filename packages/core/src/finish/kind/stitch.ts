import { isEmptyRect, pathCoverage, pathRect } from '../../raster/index.ts';
import { hex, list, one, real, share, strict, whole } from '../../shape/index.ts';
import { type Stitch, stitchBlock, stitchThreads, type Thread } from '../stitch.ts';
import { type FinishBase, type FinishKind, type Followed, finishShape } from './kind.ts';

export interface StitchFinish extends FinishBase, Stitch {
	readonly finish: 'stitch';
}

/** The stitches along what the finish follows. */
function threadsOf(stitch: Stitch, of: Followed): Thread[] {
	const { along } = stitch;
	if (along === 'shape') {
		const { data, rect } = of.wholeShape();
		return isEmptyRect(rect) ? [] : stitchThreads(stitch, data, rect);
	}
	if ('lines' in along) {
		const path = along.lines.map((line) => Float64Array.from(line));
		const box = of.onSheet(pathRect(path));
		return isEmptyRect(box) ? [] : stitchThreads(stitch, pathCoverage(path, box), box);
	}
	return [...new Set(along)].flatMap((island) => {
		const found = of.island(island);
		return found ? stitchThreads(stitch, found.data, found.rect) : [];
	});
}

export const stitch: FinishKind<StitchFinish> = {
	finish: 'stitch',
	words: 'Stitched line',
	shape: finishShape({
		finish: one('stitch'),
		color: hex,
		along: {
			oneOf: [
				one('shape'),
				list(whole(0, 1_000_000), 10_000),
				strict({ lines: list(list(real(-1e9, 1e9), 20_000), 400) }),
			],
		},
		inset: real(0, 512),
		dash: real(1, 512),
		gap: real(0, 512),
		thick: real(0.5, 128),
		twist: real(-90, 90),
		shade: share,
	}),
	usual: {
		finish: 'stitch',
		on: true,
		opacity: 1,
		mode: 'normal',
		color: '#e6d3a3',
		along: 'shape',
		inset: 6,
		dash: 11,
		gap: 6,
		thick: 4,
		twist: 12,
		shade: 0.7,
	},
	place: () => 'over',
	texels(finish) {
		let threads: Thread[] | null = null;
		return {
			reads: finish.along === 'shape' ? 'shape' : 'nothing',
			reach: Infinity,
			reset() {
				threads = null;
			},
			make(rect, of) {
				threads ??= threadsOf(finish, of);
				return stitchBlock(finish, threads, rect);
			},
		};
	},
};
