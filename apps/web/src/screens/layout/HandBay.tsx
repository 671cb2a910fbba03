import { ArrowClockwiseIcon } from '@phosphor-icons/react/dist/csr/ArrowClockwise';
import { ArrowCounterClockwiseIcon } from '@phosphor-icons/react/dist/csr/ArrowCounterClockwise';
import { DotsThreeIcon } from '@phosphor-icons/react/dist/csr/DotsThree';
import { FlipHorizontalIcon } from '@phosphor-icons/react/dist/csr/FlipHorizontal';
import { MinusIcon } from '@phosphor-icons/react/dist/csr/Minus';
import { PlusIcon } from '@phosphor-icons/react/dist/csr/Plus';
import type { ReactNode } from 'react';
import { Menu } from '../../ui/Menu.tsx';
import { alignments } from './handMoves.ts';
import type { ByHand } from './useByHand.ts';

/** How much larger or smaller one press makes islands. */
const STEP = 1.1;

const changes: readonly (readonly [
	label: string,
	icon: ReactNode,
	linear: readonly [number, number, number, number],
])[] = [
	['Turn left', <ArrowCounterClockwiseIcon key="left" size={15} />, [0, 1, -1, 0]],
	['Turn right', <ArrowClockwiseIcon key="right" size={15} />, [0, -1, 1, 0]],
	['Flip', <FlipHorizontalIcon key="flip" size={15} />, [-1, 0, 0, 1]],
	['Smaller', <MinusIcon key="less" size={15} />, [1 / STEP, 0, 0, 1 / STEP]],
	['Larger', <PlusIcon key="more" size={15} />, [STEP, 0, 0, STEP]],
];

/** A turn to the left, where v runs downwards. */
const turnBy = (degrees: number): readonly [number, number, number, number] => {
	const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
	return [cos, sin, -sin, cos];
};

/** What is chosen turned, flipped and sized on its sheet; dragged there, or moved by the arrow keys. */
export function HandBay({ byHand }: { readonly byHand: ByHand }) {
	return (
		<div role="group" aria-label="By hand" className="flex items-center gap-1">
			{changes.map(([label, icon, linear]) => (
				<button
					key={label}
					type="button"
					aria-label={label}
					title={label}
					className="cut-small bg-bark p-1 hover:bg-bark-deep"
					onClick={() => byHand.change(linear)}
				>
					{icon}
				</button>
			))}
			<Menu
				label="Turn and line up"
				items={[
					...[15, 30, 45].flatMap((degrees) => [
						{ label: `Turn ${degrees}° left`, run: () => byHand.change(turnBy(degrees)) },
						{ label: `Turn ${degrees}° right`, run: () => byHand.change(turnBy(-degrees)) },
					]),
					{
						label: 'Line up',
						apart: true,
						items: alignments.map(([by, label]) => ({ label, run: () => byHand.align(by) })),
					},
				]}
			>
				<DotsThreeIcon size={16} weight="bold" />
			</Menu>
			<span className="ml-1 text-[12px] text-ash">or drag it</span>
		</div>
	);
}
