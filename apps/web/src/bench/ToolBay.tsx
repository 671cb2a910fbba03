import { ArrowsOutCardinalIcon } from '@phosphor-icons/react/dist/csr/ArrowsOutCardinal';
import { CircleHalfIcon } from '@phosphor-icons/react/dist/csr/CircleHalf';
import { DropIcon } from '@phosphor-icons/react/dist/csr/Drop';
import { DropHalfIcon } from '@phosphor-icons/react/dist/csr/DropHalf';
import { EraserIcon } from '@phosphor-icons/react/dist/csr/Eraser';
import { EyedropperIcon } from '@phosphor-icons/react/dist/csr/Eyedropper';
import { GradientIcon } from '@phosphor-icons/react/dist/csr/Gradient';
import { HandPointingIcon } from '@phosphor-icons/react/dist/csr/HandPointing';
import { KnifeIcon } from '@phosphor-icons/react/dist/csr/Knife';
import { MoonIcon } from '@phosphor-icons/react/dist/csr/Moon';
import { PaintBrushIcon } from '@phosphor-icons/react/dist/csr/PaintBrush';
import { PaintBucketIcon } from '@phosphor-icons/react/dist/csr/PaintBucket';
import { PolygonIcon } from '@phosphor-icons/react/dist/csr/Polygon';
import { RainbowIcon } from '@phosphor-icons/react/dist/csr/Rainbow';
import { SelectionIcon } from '@phosphor-icons/react/dist/csr/Selection';
import { ShieldIcon } from '@phosphor-icons/react/dist/csr/Shield';
import { StampIcon } from '@phosphor-icons/react/dist/csr/Stamp';
import { SunIcon } from '@phosphor-icons/react/dist/csr/Sun';
import { setTool } from '../app/commands.ts';
import { setDesk } from '../studio/client.ts';
import { activeLayer, type ToolName, useStudio } from '../studio/store.ts';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dial } from '../ui/Dial.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Popover } from '../ui/Popover.tsx';

const tools: readonly {
	readonly name: ToolName;
	readonly label: string;
	readonly keys?: string;
	readonly Icon: typeof SunIcon;
	readonly hint: string;
}[] = [
	{
		name: 'draw',
		label: 'Draw',
		keys: 'D',
		Icon: PaintBrushIcon,
		hint: 'Draw with the front pot; Shift makes straight strokes',
	},
	{ name: 'wipe', label: 'Wipe', keys: 'W', Icon: EraserIcon, hint: 'Wipe paint off the layer' },
	{ name: 'soften', label: 'Soften', keys: 'S', Icon: DropIcon, hint: 'Soften what lies there, over seams too' },
	{ name: 'smear', label: 'Smear', keys: 'Shift+S', Icon: HandPointingIcon, hint: 'Pull paint along' },
	{
		name: 'scrape',
		label: 'Scrape',
		keys: 'X',
		Icon: KnifeIcon,
		hint: 'Cut through the coats: deeper in the middle of the tip; Shift+X mends',
	},
	{
		name: 'fill',
		label: 'Fill',
		keys: 'F',
		Icon: PaintBucketIcon,
		hint: 'Fill what is selected, else an island and its bleed, or a whole template sheet',
	},
	{ name: 'stamp', label: 'Stamp', keys: 'Shift+D', Icon: StampIcon, hint: 'Press, drag out size and angle, let go' },
	{
		name: 'shape',
		label: 'Shape',
		keys: 'Shift+F',
		Icon: PolygonIcon,
		hint: 'Draw rectangles, ellipses, polygons, lines',
	},
	{
		name: 'gradient',
		label: 'Gradient',
		keys: 'G',
		Icon: GradientIcon,
		hint: 'Drag a gradient between the pots, or along the palette',
	},
	{ name: 'lighten', label: 'Lighten', Icon: SunIcon, hint: 'Lighten what lies there, hue kept' },
	{ name: 'darken', label: 'Darken', Icon: MoonIcon, hint: 'Darken what lies there, hue kept' },
	{
		name: 'contrast',
		label: 'Contrast',
		Icon: CircleHalfIcon,
		hint: 'More contrast, or less where the amount is below 0',
	},
	{ name: 'saturate', label: 'Saturate', Icon: DropHalfIcon, hint: 'More colour, or less where the amount is below 0' },
	{ name: 'hue', label: 'Hue', Icon: RainbowIcon, hint: 'Turn the hue by the amount' },
	{ name: 'sample', label: 'Sample', keys: 'A held', Icon: EyedropperIcon, hint: 'Take a colour into the front pot' },
	{
		name: 'select',
		label: 'Select',
		keys: 'C',
		Icon: SelectionIcon,
		hint: 'Select: every tool keeps to what is selected',
	},
	{
		name: 'move',
		label: 'Move',
		keys: 'M',
		Icon: ArrowsOutCardinalIcon,
		hint: 'Move, scale, turn, flip, skew the layer or what is selected',
	},
	{
		name: 'guard',
		label: 'Guard',
		keys: 'Shift+C',
		Icon: ShieldIcon,
		hint: 'Click islands, parts or faces: paint goes only there',
	},
];

const title = (tool: ToolName, layer: string): string =>
	(
		({
			guard: 'Guard: click what may be painted',
			sample: 'Sample a colour',
			select: 'Select',
			scrape: 'Scrape the coats',
			mend: 'Mend the coats',
		}) as Partial<Record<ToolName, string>>
	)[tool] ?? `${tools.find((each) => each.name === tool)?.label} on “${layer}”`;

