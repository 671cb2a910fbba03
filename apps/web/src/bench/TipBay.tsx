import { defaultTip, shippedTips, type Tip } from '@eppu/core/stroke';
import { useLibrary } from '../server/library.ts';
import { setDesk, setTip } from '../studio/desk.ts';
import { usePreview } from '../studio/looks.ts';
import { useStudio } from '../studio/store.ts';
import type { ToolKind } from '../tools/kind.ts';
import { toolOf } from '../tools/list.ts';
import { Check } from '../ui/Check.tsx';
import { Dial } from '../ui/Dial.tsx';
import { type DialRow, Dials } from '../ui/Dials.tsx';
import { Popover } from '../ui/Popover.tsx';
import { TipChooser } from './TipChooser.tsx';
import { TipDials } from './TipDials.tsx';

/** The dials that are turned most; strength is what it means in the tool's hand. */
const rowsFor = (strength: ToolKind['strength']): readonly DialRow<Tip>[] => [
	[
		'size',
		'Size',
		1,
		1000,
		defaultTip.size,
		' px',
		{ ratio: true, hint: 'Texels on the sheet, screen px on the model' },
	],
	['strength', strength?.[0] ?? 'Strength', 0, 1, defaultTip.strength, '%', strength ? { hint: strength[1] } : {}],
	['edge', 'Edge', 0, 1, defaultTip.edge, '%', { hint: '0 soft to the middle, 100 a hard rim' }],
	['spacing', 'Spacing', 0.02, 4, defaultTip.spacing, '%', { percent: true, hint: 'Between dabs, of the tip’s width' }],
];
const steady: readonly DialRow<Tip>[] = [
	['steady', 'Steady', 0, 1, 0, '%', { hint: 'The tip trails the pen, for a calmer line' }],
];

/** The tip: which, its stroke, and the dials that are turned most. */
export function TipBay() {
	const tip = useStudio((state) => state.desk.tip);
	const tool = useStudio((state) => state.tool);
	const amount = useStudio((state) => state.desk.amounts[tool]);
	const own = useLibrary('tip');
	const preview = usePreview({ ...tip, size: Math.min(tip.size, 26) }, 84, 26, '#55504a');
	const name =
		shippedTips.find((each) => each.name === tip.shape)?.label ??
		own.find((each) => each.id === tip.shape)?.name ??
		'Own picture';
	const kind = toolOf(tool);
	return (
		<div className="min-w-0 overflow-y-auto border-r border-rule px-3 py-2">
			<div className="mb-1 flex h-[26px] items-center gap-2">
				<Popover
					label="Choose a tip"
					panelClass="w-[560px]"
					className="cut-small flex min-w-0 flex-1 items-center gap-2 bg-bark pr-2 hover:bg-bark-deep"
					trigger={
						<>
							<span className="cut-small h-[26px] w-[84px] shrink-0 bg-[#f3efe7]">
								{preview && <img src={preview} alt="" />}
							</span>
							<span className="truncate font-head text-[12.5px] font-semibold">{name}</span>
						</>
					}
				>
					<TipChooser />
				</Popover>
				<Check label="Build up" value={tip.buildUp} onChange={(buildUp) => setTip({ buildUp })} />
				<Popover
					label="More dials of the tip"
					panelClass="w-[430px]"
					className="cut-small bg-bark px-2 text-[12px] leading-6 hover:bg-bark-deep"
					trigger="More"
				>
					<TipDials />
				</Popover>
			</div>
			<div className="grid grid-cols-1 gap-x-4 min-[1150px]:grid-cols-2">
				<Dials wide={false} of={tip} rows={rowsFor(kind.strength)} onChange={setTip} />
				{kind.amount ? (
					<Dial
						label="Amount"
						unit="%"
						least={kind.amount.least}
						most={1}
						value={amount ?? 1}
						usual={0.5}
						onChange={(next) => setDesk({ amounts: { ...useStudio.getState().desk.amounts, [tool]: next } })}
						hint={kind.amount.hint}
					/>
				) : (
					<Dial
						label="Scatter"
						unit="%"
						least={0}
						most={1}
						value={tip.jitter.scatter}
						usual={0}
						onChange={(scatter) => setTip({ jitter: { ...tip.jitter, scatter } })}
						hint="How far dabs fly off the line, of the tip’s width"
					/>
				)}
				<Dials wide={false} of={tip} rows={steady} onChange={setTip} />
			</div>
		</div>
	);
}
