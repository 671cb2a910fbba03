import { useStudio } from '../../studio/store.ts';
import { Button } from '../../ui/Button.tsx';
import type { Proposing } from './useProposal.ts';

const percent = (stretch: number): string => {
	const off = (stretch - 1) * 100;
	return off < 0.05 ? 'none' : off < 10 ? `${off.toFixed(1)}%` : `${Math.round(off)}%`;
};

/** Over the foot of the views: these keep their size, so that what is looked at does not jump. */
const over = 'absolute inset-x-0 bottom-0 z-10 border-t border-rule bg-berry-soft px-4';

/** What is to be known of the layout that is shown, and what becomes of it. */
export function ProposalBar({ proposal, problem, busy, take, leave }: Proposing) {
	const relaying = useStudio((state) => state.relaying);
	if (!proposal && !problem && !busy)
		return relaying === null ? null : (
			<p role="status" className={`${over} py-3 tabular-nums`}>
				Taking the paint along…{relaying > 0 && ` ${Math.round(relaying * 100)}%`}
			</p>
		);
	const layout = proposal?.layout;
	const filled = layout?.sheets.map(({ fill }) => `${Math.round(fill * 100)}%`).join(' and ');
	return (
		<div role="status" className={`${over} flex items-center gap-4 py-2`} aria-label="A layout to look at">
			<p className="min-w-0 flex-1">
				{problem && <span className="text-lingon">{problem}</span>}
				{busy && !problem && <span>Laying it out… </span>}
				{proposal?.byHand && <span>Moved by hand. What lies over other islands is told once it is laid out so.</span>}
				{layout && !proposal?.byHand && (
					<span className="tabular-nums">
						<b>
							{layout.pieces} {layout.pieces === 1 ? 'island' : 'islands'}
						</b>
						{layout.stacked > 0 && ` (${layout.stacked} on like ones)`}, {filled} of the{' '}
						{layout.sheets.length === 1 ? 'sheet' : 'sheets'} covered; angles off by {percent(layout.angleStretch)},
						areas by {percent(layout.areaStretch)}.
						{layout.cuts > 0 &&
							` ${layout.cuts} ${layout.cuts === 1 ? 'cut was' : 'cuts were'} needed beside the marked seams.`}
					</span>
				)}
			</p>
			<Button onClick={leave}>{proposal ? 'Leave it as it was' : busy ? 'Stop' : 'Close'}</Button>
			{proposal && (
				<Button look="main" onClick={take} disabled={busy}>
					Lay it out so
				</Button>
			)}
		</div>
	);
}