/** What the chosen tool can be told beside the tip's dials. */
function ToolOptions() {
	const tool = useStudio((state) => state.tool);
	const { stamp, guard, sampling } = useStudio((state) => state.desk);
	const guardBy = useStudio((state) => state.guardBy);
	const filling = useStudio((state) => state.filling);
	const trigger = 'cut-small shrink-0 px-1.5 text-[12px] hover:bg-bark';
	if (tool === 'stamp')
		return (
			<Popover
				label="How stamps are set"
				className={trigger}
				trigger={stamp.repeat > 1 ? `×${stamp.repeat} ${stamp.way}` : 'Once'}
			>
				<Dial
					label="Repeat"
					unit=""
					least={1}
					most={60}
					value={stamp.repeat}
					usual={1}
					onChange={(repeat) => setDesk({ stamp: { ...stamp, repeat: Math.round(repeat) } })}
				/>
				<div className="my-2">
					<Choice
						label="Where repeats stand"
						value={stamp.way}
						options={[
							['row', 'In a row'],
							['ring', 'In a ring'],
						]}
						onChange={(way) => setDesk({ stamp: { ...stamp, way } })}
					/>
				</div>
				<Check
					label="Takes paint away in its shape"
					value={stamp.takes}
					onChange={(takes) => setDesk({ stamp: { ...stamp, takes } })}
				/>
			</Popover>
		);
	if (tool === 'fill')
		return (
			<Popover
				label="What is filled"
				className={trigger}
				trigger={filling.by === 'island' ? 'Island' : `Region ±${filling.reach}`}
			>
				<Choice
					label="Fill by"
					value={filling.by}
					options={[
						['island', 'Island, or what is selected'],
						['region', 'Region of like colour'],
					]}
					onChange={(by) => useStudio.setState({ filling: { ...filling, by } })}
				/>
				<Dial
					label="Reach"
					unit=""
					least={0}
					most={255}
					value={filling.reach}
					usual={24}
					onChange={(reach) => useStudio.setState({ filling: { ...filling, reach } })}
				/>
			</Popover>
		);
	if (tool === 'scrape' || tool === 'mend')
		return (
			<Choice
				label="Scrape or mend"
				value={tool}
				options={[
					['scrape', 'Scrape'],
					['mend', 'Mend'],
				]}
				onChange={setTool}
			/>
		);
	if (tool === 'sample')
		return (
			<Popover
				label="What is sampled"
				className={trigger}
				trigger={`${sampling.from === 'all' ? 'All layers' : 'Layer'} · ${sampling.size} px`}
			>
				<Choice
					label="Sample from"
					value={sampling.from}
					options={[
						['all', 'All layers'],
						['layer', 'Active layer'],
					]}
					onChange={(from) => setDesk({ sampling: { ...sampling, from } })}
				/>
				<div className="mt-2">
					<Choice
						label="Sample size"
						value={String(sampling.size)}
						options={[
							['1', '1 texel'],
							['3', '3'],
							['5', '5'],
							['11', '11'],
							['31', '31'],
						]}
						onChange={(size) => setDesk({ sampling: { ...sampling, size: Number(size) } })}
					/>
				</div>
			</Popover>
		);
	if (tool === 'guard' || guard)
		return (
			<Popover
				label="The guard"
				className={`${trigger} ${guard ? 'bg-berry-soft text-on-berry' : ''}`}
				trigger={guard ? `Guard ${guard.parts.length + guard.islands.length + guard.faces.length}` : 'Guard'}
			>
				<Choice
					label="A click takes"
					value={guardBy}
					options={[
						['islands', 'An island'],
						['parts', 'A part'],
						['faces', 'A face'],
					]}
					onChange={(next) => useStudio.setState({ guardBy: next })}
				/>
				{guard && (
					<div className="mt-2 flex flex-col gap-2">
						<Choice
							label="Paint goes"
							value={guard.way}
							options={[
								['only', 'Only there'],
								['not', 'Everywhere else'],
							]}
							onChange={(way) => setDesk({ guard: { ...guard, way } })}
						/>
						<button
							type="button"
							className="cut-small self-start bg-bark px-2 py-0.5"
							onClick={() => setDesk({ guard: null })}
						>
							Lift the guard
						</button>
					</div>
				)}
			</Popover>
		);
	return null;
}

export function ToolBay() {
	const tool = useStudio((state) => state.tool);
	const layer = useStudio(activeLayer);
	return (
		<div className="min-w-0 border-r border-rule px-3 py-2">
			<div className="mb-1.5 flex h-[18px] items-center gap-2">
				<h2 className="bay-title min-w-0 flex-1 truncate">{layer ? title(tool, layer.name) : 'No layer chosen'}</h2>
				<ToolOptions />
			</div>
			<div role="radiogroup" aria-label="Tools" className="grid grid-cols-9 gap-1">
				{tools.map(({ name, label, keys, Icon, hint }) => (
					<Hint key={name} text={hint} keys={keys}>
						<button
							type="button"
							role="radio"
							aria-checked={tool === name || (name === 'scrape' && tool === 'mend')}
							aria-label={label}
							onClick={() => setTool(name)}
							className={`cut-small flex h-[46px] min-w-0 flex-col items-center justify-center gap-0.5 ${tool === name || (name === 'scrape' && tool === 'mend') ? 'bg-pine text-on-pine' : 'bg-bark hover:bg-bark-deep'}`}
						>
							<Icon size={18} />
							<span className="text-[10px] leading-3 tracking-tight">{label}</span>
						</button>
					</Hint>
				))}
			</div>
		</div>
	);
}
