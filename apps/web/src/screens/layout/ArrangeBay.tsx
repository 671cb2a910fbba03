import type { ArrangeChoice } from '@eppu/core/arrange';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { Dial } from '../../ui/Dial.tsx';
import { Select } from '../../ui/Select.tsx';
import type { Proposing } from './useProposal.ts';

/** Islands put on their sheets: how far apart, whether turned, and what of the rest. */
export function ArrangeBay({
	proposing,
	faces,
	chosen,
}: {
	readonly proposing: Proposing;
	readonly faces: Uint32Array | null;
	readonly chosen: string;
}) {
	const { choice } = proposing;
	const words = `Arrange ${faces ? chosen : 'all islands'}`;
	const change = (part: Partial<ArrangeChoice>): void => {
		const next = { ...choice, ...part };
		proposing.setChoice(next);
		if (proposing.proposal) proposing.again({ choice: next });
	};
	return (
		<section aria-label="Arrange" className="grid w-[190px] shrink-0 xl:w-[224px] content-start gap-1.5">
			<h2 className="bay-title">Arrange {faces ? chosen : 'all islands'}</h2>
			<div className="flex gap-1.5">
				<Select
					label="Turning"
					title="Whether islands may be turned to fit"
					value={choice.turning}
					options={[
						['free', 'Set straight'],
						['upright', 'Upright'],
						['quarters', 'Quarter turns'],
						['none', 'Not turned'],
					]}
					onChange={(turning) => change({ turning })}
				/>
				<Button
					disabled={proposing.busy}
					title="Puts the islands on their sheets anew, as large as they fit, all equally fine"
					onClick={() => proposing.ask({ way: null, faces, words })}
				>
					Arrange
				</Button>
			</div>
			<Dial
				label="Margin"
				value={choice.margin}
				least={0}
				most={64}
				usual={8}
				unit=" tx"
				wide
				hint="Texels that stay free between islands: twice the bleed keeps their paint apart"
				onChange={(margin) => change({ margin: Math.round(margin) })}
			/>
			<Check
				label="Stack like islands"
				hint="Islands of the same shape share their texels: what is painted on one is on all"
				value={choice.stack}
				onChange={(stack) => change({ stack })}
			/>
			{faces && (
				<Select
					label="What else lies there"
					value={choice.others}
					options={[
						['along', 'Arrange the rest along'],
						['stay', 'Leave the rest in place'],
					]}
					onChange={(others) => change({ others })}
				/>
			)}
		</section>
	);
}
