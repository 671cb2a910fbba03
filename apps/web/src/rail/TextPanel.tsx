import type { Sheet, TextLayer } from '@eppu/core/document';
import { fontNames } from '@eppu/core/text';
import { toast } from 'sonner';
import { question } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dial } from '../ui/Dial.tsx';
import { type DialRow, Dials } from '../ui/Dials.tsx';
import type { LayerPanelProps } from './layerPanel.ts';
import { PotButton } from './PotButton.tsx';

const rowsFor = ({ width, height }: Sheet): readonly DialRow<TextLayer['text']>[] => [
	['size', 'Size', 4, 1024, 80, ' px', { ratio: true }],
	['spacing', 'Spacing', -0.3, 1, 0, '%', { percent: true }],
	['leading', 'Lines', 0.4, 3, 1, '%', { percent: true }],
	['turn', 'Turn', -180, 180, 0, '°'],
	['x', 'Across', 0, width, width / 2, ' px'],
	['y', 'Down', 0, height, height / 2, ' px'],
];

/** Lettering: its words, font and place. */
export function TextPanel({ sheet, layer, change }: LayerPanelProps<TextLayer>) {
	const { text } = layer;
	const set = (next: Partial<typeof text>): void => change({ text: { ...text, ...next } });
	const hasModel = useStudio((state) => state.models.length > 0);
	const onIsland = async (how: 'stand' | 'run'): Promise<void> => {
		const place = await question<'letter-place'>({ say: 'letter-place', sheet: sheet.id, x: text.x, y: text.y });
		if (!place) {
			toast('The lettering does not stand on an island. Move it onto one first (M).');
			return;
		}
		const { x, y, turn, mirrored, box } = place;
		if (how === 'stand') return set({ x, y, turn, mirrored, along: null, box: box * 0.94 });
		// Along the island: the line through its middle, from end to end.
		const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
		const half = (box * 0.94) / 2;
		set({ mirrored, along: [x - c * half, y - s * half, x + c * half, y + s * half], x, y });
	};
	const small = '!px-2 !py-0 !text-[12px]';
	return (
		<section className="flex flex-col gap-1.5">
			<textarea
				aria-label="Words"
				rows={2}
				maxLength={2000}
				value={text.text}
				onChange={(event) => set({ text: event.target.value })}
				className="cut-small w-full resize-y border border-rule bg-sheet px-2 py-1"
			/>
			<Choice
				label="Font"
				value={text.font}
				options={fontNames.map(({ name, label }) => [name, label] as const)}
				onChange={(font) => set({ font })}
			/>
			<div className="flex items-center gap-2">
				<PotButton color={text.color} label="Colour" onTake={(color) => set({ color })} />
				<Choice
					label="Align"
					value={text.align}
					options={[
						['left', 'Left'],
						['middle', 'Middle'],
						['right', 'Right'],
					]}
					onChange={(align) => set({ align })}
				/>
			</div>
			<Dials of={text} rows={rowsFor(sheet)} onChange={set} />
			{text.box !== null && (
				<Dial
					wide
					label="Box"
					unit=" px"
					least={16}
					most={sheet.width}
					value={Math.round(text.box)}
					usual={sheet.width / 2}
					onChange={(box) => set({ box })}
				/>
			)}
			<div className="flex flex-wrap items-center gap-x-3 gap-y-1">
				<Check
					label="In a box"
					value={text.box !== null}
					onChange={(on) => set({ box: on ? Math.round(sheet.width / 3) : null })}
					hint="Lines break to fit its width"
				/>
				<Check label="Mirrored" value={text.mirrored} onChange={(mirrored) => set({ mirrored })} />
			</div>
			{hasModel && (
				<div className="flex flex-wrap gap-1">
					<Button
						className={small}
						onClick={() => void onIsland('stand')}
						title="In its middle, upright on the model, turned over where the island is mirrored"
					>
						Stand on the island
					</Button>
					<Button className={small} onClick={() => void onIsland('run')}>
						Along the island
					</Button>
				</div>
			)}
			{text.along && (
				<Button className={small} onClick={() => set({ along: null })}>
					Straight again
				</Button>
			)}
		</section>
	);
}
