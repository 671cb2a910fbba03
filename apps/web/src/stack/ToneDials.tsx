import { type ToneOp, toneKindOf } from '@eppu/core/tone';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { CurveEditor } from '../ui/CurveEditor.tsx';
import { Dial } from '../ui/Dial.tsx';
import { FieldDials } from '../ui/FieldDials.tsx';

/** The dials of a change of tones. */
export function ToneDials({ tone, set }: { readonly tone: ToneOp; readonly set: (tone: ToneOp) => void }) {
	const front = useStudio((state) => state.desk.front);
	const dials = <FieldDials of={tone} dials={toneKindOf(tone).dials} onChange={set} />;
	switch (tone.op) {
		case 'curves':
			return (
				<div className="grid grid-cols-2 gap-2">
					{(['all', 'red', 'green', 'blue'] as const).map((channel) => (
						<div key={channel}>
							<p className="text-[12px] text-ash">
								{channel === 'all' ? 'All channels' : channel[0]?.toUpperCase() + channel.slice(1)}
							</p>
							<CurveEditor
								label={`Curve of ${channel}`}
								knots={tone[channel]}
								onChange={(knots) => set({ ...tone, [channel]: knots })}
							/>
						</div>
					))}
				</div>
			);
		case 'balance':
			return (
				<>
					{(['warmth', 'redness'] as const).map((axis) =>
						['Darks', 'Middles', 'Lights'].map((words, i) => (
							<Dial
								key={axis + words}
								wide
								label={`${words} ${axis === 'warmth' ? 'warm' : 'red'}`}
								unit=""
								least={-1}
								most={1}
								value={tone[axis][i] as number}
								usual={0}
								onChange={(v) =>
									set({
										...tone,
										[axis]: tone[axis].map((each, k) => (k === i ? v : each)) as unknown as [number, number, number],
									})
								}
							/>
						)),
					)}
				</>
			);
		case 'gradient':
			return (
				<>
					<div className="mb-2 flex gap-1">
						{tone.colors.map((hex, i) => (
							<button
								key={i}
								type="button"
								aria-label={`Colour ${i + 1} of the gradient: ${hex}; takes the front pot`}
								title="Click: the front pot"
								onClick={() => set({ ...tone, colors: tone.colors.map((each, k) => (k === i ? front : each)) })}
								className="cut-small h-7 flex-1 border border-black/15"
								style={{ background: hex }}
							/>
						))}
					</div>
					<div className="flex gap-2">
						<Button
							disabled={tone.colors.length >= 12}
							onClick={() => set({ ...tone, colors: [...tone.colors, front] })}
						>
							Add the front pot
						</Button>
						<Button
							disabled={tone.colors.length <= 2}
							onClick={() => set({ ...tone, colors: tone.colors.slice(0, -1) })}
						>
							Fewer
						</Button>
						<Button onClick={() => set({ ...tone, colors: [...tone.colors].reverse() })}>Turn round</Button>
					</div>
				</>
			);
		case 'pull':
			return (
				<>
					{dials}
					<Button onClick={() => set({ ...tone, color: front })}>
						<span className="mr-2 inline-block size-3 rounded-full align-middle" style={{ background: tone.color }} />
						Towards the front pot
					</Button>
				</>
			);
		default:
			return dials;
	}
}
