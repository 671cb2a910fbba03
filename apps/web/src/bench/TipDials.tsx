import { type Jitter, noJitter, type Rule, ruledDials, straightCurve, type Tip } from '@eppu/core/stroke';
import { setTip } from '../studio/desk.ts';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { CurveEditor } from '../ui/CurveEditor.tsx';
import { Dial } from '../ui/Dial.tsx';
import { type DialRow, Dials } from '../ui/Dials.tsx';
import { Select } from '../ui/Select.tsx';

const shape: readonly DialRow<Tip>[] = [
	['roundness', 'Roundness', 0.05, 1, 1, '%'],
	['angle', 'Angle', -180, 180, 0, '°'],
	['wet', 'Wet edge', 0, 1, 0, '%', { hint: 'Paler within the stroke than at its rim; a soft edge shows it' }],
];
const jitters: readonly DialRow<Jitter>[] = [
	['size', 'Size', 0, 1, 0, '%'],
	['angle', 'Angle', 0, 1, 0, '%'],
	['stretch', 'Stretch', 0, 1, 0, '%'],
	['strength', 'Strength', 0, 1, 0, '%'],
	['scatter', 'Scatter', 0, 1, 0, '%'],
	['hue', 'Hue', 0, 1, 0, '%'],
	['lightness', 'Lightness', 0, 1, 0, '%'],
	['saturation', 'Saturation', 0, 1, 0, '%'],
];
const readings = [
	['pressure', 'Pressure'],
	['tilt', 'Tilt'],
	['speed', 'Speed'],
] as const;
/** The tip's shape, what chance moves, and what the pen rules. */
export function TipDials() {
	const tip = useStudio((state) => state.desk.tip);
	const setRule = (i: number, change: Partial<Rule>): void =>
		setTip({ rules: tip.rules.map((rule, k) => (k === i ? { ...rule, ...change } : rule)) });
	return (
		<>
			<h3 className="bay-title mb-1">Shape</h3>
			<div className="grid grid-cols-2 gap-x-4">
				<Dials of={tip} rows={shape} onChange={setTip} />
			</div>
			<div className="mt-1 flex items-center gap-2">
				<span className="text-[12px] text-ash">Turned by</span>
				<Choice
					label="Turned by"
					value={tip.turn}
					options={[
						['fixed', 'Nothing'],
						['stroke', 'The stroke'],
						['pen', 'The pen’s lean'],
					]}
					onChange={(turn) => setTip({ turn })}
				/>
			</div>
			<div className="mt-3 mb-1 flex items-center">
				<h3 className="bay-title flex-1">Chance moves each dab’s</h3>
				<Button look="bare" onClick={() => setTip({ jitter: noJitter })}>
					None
				</Button>
			</div>
			<div className="grid grid-cols-2 gap-x-4">
				<Dials of={tip.jitter} rows={jitters} onChange={(change) => setTip({ jitter: { ...tip.jitter, ...change } })} />
			</div>
			<h3 className="bay-title mt-3 mb-1">The pen rules</h3>
			{tip.rules.map((rule, i) => (
				<div key={i} className="mb-2 flex items-center gap-3 border-b border-rule pb-2">
					<div className="min-w-0 flex-1">
						<div className="mb-1 flex items-center gap-1 text-[12px]">
							<Choice label="Ruled by" value={rule.by} options={readings} onChange={(by) => setRule(i, { by })} />
							<span className="flex-1" />
							<button
								type="button"
								aria-label="Drop this rule"
								className="cut-small px-1.5 text-ash hover:bg-bark"
								onClick={() => setTip({ rules: tip.rules.filter((_, k) => k !== i) })}
							>
								×
							</button>
						</div>
						<div className="mb-1">
							<Select
								label="What is ruled"
								value={rule.of}
								options={ruledDials}
								onChange={(of) => setRule(i, { of })}
							/>
						</div>
						<Dial
							label="Share"
							unit="%"
							least={0}
							most={1}
							value={rule.amount}
							usual={0.5}
							onChange={(amount) => setRule(i, { amount })}
						/>
					</div>
					<CurveEditor
						label={`Curve of ${rule.by} on ${rule.of}`}
						knots={rule.curve}
						onChange={(curve) => setRule(i, { curve })}
					/>
				</div>
			))}
			<Button
				disabled={tip.rules.length >= 16}
				onClick={() =>
					setTip({ rules: [...tip.rules, { by: 'pressure', of: 'size', amount: 0.5, curve: straightCurve }] })
				}
			>
				Add a rule
			</Button>
		</>
	);
}
