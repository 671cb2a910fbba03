import { defaultTip, type Tip } from '@eppu/core/stroke';
import { setDesk } from '../studio/client.ts';
import { useStudio } from '../studio/store.ts';
import { Dial } from '../ui/Dial.tsx';

/** The tip: a round one for now, with its dials. */
export function TipBay() {
	const tip = useStudio((state) => state.desk.tip);
	const set = (change: Partial<Tip>): void => setDesk({ tip: { ...useStudio.getState().desk.tip, ...change } });
	return (
		<div className="min-w-0 overflow-y-auto border-r border-rule px-3.5 py-2.5">
			<div className="mb-1 flex items-center gap-3">
				<h2 className="bay-title flex-1">Tip · round</h2>
				<label className="flex items-center gap-1.5 text-[12px]">
					<input
						type="checkbox"
						className="accent-pine"
						checked={tip.buildUp}
						onChange={(event) => set({ buildUp: event.target.checked })}
					/>
					Build up
				</label>
			</div>
			<div className="grid grid-cols-1 gap-x-5 gap-y-0.5 min-[1180px]:grid-cols-2">
				<Dial
					label="Size"
					unit=" px"
					least={1}
					most={1000}
					ratio
					value={tip.size}
					usual={defaultTip.size}
					onChange={(size) => set({ size })}
					hint="Texels on the sheet, screen px on the model"
				/>
				<Dial
					label="Strength"
					unit="%"
					least={0}
					most={1}
					value={tip.strength}
					usual={defaultTip.strength}
					onChange={(strength) => set({ strength })}
				/>
				<Dial
					label="Edge"
					unit="%"
					least={0}
					most={1}
					value={tip.edge}
					usual={defaultTip.edge}
					onChange={(edge) => set({ edge })}
					hint="0 soft to the middle, 100 a hard rim"
				/>
				<Dial
					label="Spacing"
					unit="%"
					least={0.02}
					most={1}
					value={tip.spacing}
					usual={defaultTip.spacing}
					onChange={(spacing) => set({ spacing })}
					hint="Between dabs, of the tip’s width"
				/>
				<Dial
					label="Pen: size"
					unit="%"
					least={0}
					most={1}
					value={tip.pressureSize}
					usual={defaultTip.pressureSize}
					onChange={(pressureSize) => set({ pressureSize })}
					hint="How much pen pressure rules the size"
				/>
				<Dial
					label="Pen: lay"
					unit="%"
					least={0}
					most={1}
					value={tip.pressureStrength}
					usual={defaultTip.pressureStrength}
					onChange={(pressureStrength) => set({ pressureStrength })}
					hint="How much pen pressure rules the strength"
				/>
			</div>
		</div>
	);
}
