import { changeSelection } from '../actions/select.ts';
import { tell } from '../studio/line.ts';
import { activeLayer, activeSheet, type Selecting, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dial } from '../ui/Dial.tsx';

const ways: readonly (readonly [Selecting['way'], string])[] = [
	['rectangle', 'Rectangle'],
	['ellipse', 'Ellipse'],
	['polygon', 'Polygon'],
	['freehand', 'Freehand'],
	['cling', 'Cling'],
	['similar', 'Similar'],
	['tones', 'Tones'],
	['island', 'Island'],
	['part', 'Part'],
	['face', 'Face'],
];
const hints: Readonly<Record<Selecting['way'], string>> = {
	rectangle: 'Drag on either view; Ctrl makes it square, arrow keys turn corners and times',
	ellipse: 'Drag on either view; Ctrl makes it round, arrow keys turn times',
	polygon: 'Click place after place; Enter closes',
	freehand: 'Drag around what is to be selected',
	cling: 'Click along an edge: the line clings to contrast; Enter closes',
	similar: 'Click a colour in either view',
	tones: 'All texels whose tone lies between these',
	island: 'Click an island in either view',
	part: 'Click a part in either view',
	face: 'Click faces in either view; Shift adds',
};

/** How things are selected, and what is done with what is selected. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one bay as it stands, markup with what each control sets.
export function SelectBay() {
	const selecting = useStudio((state) => state.selecting);
	const sheet = useStudio(activeSheet);
	const layer = useStudio(activeLayer);
	const any = useStudio((state) => state.selections.size > 0);
	const set = (change: Partial<Selecting>): void => useStudio.setState({ selecting: { ...selecting, ...change } });
	const { way, by } = selecting;
	const small = '!px-2 !py-0 !text-[12px]';
	const ofLayer = (of: 'shape' | 'mask'): void => {
		if (sheet && layer)
			tell({ say: 'select', sheet: sheet.id, by: { by: 'layer', layer: layer.id, of }, joining: selecting.joining });
	};
	const byTones = (): void => {
		const { low, high, soft, ofLayer: one, joining } = selecting;
		if (sheet)
			tell({
				say: 'select',
				sheet: sheet.id,
				by: { by: 'tones', low, high, soft, layer: one && layer ? layer.id : null },
				joining,
			});
	};
	return (
		<div className="min-w-0 overflow-y-auto border-r border-rule px-3 py-2">
			<Choice tight label="Select by" value={way} options={ways} onChange={(next) => set({ way: next })} />
			<div className="my-1.5 flex flex-wrap items-center gap-x-3 gap-y-1 min-[1150px]:flex-nowrap">
				<div className="shrink-0">
					<Choice
						tight
						label="What is selected next"
						value={selecting.joining}
						options={[
							['replace', 'Anew'],
							['add', 'Add'],
							['take', 'Take'],
							['meet', 'Both'],
						]}
						onChange={(joining) => set({ joining })}
					/>
				</div>
				{way === 'rectangle' && (
					<div className="w-44 shrink-0">
						<Dial
							label="Corners"
							unit=" px"
							least={0}
							most={256}
							value={selecting.radius}
							usual={0}
							onChange={(radius) => set({ radius })}
						/>
					</div>
				)}
				{(way === 'rectangle' || way === 'ellipse') && (
					<div className="w-24 shrink-0">
						<SmallNumber
							label="Times"
							value={selecting.repeat}
							least={1}
							most={64}
							onChange={(repeat) => set({ repeat: Math.round(repeat) })}
						/>
					</div>
				)}
				{way === 'tones' && (
					<>
						{(
							[
								['From', 'low'],
								['To', 'high'],
								['Soft', 'soft'],
							] as const
						).map(([label, key]) => (
							<div key={key} className="w-[84px] shrink-0">
								<SmallNumber
									label={label}
									value={Math.round(selecting[key] * 100)}
									least={0}
									most={100}
									onChange={(v) => set({ [key]: v / 100 })}
								/>
							</div>
						))}
						<Button className={small} onClick={byTones}>
							Select
						</Button>
					</>
				)}
				{way === 'similar' && (
					<>
						<div className="w-40 shrink-0">
							<Dial
								label="Reach"
								unit=""
								least={0}
								most={255}
								value={selecting.reach}
								usual={24}
								onChange={(reach) => set({ reach })}
								hint="How far colours may differ"
							/>
						</div>
						<Check label="Joined" value={selecting.together} onChange={(together) => set({ together })} />
						<Check label="This layer" value={selecting.ofLayer} onChange={(ofLayer_) => set({ ofLayer: ofLayer_ })} />
					</>
				)}
				{way !== 'tones' && (
					<p className="min-w-16 flex-1 truncate text-[12px] text-ash" title={hints[way]}>
						{hints[way]}
					</p>
				)}
			</div>
			<div className="mb-1.5 flex flex-wrap items-center gap-1">
				<Button className={small} onClick={() => changeSelection({ to: 'all' })} title="Ctrl+A">
					All
				</Button>
				<Button className={small} disabled={!any} onClick={() => changeSelection({ to: 'none' })} title="Shift+Ctrl+A">
					None
				</Button>
				<Button className={small} onClick={() => changeSelection({ to: 'inverse' })} title="Shift+Ctrl+I">
					Invert
				</Button>
				<Button
					className={small}
					disabled={!layer}
					onClick={() => ofLayer('shape')}
					title="What the active layer holds"
				>
					Layer
				</Button>
				<Button className={small} disabled={!layer?.mask} onClick={() => ofLayer('mask')} title="What its mask shows">
					Mask
				</Button>
			</div>
			<div className="flex flex-wrap items-center gap-1">
				<div className="mr-2 w-40">
					<Dial label="By" unit=" px" least={1} most={64} value={by} usual={4} onChange={(next) => set({ by: next })} />
				</div>
				<Button className={small} disabled={!any} onClick={() => changeSelection({ to: 'grown', by })}>
					Grow
				</Button>
				<Button className={small} disabled={!any} onClick={() => changeSelection({ to: 'grown', by: -by })}>
					Shrink
				</Button>
				<Button className={small} disabled={!any} onClick={() => changeSelection({ to: 'soft', by })}>
					Soften
				</Button>
				<Button className={small} disabled={!any} onClick={() => changeSelection({ to: 'border', by })}>
					Border
				</Button>
			</div>
		</div>
	);
}

/** A number typed or stepped in little room. */
function SmallNumber({
	label,
	value,
	least,
	most,
	onChange,
}: {
	readonly label: string;
	readonly value: number;
	readonly least: number;
	readonly most: number;
	readonly onChange: (value: number) => void;
}) {
	return (
		<label className="flex items-center gap-1 text-[12px]">
			{label}
			<input
				type="number"
				min={least}
				max={most}
				value={value}
				onChange={(event) => onChange(Math.min(most, Math.max(least, Number(event.target.value))))}
				className="cut-small w-full min-w-0 border border-rule bg-sheet px-1"
			/>
		</label>
	);
}
