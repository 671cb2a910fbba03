import type { Affine } from '@eppu/core/raster';
import { useEffect, useMemo, useRef } from 'react';
import type { Pointing } from '../../studio/protocol.ts';
import { useStudio } from '../../studio/store.ts';
import {
	type Alignment,
	alignedCorners,
	boxOf,
	cornersOf,
	liesOn,
	movedCorners,
	type SheetSizes,
	shownWith,
} from './handMoves.ts';
import type { Proposing } from './useProposal.ts';

/** What a hand does with chosen islands on the sheet. */
export interface ByHand {
	/** Takes them up where a press lands on them. */
	grab(pointing: Pointing | null): boolean;
	/** Moves them so many texels from where they were taken up. */
	drag(dx: number, dy: number): void;
	/** Turns, flips or sizes them about their middle: the linear part of a map. */
	change(linear: readonly [number, number, number, number]): void;
	nudge(dx: number, dy: number): void;
	/** Lines chosen islands up. */
	align(by: Alignment): void;
}

const sizes = (): SheetSizes =>
	new Map(useStudio.getState().outline?.project.sheets.map((sheet) => [sheet.id, sheet]) ?? []);

/** Moves chosen faces by hand: shown at once, laid out so when that is asked for. Arrow keys move by texels. */
export function useByHand(proposing: Proposing, model: string | undefined, faces: Uint32Array | null): ByHand {
	const held = useRef<Float32Array | null>(null);
	const latest = useRef({ proposing, faces });
	latest.current = { proposing, faces };
	const byHand = useMemo((): ByHand => {
		const shown = () => useStudio.getState().models.find(({ id }) => id === model);
		const move = (map: Affine, from?: Float32Array): void => {
			const { proposing: now, faces: chosen } = latest.current;
			const here = shown();
			if (!here || !chosen) return;
			const uvs = movedCorners(here, from ?? cornersOf(here), chosen, map, sizes());
			if (uvs) now.offer(shownWith(here, uvs), 'Move islands');
			else now.offer(null, 'What is chosen lies on several sheets, or would be larger than its sheet.');
		};
		return {
			grab(pointing) {
				const { faces: chosen } = latest.current;
				const here = shown();
				if (!here || !chosen || pointing?.on !== 'sheet') return false;
				const size = sizes().get(pointing.sheet);
				if (!size || !liesOn(here, chosen, pointing.sheet, size, pointing.x, pointing.y)) return false;
				held.current = cornersOf(here);
				return true;
			},
			drag(dx, dy) {
				// Whole texels: so the paint goes over as it is.
				if (held.current) move([1, 0, Math.round(dx), 0, 1, Math.round(dy)], held.current);
			},
			nudge: (dx, dy) => move([1, 0, dx, 0, 1, dy]),
			align(by) {
				const { proposing: now, faces: chosen } = latest.current;
				const here = shown();
				const uvs = here && chosen && alignedCorners(here, chosen, by, sizes());
				if (here && uvs) now.offer(shownWith(here, uvs), 'Line islands up');
				else now.offer(null, 'What is chosen lies on several sheets: islands of one sheet are lined up.');
			},
			change([a, b, d, e]) {
				const { faces: chosen } = latest.current;
				const here = shown();
				const box = here && chosen && boxOf(here, cornersOf(here), chosen, sizes());
				if (!box) return move([1, 0, 0, 0, 1, 0]);
				const [x, y] = [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2];
				move([a, b, Math.round(x - a * x - b * y), d, e, Math.round(y - d * x - e * y)]);
			},
		};
	}, [model]);
	useEffect(() => {
		const onKey = (event: KeyboardEvent): void => {
			const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
			if (!by || !latest.current.faces || event.target !== document.body) return;
			event.preventDefault();
			const step = event.shiftKey ? 8 : 1;
			byHand.nudge((by[0] as number) * step, (by[1] as number) * step);
		};
		window.addEventListener('keydown', onKey);
		return () => window.removeEventListener('keydown', onKey);
	}, [byHand]);
	return byHand;
}
