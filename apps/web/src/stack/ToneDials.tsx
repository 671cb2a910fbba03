import type { ToneOp } from '@eppu/core/color';
import { CurveEditor } from '../bench/CurveEditor.tsx';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Dial, type DialProps } from '../ui/Dial.tsx';

/** A dial from -1 or 0 to 1, shown in hundredths. */
const Share = (props: Omit<DialProps, 'most' | 'unit'>) => <Dial wide unit="" most={1} {...props} />;

/** The dials of a change of tones. */
export function ToneDials({ tone, set }: { readonly tone: ToneOp; readonly set: (tone: ToneOp) => void }) {
	const front = useStudio((state) => state.desk.front);
	switch (tone.op) {
		case 'levels':
			return (
				<>
					<Share label="Black" least={0} value={tone.black} usual={0} onChange={(black) => set({ ...tone, black })} />
					<Share label="White" least={0} value={tone.white} usual={1} onChange={(white) => set({ ...tone, white })} />
					<Dial
						wide
						label="Middle"
						unit=""
						least={0.1}
						most={10}
						ratio
						percent
						value={tone.gamma}
						usual={1}
						onChange={(gamma) => set({ ...tone, gamma })}
					/>
					<Share
						label="Darkest"
						least={0}
						value={tone.outBlack}
						usual={0}
						onChange={(outBlack) => set({ ...tone, outBlack })}
					/>
					<Share
						label="Lightest"
						least={0}
						value={tone.outWhite}
						usual={1}
						onChange={(outWhite) => set({ ...tone, outWhite })}
					/>
				</>
			);
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
		case 'contrast':
			return (
				<>
					<Share
						label="Brightness"
						least={-1}
						value={tone.brightness}
						usual={0}
						onChange={(brightness) => set({ ...tone, brightness })}
					/>
					<Share
						label="Contrast"
						least={-1}
						value={tone.contrast}
						usual={0}
						onChange={(contrast) => set({ ...tone, contrast })}
					/>
				</>
			);
		case 'oklch':
			return (
				<>
					<Share
						label="Lightness"
						least={-1}
						value={tone.lightness}
						usual={0}
						onChange={(lightness) => set({ ...tone, lightness })}
					/>
					<Share
						label="Chroma"
						least={-1}
						value={tone.chroma}
						usual={0}
						onChange={(chroma) => set({ ...tone, chroma })}
					/>
					<Dial
						wide
						label="Hue"
						unit="°"
						least={-180}
						most={180}
						value={tone.hue}
						usual={0}
						onChange={(hue) => set({ ...tone, hue })}
					/>
				</>
			);
		case 'balance':
			return (
				<>
					{(['warmth', 'redness'] as const).map((axis) =>
						['Darks', 'Middles', 'Lights'].map((words, i) => (
							<Share
								key={axis + words}
								label={`${words} ${axis === 'warmth' ? 'warm' : 'red'}`}
								least={-1}
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
		case 'posterize':
			return (
				<Dial
					wide
					label="Steps"
					unit=""
					least={2}
					most={64}
					value={tone.steps}
					usual={6}
					onChange={(v) => set({ ...tone, steps: Math.round(v) })}
				/>
			);
		case 'desaturate':
			return (
				<Share label="Amount" least={0} value={tone.amount} usual={1} onChange={(amount) => set({ ...tone, amount })} />
			);
		case 'blur':
			return (
				<Dial
					wide
					label="Radius"
					unit=" px"
					least={0.5}
					most={64}
					ratio
					value={tone.radius}
					usual={4}
					onChange={(radius) => set({ ...tone, radius })}
				/>
			);
		case 'smudge':
			return (
				<>
					<Dial
						wide
						label="Length"
						unit=" px"
						least={1}
						most={128}
						ratio
						value={tone.length}
						usual={24}
						onChange={(length) => set({ ...tone, length })}
					/>
					<Dial
						wide
						label="Direction"
						unit="°"
						least={-90}
						most={90}
						value={tone.turn}
						usual={0}
						onChange={(turn) => set({ ...tone, turn })}
					/>
				</>
			);
		case 'sharpen':
			return (
				<>
					<Dial
						wide
						label="Amount"
						unit=""
						least={0}
						most={3}
						value={tone.amount}
						usual={0.8}
						onChange={(amount) => set({ ...tone, amount })}
					/>
					<Dial
						wide
						label="Radius"
						unit=" px"
						least={0.3}
						most={32}
						ratio
						value={tone.radius}
						usual={1.5}
						onChange={(radius) => set({ ...tone, radius })}
					/>
				</>
			);
		case 'pull':
			return (
				<>
					<Share
						label="Amount"
						least={0}
						value={tone.amount}
						usual={0.25}
						onChange={(amount) => set({ ...tone, amount })}
					/>
					<Button onClick={() => set({ ...tone, color: front })}>
						<span className="mr-2 inline-block size-3 rounded-full align-middle" style={{ background: tone.color }} />
						Towards the front pot
					</Button>
				</>
			);
	}
}
