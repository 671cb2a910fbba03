import type { WashLayer } from '@eppu/core/document';
import { cellsOfRamps, type Spaced, type Tiled, type WashFill } from '@eppu/core/wash';
import { question } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { type DialRow, Dials } from '../ui/Dials.tsx';
import type { LayerPanelProps } from './layerPanel.ts';
import { PictureChoice } from './PictureChoice.tsx';
import { PotButton } from './PotButton.tsx';

export const pictureRows: readonly DialRow<Tiled>[] = [
	['scale', 'Size', 8, 2048, 256, ' px', { ratio: true }],
	['turn', 'Turn', -180, 180, 0, '°'],
	['x', 'Across', -1024, 1024, 0, ' px'],
	['y', 'Down', -1024, 1024, 0, ' px'],
];
const patternRows: readonly DialRow<Spaced>[] = [
	['across', 'Across', 1, 64, 8, '', { whole: true, hint: 'How many side by side; whole ones only' }],
	['gap', 'Gap', 0, 0.95, 0.3, '%'],
	['turn', 'Turn', -180, 180, 0, '°'],
	['jitterTurn', 'Turn apart', 0, 1, 0, '%'],
	['jitterSize', 'Size apart', 0, 1, 0, '%'],
];

/** What a wash lays: a colour, a gradient, a repeated picture, or a pattern set evenly. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one panel as it stands, markup with what each control sets.
export function FillPanel({ sheet, layer, change }: LayerPanelProps<WashLayer>) {
	const front = useStudio((state) => state.desk.front);
	const back = useStudio((state) => state.desk.back);
	const palette = useStudio((state) => state.outline?.project.palette);
	const fill = layer.fill ?? null;
	const set = (next: WashFill): void => change({ fill: next });
	const whole = { x: 0, y: 0, width: sheet.width, height: sheet.height };
	const begin = (kind: 'color' | WashFill['fill']): void => {
		if (kind === 'color') return change({ fill: null });
		if (kind === 'cells') return set(cellsOfRamps(palette?.ramps ?? [], 8, 8));
		if (kind === 'gradient')
			return set({
				fill: 'gradient',
				way: 'linear',
				from: [sheet.width / 2, 0],
				to: [sheet.width / 2, sheet.height],
				colors: [front, back],
				fade: false,
			});
		if (kind === 'picture')
			return set({
				fill: 'picture',
				picture: 'boards',
				scale: Math.round(sheet.height / 4),
				turn: 0,
				x: 0,
				y: 0,
				tint: null,
			});
		set({
			fill: 'pattern',
			picture: 'leaf',
			box: whole,
			across: 8,
			gap: 0.3,
			staggered: true,
			turn: 0,
			jitterTurn: 0,
			jitterSize: 0,
			seed: 1,
			tint: front,
		});
	};
	const toSelection = async (): Promise<void> => {
		const box = await question<'bounds'>({ say: 'bounds', sheet: sheet.id, layer: undefined, onMask: false });
		if (box && fill?.fill === 'pattern') set({ ...fill, box });
	};
	return (
		<section>
			<Choice
				label="Fill"
				value={fill?.fill ?? 'color'}
				options={[
					['color', 'Colour'],
					['gradient', 'Gradient'],
					['picture', 'Picture'],
					['pattern', 'Pattern'],
					['cells', 'Cells'],
				]}
				onChange={begin}
			/>
			<div className="mt-2 flex flex-col gap-1">
				{!fill && <PotButton color={layer.color} label="Colour" onTake={(color) => change({ color })} />}
				{fill?.fill === 'gradient' && (
					<>
						<Choice
							label="Way"
							value={fill.way}
							options={[
								['linear', 'Straight'],
								['round', 'Round'],
								['angle', 'By angle'],
							]}
							onChange={(way) => set({ ...fill, way })}
						/>
						<div className="flex flex-wrap gap-1">
							{fill.colors.map((hex, i) => (
								<PotButton
									key={i}
									color={hex}
									label={`${i + 1}`}
									onTake={(color) => set({ ...fill, colors: fill.colors.map((each, k) => (k === i ? color : each)) })}
								/>
							))}
						</div>
						<div className="flex flex-wrap gap-1">
							<Button
								className="!px-2 !py-0 !text-[12px]"
								disabled={fill.colors.length >= 32}
								onClick={() => set({ ...fill, colors: [...fill.colors, front] })}
							>
								Add the front pot
							</Button>
							<Button
								className="!px-2 !py-0 !text-[12px]"
								disabled={fill.colors.length < 2}
								onClick={() => set({ ...fill, colors: fill.colors.slice(0, -1) })}
							>
								Fewer
							</Button>
							<Button
								className="!px-2 !py-0 !text-[12px]"
								onClick={() => set({ ...fill, from: fill.to, to: fill.from })}
							>
								Turn round
							</Button>
						</div>
						<Check label="Fade out" value={fill.fade} onChange={(fade) => set({ ...fill, fade })} />
						<p className="text-[12px] text-ash">The Gradient tool (G) drags its start and end on the sheet.</p>
					</>
				)}
				{fill?.fill === 'picture' && (
					<>
						<PictureChoice label="Picture" value={fill.picture} onChange={(picture) => set({ ...fill, picture })} />
						<Dials of={fill} rows={pictureRows} onChange={(change) => set({ ...fill, ...change })} />
					</>
				)}
				{fill?.fill === 'pattern' && (
					<>
						<PictureChoice label="Motif" value={fill.picture} onChange={(picture) => set({ ...fill, picture })} />
						<Dials of={fill} rows={patternRows} onChange={(change) => set({ ...fill, ...change })} />
						<Check
							label="Every other row moved"
							value={fill.staggered}
							onChange={(staggered) => set({ ...fill, staggered })}
						/>
						<div className="flex flex-wrap gap-1">
							<Button
								className="!px-2 !py-0 !text-[12px]"
								onClick={() => void toSelection()}
								title="Select an island or any shape first"
							>
								Over the selection
							</Button>
							<Button className="!px-2 !py-0 !text-[12px]" onClick={() => set({ ...fill, box: whole })}>
								Over the sheet
							</Button>
						</div>
					</>
				)}
				{fill?.fill === 'cells' && (
					<p className="text-[12px] text-ash">
						{fill.cells.length} cells in {fill.cols} by {fill.rows} places. The Cells tool changes them and puts faces
						in them.
					</p>
				)}
				{fill && 'tint' in fill && (
					<div className="flex gap-1">
						{fill.tint ? (
							<PotButton color={fill.tint} label="One colour" onTake={(tint) => set({ ...fill, tint })} />
						) : null}
						<Button
							className="!px-2 !py-0 !text-[12px]"
							onClick={() => set({ ...fill, tint: fill.tint ? null : front })}
						>
							{fill.tint ? 'Its own colours' : 'In the front pot’s colour'}
						</Button>
					</div>
				)}
			</div>
		</section>
	);
}
